export {
  applyChange,
  BrokenReference,
  historySteps,
  readHistory,
  stepHistory,
  type Change,
  type HistoryEntry,
} from "./changes";
export { openStore, storeExists, type Store } from "./database";
export { DataDirectoryBusy } from "./lock";
export { createPlan, deletePlan, listPlans, readPlan } from "./plans";
export { readTerrain, writeTerrain, type Terrain } from "./terrain";
