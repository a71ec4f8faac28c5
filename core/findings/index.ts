export { quietestChannelMHz } from "./channels";
export { channelRows, type ChannelRow } from "./channelRows";
export { simpleChanges } from "./candidates";
export { checksOf, faultsOf } from "./faults";
export { CHECKS, checkOf } from "./checks";
export type { Candidate, Check, Figure, Remedy, Thing } from "./checks/check";
export { byPeopleHurt, findingOf, linksOf, planFindingOf, radioOf, type Fault, type Finding } from "./finding";
export { antennasFor, powerSparingDbm, powerWithinCapDbm, radioModelsFor, withPowerInCap } from "./kit";
export {
  answering,
  answerOf,
  backboneOf,
  type Backbone,
  fedSites,
  isLinkServed,
  outcomeOf,
  peopleBehind,
  summarize,
  type LinkSummary,
  type Outcome,
  type ProfileSource,
} from "./outcome";
export {
  attachTo,
  attachToSite,
  bestSector,
  DEFAULT_BRIDGE_MHZ,
  proposeAccess,
  proposeBridge,
  proposeSector,
} from "./propose";
export { costOf, remediesFor } from "./remedies";
export { ruleBreaks, type RuleBreak } from "./ruleBreaks";
export { sectorAirtime, type SectorAirtime } from "./airtime";
export { newestMeasurements } from "./measurements";
