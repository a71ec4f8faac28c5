export {
  applyChange,
  BrokenReference,
  historySteps,
  newestEntry,
  readHistory,
  stepHistory,
  type Change,
  type HistoryEntry,
} from "./changes";
export { openStore, storeExists, type Store } from "./database";
export { DataDirectoryBusy } from "./lock";
export { readPhoto, writePhoto } from "./photos";
export { createPlan, deletePlan, listPlans, readPlan, type PlanBytes } from "./plans";
export { dropStrayTiles, frameOf, overviewId, packLayer, readTerrain, readTiles, writeTiles } from "./terrain";
export { decodeTile, encodeTile } from "./tileCodec";
