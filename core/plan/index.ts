export { nestingOf } from "./nesting";
export { untuned } from "./carriers";
export { checkPatches, type PatchProblem } from "./check";
export { endOf, linkEnds, linkName, type LinkEnd } from "./ends";
export { busyOf, customerOf, requiredRates, type Demand, type RequiredRate } from "./required";
export { mountsLeft, radiosBySite } from "./mounts";
export { freeName, newMast, newSite, newSubscriber, toPlaceStep } from "./newPlaces";
export { newPlan } from "./newPlan";
export {
  fieldsSet,
  mergePatches,
  patchBetween,
  patched,
  putPatch,
  removePatch,
  same,
  setPatch,
  type Patch,
} from "./patch";
export {
  againOf,
  conflictsOf,
  inverseOf,
  keptPatch,
  overConflicts,
  withoutConflicts,
  type Conflict,
  type KeptChange,
  type KeptPatch,
} from "./record";
export { PART_KIND_WORDS, PART_KINDS, partSchema, type Part } from "./part";
export { DIAGRAMS, procedureSchema, type Diagram, type Procedure, type Step } from "./procedure";
export { plainIssue } from "./plainIssue";
export { removalOf, type Removable } from "./removal";
export * from "./kinds";
export {
  bareSchema,
  declared,
  fieldOf,
  fieldsOf,
  fieldsWith,
  fieldWord,
  isFixed,
  jsonSchemaOf,
  lackedBefore,
  pointedAt,
  REFERENCES,
  ROW_SCHEMAS,
  silentFields,
  startOf,
  USUAL,
  valueWord,
} from "./facts";
export { emptyRows, linksOn, rowIn, rowsOf, withLinks, withPatches, worldOf, type PlanRows, type World } from "./world";
export { radioPatches, radiosTouched, rowsOfBefore, withCarriers, type RowsWithChannels } from "./tuning";
