export {
  availabilityOf,
  marginForAvailabilityDb,
  multipathAnnualShare,
  rainOutagePercent,
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
export {
  clearanceOf,
  obstructionHeightsM,
  WANTED_ZONE_SHARE,
  type Clearance,
  type PathProblem,
  type PathState,
} from "./clearance";
export { treeDepthM } from "./trees";
export { commonChains, linearOf, polarizationLossDb, tapeOf, type Tape, type TapeLine } from "./tape";
export {
  bullingtonLossDb,
  buildingEntryLossDb,
  deltaBullingtonLossDb,
  foliageLossDb,
  thermalNoiseDbm,
} from "../propagation";
