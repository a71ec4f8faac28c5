export {
  availabilityOf,
  marginForAvailabilityDb,
  multipathAnnualShare,
  rainOutagePercent,
  RAREST_RAIN_PERCENT,
  rainWorstMonthPercent,
  type Availability,
  type FadingPath,
} from "./availability";
export {
  answerLink,
  isServed,
  pathProblem,
  wantedMarginDb,
  weakestMarginDb,
  type LinkAnswer,
  type LinkQuestion,
  type PathAnswer,
} from "./answer";
export { commonChains, linearOf, polarizationLossDb, tapeOf, type Tape } from "./budget";
export {
  checkClearance,
  clearanceConditions,
  clearanceOf,
  obstructionHeightsM,
  SUB_REFRACTIVE_K,
  wantedText,
  WANTED_ZONE_SHARE,
  type Clearance,
  type ClearanceCheck,
  type ClearanceCondition,
  type PathProblem,
  type PathState,
} from "./clearance";
export { tapeLines, type TapeLine } from "./tape";
export { BARE_SHARE, DEEPEST_TREES_M, treesInRay, treesLossDb, type TreesInRay } from "./trees";
export {
  bullingtonLossDb,
  buildingEntryLossDb,
  deltaBullingtonLossDb,
  foliageLossDb,
  thermalNoiseDbm,
} from "../propagation";
