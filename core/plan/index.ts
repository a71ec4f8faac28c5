export { checkEdits, type EditProblem } from "./check";
export { endOf, linkEnds, type Demand, type LinkEnd } from "./ends";
export { newPlan } from "./newPlan";
export { removalOf, type Removable, type Removal } from "./removal";
export * from "./schema";
export { emptyRows, mergeEdits, withEdits, worldOf, type Edit, type PlanRows, type World } from "./world";
