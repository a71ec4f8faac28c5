export { backUp, backupPath, listBackups, restore, RestoreRefused, type Backup } from "./backup";
export {
  applyChange,
  BrokenReference,
  historyPeople,
  historySteps,
  newestEntry,
  readHistory,
  stepHistory,
  type Change,
  type HistoryEntry,
  type HistoryFilter,
} from "./changes";
export { openStore, type Store } from "./database";
export { DataDirectoryBusy } from "./lock";
export { readPhoto, writePhoto } from "./photos";
export { createPlan, deletePlan, listPlans, readPlan, type PlanBytes } from "./plans";
export {
  dropStrayTiles,
  dropTiles,
  frameOf,
  overviewId,
  packLayer,
  readTerrain,
  readTiles,
  writeTiles,
} from "./terrain";
export { decodeTile, encodeTile } from "./tileCodec";
export { dropVersion, editsBetween, listVersions, nameVersion, readVersion, type Version } from "./versions";
