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
