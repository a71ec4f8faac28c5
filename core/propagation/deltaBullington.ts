import {
  bullingtonOf,
  extremesOf,
  horizonsOfSmooth,
  requireProfile,
  type ProfileArgs,
  type ProfileExtremes,
} from "./bullington";
import { sphericalEarthLossDb, type LinearPolarization } from "./sphericalEarth";

/** Heights of the two antennas above the smooth surface fitted to the profile, m. P.526-15 §4.5.2.1 (as P.1812 annex 1 §5.1.6). */
function heightsAboveFittedSurfaceM(
  { distancesKm, heightsM, txAmslM, rxAmslM }: ProfileArgs,
  { area, moment, highestM, flatSlopeTx, flatSlopeRx }: ProfileExtremes,
): [number, number] {
  const last = distancesKm.length - 1;
  const pathKm = distancesKm[last]!;
  let surfaceTxM = (2 * area * pathKm - moment) / pathKm ** 2;
  let surfaceRxM = (moment - area * pathKm) / pathKm ** 2;
  if (highestM > 0) {
    surfaceTxM -= (highestM * flatSlopeTx) / (flatSlopeTx + flatSlopeRx);
    surfaceRxM -= (highestM * flatSlopeRx) / (flatSlopeTx + flatSlopeRx);
  }
  return [txAmslM - Math.min(surfaceTxM, heightsM[0]!), rxAmslM - Math.min(surfaceRxM, heightsM[last]!)];
}

/**
 * Diffraction loss in dB of a general terrain profile: Bullington, corrected by how much a smooth earth of the same
 * fitted heights loses beyond Bullington's own answer for it. Shapes as `bullingtonLossDb`. Source: ITU-R P.526-15 §4.5.2, eqs. 60–63.
 */
export function deltaBullingtonLossDb(args: ProfileArgs & { polarization: LinearPolarization }): number {
  requireProfile(args);
  const extremes = extremesOf(args);
  const actualDb = bullingtonOf(args, extremes);
  const [txHeightM, rxHeightM] = heightsAboveFittedSurfaceM(args, extremes);
  const { distancesKm, frequencyGHz, kFactor, polarization } = args;
  const smoothDb = sphericalEarthLossDb({
    distanceKm: distancesKm[distancesKm.length - 1]!,
    txHeightM: Math.max(0, txHeightM),
    rxHeightM: Math.max(0, rxHeightM),
    frequencyGHz,
    kFactor,
    polarization,
  });
  if (smoothDb === 0) return actualDb;
  const smooth = { distancesKm, txAmslM: txHeightM, rxAmslM: rxHeightM, frequencyGHz, kFactor };
  return actualDb + Math.max(smoothDb - bullingtonOf(smooth, horizonsOfSmooth(smooth)), 0);
}
