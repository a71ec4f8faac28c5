export { combined, NO_SERVER, type SharedCells } from "./combine";
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
} from "./classes";
export { cellAt, cellPlace, gridAround, gridExtent, sideOf, type CellWindow, type CoverageGrid } from "./grid";
export { freelyHeardKm, reachWords, sectorHeardKm, sectorHearsKm } from "./reach";
export { customerHears, downRise, heardInCells, HeardField, sectorRiseDb } from "./noise";
export { cellBearings, withPattern } from "./pattern";
export { learnedNoiseOver, learnedOver, learnedOverSchema, withLearned, type LearnedOver } from "./learned";
export { RayPoints, raySpacingKm } from "./rayPoints";
export { newLosses, newSwept, sweep, sweepRay, SweepScratch, wedgeOf, WEDGES, type CellLosses } from "./sweep";
export { raysOf } from "./ray";
