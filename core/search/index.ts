export { attachList, type AttachedList } from "./attach";
export { BANDS, compareBands, type BandName, type BandRow } from "./bands";
export { clientAntennas, leastClientAntenna, type ClientAntennaRow } from "./clientAntennas";
export { ringPlaces, searchMoves, type HeatPoint } from "./moves";
export { legShare, searchRelayPeaks } from "./relays";
export { WORK_EUR, type WayOut } from "./try";
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
