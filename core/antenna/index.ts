export { directivityDbi, gainBeyondPatternDb } from "./directivity";
export {
  bandFlatnessDb,
  beamReachDeg,
  beamwidthDeg,
  chainImbalanceDb,
  cutLossDb,
  firstSideLobe,
  patternLossDb,
  peakGainDbi,
  POLARIZATIONS,
  type Polarization,
} from "./gain";
export { leastLossByCosine, partOf } from "./leastLoss";
export { ANTENNA_SHAPES, antennaModelSchema, cutSchema, JOINS, type AntennaModel, type Cut, type Join } from "./model";
export { lossAbove30Db, MASK_FROM_DEG } from "./sky";
export { HEARS_DEPTH_DB, hearsWidths } from "./hears";
export { beamGainDb, beamTurnedDeg, receiveBeamSchema, type ReceiveBeam } from "./receiveBeam";
export { withShield, type Shield } from "./shield";
export {
  antennaFigures,
  groundFootprintM,
  hearingKm,
  WIDTH_DEPTHS_DB,
  type AntennaFigures,
  type CutFigures,
} from "./sheet";
