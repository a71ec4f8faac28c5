export { FAMILIES, familyOf } from "./families";
export { familiesOf, procedureFor } from "./forEnd";
export { GENERAL } from "./general";
export { circleWords, mergeProcedures, minutesOf, toolsOf, type Merged, type Where } from "./merge";
export { procedureSchema, stepSchema, type Procedure, type Step } from "./model";
