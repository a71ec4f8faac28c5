export {
  BackupElsewhere,
  backUp,
  backUpDaily,
  backupPath,
  listBackups,
  restore,
  RestoreRefused,
  type Backup,
  type Kept,
} from "./backup";
export { besideStamp } from "./beside";
export type { PlanBytes } from "./bytes";
export { readCoverage, writeCoverage } from "./coverage";
export { openStore, type StoreOptions } from "./database";
export { NoRoom, type Db, type Queries, type Store } from "./db";
export { DataDirectoryBusy } from "./lock";
export {
  askToStop,
  beginJob,
  dropOldJobs,
  endAllJobs,
  endJob,
  jobResult,
  keepAlive,
  openJob,
  orphanedJobs,
  pauseJob,
  putJob,
  readJob,
  tellJob,
  type JobRow,
} from "./jobs";
export { historyPeople, readHistory, type HistoryEntry, type HistoryFilter } from "./logbook";
export { readPhoto } from "./photos";
export {
  createPlan,
  deletePlan,
  listPlans,
  readGroundRows,
  readPlan,
  readPlanAt,
  readPlanName,
  readPlanText,
  type PlanAt,
  type PlanText,
} from "./plans";
export {
  CHANGES,
  NoSuchPlan,
  patchesSince,
  planStamp,
  recordChange,
  signedBy,
  stepRecord,
  stepsOf,
  type Author,
  type Change,
  type Outcome,
  type Step,
} from "./record";
export { LostSecret, putSecret, readSecret, sealingKeyPath, secretOf } from "./secrets";
export { flushFolder } from "./flushed";
export * from "./accounts";
export { putStock, readStock, stockOf, type StockField } from "./stock";
export { addFieldNotes, readFieldNotes, readVoice, writeVoice } from "./fieldNotes";
export { dropStaging, readStaging, readStagingNote, writeStaging } from "./staging";
export { dropStrayTiles, dropTiles, frameOf, overviewId, packLayer, readTiles, stageTiles } from "./terrain";
export * from "./watch";
export { dropVersion, listVersions, nameVersion, patchesBetween, readVersion, type Version } from "./versions";
