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
  findToken,
  putLook,
  putReceived,
  putToken,
  putWatchSettings,
  readWatch,
  rowsNamed,
  watchedPlans,
  type WatchRow,
} from "./plans";
