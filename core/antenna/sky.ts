import { lossAlong, type Polarization } from "./gain";
import type { AntennaModel } from "./model";

/** Elevation above which sky masks count, degrees. */
const MASK_FROM_DEG = 30;

/**
 * Loss below the peak of the strongest direction above 30° elevation, dB: the whole pattern is searched, all round and up to the
 * zenith. 0 where the beam itself looks so high. The pattern is the sum of its cuts, which run straight between their rows, so that the
 * least of a cut lies on a row or at an end of the range that is searched.
 */
export function lossAbove30Db(
  antenna: AntennaModel,
  polarization: Polarization,
  mechanicalTiltDownDeg: number,
): number {
  const { azimuthCuts, elevationCuts, electricalTiltDownDeg, frontToBackDb } = antenna;
  const rows = [...new Set([...azimuthCuts.H.anglesDeg, ...azimuthCuts.V.anglesDeg])];
  const elevationRows = [...new Set([...elevationCuts.H.anglesDeg, ...elevationCuts.V.anglesDeg])];
  // A tilted bracket lifts what lies behind, so the least of the sky differs all round; a level one has one answer.
  const around = mechanicalTiltDownDeg === 0 ? [0] : rows;
  let least = Infinity;
  for (const azimuthDeg of around) {
    const sidewaysDb = lossAlong(azimuthCuts, polarization, azimuthDeg);
    if (sidewaysDb >= least) continue;
    const horizonDeg = mechanicalTiltDownDeg * Math.cos((azimuthDeg * Math.PI) / 180) + electricalTiltDownDeg;
    const [low, high] = [horizonDeg + MASK_FROM_DEG, horizonDeg + 90];
    const at = (angleDeg: number) => lossAlong(elevationCuts, polarization, angleDeg);
    least = Math.min(least, sidewaysDb + at(low), sidewaysDb + at(high));
    for (const angleDeg of elevationRows)
      if (angleDeg > low && angleDeg < high) least = Math.min(least, sidewaysDb + at(angleDeg));
  }
  return Math.min(least, frontToBackDb);
}
