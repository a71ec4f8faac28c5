export { DIAGRAM_WORDS, drawingOf, EXAMPLE_END, type Drawing, type Mark } from "./diagrams";
export { FAMILIES, GENERAL } from "./families";
export { contradictionOf, familiesOf, procedureFor, type StepsOfEnd } from "./forEnd";
export { takesWords, toolWords } from "./words";
export { circleWords, mergeProcedures, minutesOf, toolsOf } from "./merge";
