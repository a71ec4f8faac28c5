export { combined, NO_SERVER, type Layered, type SharedCells } from "./combine";
export { gridOver, placesIn } from "./mosaic";
export {
  clientEnd,
  LEAST_LOSS_DB,
  LOSS_STEP_DB,
  lossIndex,
  lossTable,
  usualClient,
  type ClientKit,
  type LossTable,
} from "./budget";
export {
  classify,
  COVERAGE_REASONS,
  newCells,
  rateSteps,
  REASON_WORDS,
  weatherTable,
  type CoverageCells,
  type CoverageReason,
  type WeatherTable,
} from "./classes";
export {
  cellPlace,
  gridAround,
  gridExtent,
  readGrid,
  sideOf,
  type CellWindow,
  type CoverageGrid,
  type GridGround,
} from "./grid";
export { freelyHeardKm, reachWords, sectorHeardKm, sectorHearsKm } from "./reach";
export { cellBearings, withPattern, type BeamAt } from "./pattern";
export { learnedNoiseOver, learnedOver, learnedOverSchema, withLearned, type LearnedOver } from "./learned";
export { newLosses, newSwept, sweep, wedgeOf, WEDGES, type CellLosses, type SweepAsk, type SweptLosses } from "./sweep";
export { raysOf } from "./ray";
