export { DIAGRAM_WORDS, drawingOf, EXAMPLE_END, type Drawing, type DrawnEnd, type Mark } from "./diagrams";
export { FAMILIES, familyOf } from "./families";
export { contradictionOf, familiesOf, procedureFor, type StepsOfEnd } from "./forEnd";
export { takesWords, toolWords } from "./words";
export { GENERAL } from "./general";
export { circleWords, mergeProcedures, minutesOf, toolsOf, type Merged, type Where } from "./merge";
