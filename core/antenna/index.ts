export { directivityDbi, gainBeyondPatternDb } from "./directivity";
export {
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
export { ANTENNA_SHAPES, antennaModelSchema, JOINS, type AntennaModel, type Cut } from "./model";
export { lossAbove30Db } from "./sky";
export { HEARS_DEPTH_DB, hearsWidths } from "./hears";
export { beamGainDb, beamTurnedDeg, type ReceiveBeam } from "./receiveBeam";
export { withShield, type Shield } from "./shield";
export { antennaFigures, groundFootprintM, hearingKm, WIDTH_DEPTHS_DB, type AntennaFigures } from "./sheet";
