export { attachList, type Attached, type AttachedList } from "./attach";
export { BANDS, compareBands, type BandName, type BandResult, type BandRow } from "./bands";
export { clientAntennas, leastClientAntenna, type ClientAntennaRow } from "./clientAntennas";
export { ringPlaces, searchMoves, type HeatPoint } from "./moves";
export { legShare, searchRelayPeaks, searchRelaySites } from "./relays";
export { byOutcomeAndCost, tryPatches, WORK_EUR, type TriedOutcome, type WayOut } from "./try";
export {
  byPromise,
  MOST_SEEN,
  viewFromSite,
  viewFromSubscriber,
  viewOfSites,
  tryEach,
  type ToTry,
  type ViewRow,
} from "./views";
export { searchWaysOut, type SearchAsk, type SearchProgress, type SearchResult } from "./waysOut";
