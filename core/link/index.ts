export {
  availabilityOf,
  marginForAvailabilityDb,
  multipathAnnualShare,
  rainOutagePercent,
  rainWorstMonthPercent,
  type Bound,
  type FadingPath,
} from "./availability";
export {
  answerLink,
  carriesDemand,
  holds,
  isServed,
  pathProblem,
  wantedMarginDb,
  weakestMarginDb,
  type LinkAnswer,
  type PathAnswer,
  answerHearing,
  obstructionsOf,
} from "./answer";
export {
  chainSplitDb,
  commonChains,
  linearOf,
  pathLosses,
  polarizationLossDb,
  tapeOf,
  wallDb,
  type Tape,
  RAIN_COUNTS_FROM_GHZ,
} from "./budget";
export { keepOneTime, receivedShare, type Timed } from "./receiving";
export { heardName, learnedNoiseAt, noiseRise, raisedByDb, type HeardRadio, type OwnNoise } from "./noise";
export { beamOfHeardDb, beamTowardDb, heardThroughBeam, receiveBeamOf } from "./receiveBeam";
export { fadingPathOf, steadyMbps } from "./steady";
export { pathLeaves, type PathLeaves } from "./pathLeaves";
export { learnedCaseOf, spareDb } from "./spare";
export { noiseSteps, rateUnder, type NoiseStep } from "./noiseSteps";
export {
  checkClearance,
  clearanceConditions,
  clearanceOf,
  isMostElsewhere,
  obstructionHeightsM,
  shortfallText,
  SUB_REFRACTIVE_K,
  wantedText,
  type ClearanceCheck,
  type PathState,
} from "./clearance";
export { tapeWriter, type TapeLine } from "./tapeWriter";
export { chainWords, tapeLines } from "./tape";
export {
  BARE_SHARE,
  DEEPEST_TREES_M,
  inLeafShare,
  leavesIn,
  NO_TREES,
  stretchWithin,
  treesInRay,
  treesLossDb,
  WoodFinder,
  woodPlace,
} from "./trees";
export {
  bullingtonLossDb,
  buildingEntryLossDb,
  deltaBullingtonLossDb,
  foliageLossDb,
  thermalNoiseDbm,
} from "../propagation";
