export { addBatch, dropBatches, readBatches, type Batch } from "./batches";
export {
  dropOldSeries,
  dropSeries,
  readDays,
  readMonths,
  unrolledDays,
  writeDays,
  writeMonths,
  type PackedDay,
  type PackedMonth,
} from "./series";
export {
  putReceived,
  putToken,
  putWatchSettings,
  readWatch,
  rowsNamed,
  settingsByToken,
  watchedPlans,
  type WatchRow,
} from "./plans";
export { isLookedAt, putLook, readLook } from "./looks";
