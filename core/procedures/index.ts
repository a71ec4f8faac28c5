export { DIAGRAM_WORDS, drawingOf, EXAMPLE_END, type Drawing, type DrawnEnd, type Mark } from "./diagrams";
export { FAMILIES, familyOf, GENERAL } from "./families";
export { contradictionOf, familiesOf, procedureFor, type StepsOfEnd } from "./forEnd";
export { takesWords, toolWords } from "./words";
export { circleWords, mergeProcedures, minutesOf, toolsOf, type Merged, type Where } from "./merge";
