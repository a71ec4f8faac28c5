export { simpleChanges } from "./candidates";
export { checksOf, faultsOf } from "./faults";
export { CHECKS, checkOf } from "./checks";
export type { Candidate, Check, Figure, Remedy, Thing } from "./checks/check";
export { byPeopleHurt, findingOf, linksOf, planFindingOf, radioOf, type Fault, type Finding } from "./finding";
export { remediesFor } from "./remedies";
export { ruleBreaks, type RuleBreak } from "./ruleBreaks";
export { sectorAirtime, type SectorAirtime } from "./airtime";
