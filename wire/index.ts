export { fromColumns, toColumns, type Columns } from "./columns";
export { rowsWire, summariesWire, type ChangeWire, type HeardWire, type PlanWire, type TerrainInfo } from "./plan";
export { profileFromWire, profileToWire, type ProfileWire } from "./profile";
export { BEYOND_TERRAIN, RELIEF_SAMPLES } from "./relief";
export { firstOfEach, shownAfter, shownOf, shownSince, type Shown, type ShownSince } from "./shown";
export { lossesFromWire, lossesToWire } from "./coverage";
export * from "./roles";
export {
  PACK_FORMAT,
  PICTURE_CACHES,
  WRITER_HEADER,
  type FieldAccount,
  type FieldAnswer,
  type FieldEnd,
  type FieldOp,
  type FieldPack,
  type FieldVisit,
} from "./field";
export { packBatch, unpackBatch } from "./watchBatch";
export { stockAskSchema, type StockAsk } from "./stock";
