export { checkEdits, type EditProblem } from "./check";
export { endOf, linkEnds, type LinkEnd } from "./ends";
export * from "./schema";
export {
  emptyRows,
  mergeEdits,
  withEdits,
  worldOf,
  type Edit,
  type PlanRows,
  type RowKind,
  type RowKinds,
  type World,
} from "./world";
