export { channelRows, type ChannelRow } from "./channelRows";
export {
  faultsOf,
  FINDING_KINDS,
  FINDING_TITLES,
  type Fault,
  type Finding,
  type FindingKind,
  type Remedy,
} from "./finding";
export { antennasFor, powerWithinCapDbm, radioModelsFor, withPowerInCap } from "./kit";
export {
  answerOf,
  fedSites,
  outcomeOf,
  peopleBehind,
  summarize,
  type LinkSummary,
  type Outcome,
  type ProfileSource,
} from "./outcome";
export { bestSector, DEFAULT_BRIDGE_MHZ, proposeAccess, proposeBridge } from "./propose";
export { costOf, remediesFor, simpleChanges, type Candidate } from "./remedies";
export { ruleBreaks, type RuleBreak } from "./ruleBreaks";
export { newestMeasurements, reviewPlan, workOut, type Review } from "./review";
