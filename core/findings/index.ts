export { simpleChanges } from "./linkChanges";
export { countsByStage, STAGE_IDS, type StageId } from "./stages";
export { checksOf, faultsOf } from "./faults";
export { CHECKS, checkOf } from "./checks";
export { byPeopleHurt, findingOf, linksOf, planFindingOf, radioOf, type Fault, type Finding } from "./finding";
export { remediesFor } from "./remedies";
export type { Remedy } from "../trial";
export { ruleBreaks, type RuleBreak } from "./ruleBreaks";
export { mendsOf, type Mend } from "./mends";
