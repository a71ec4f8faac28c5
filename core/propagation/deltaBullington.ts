import { bullingtonLossDb, requireProfile, type ProfileArgs } from "./bullington";
import { sphericalEarthLossDb, type LinearPolarization } from "./sphericalEarth";

/** Heights of the two antennas above the smooth surface fitted to the profile, m. P.526-15 §4.5.2.1 (as P.1812 annex 1 §5.1.6). */
function heightsAboveFittedSurfaceM({ distancesKm, heightsM, txAmslM, rxAmslM }: ProfileArgs): [number, number] {
  const last = distancesKm.length - 1;
  const pathKm = distancesKm[last]!;
  let area = 0;
  let moment = 0;
  let highestM = -Infinity;
  let slopeTx = -Infinity;
  let slopeRx = -Infinity;
  for (let i = 1; i <= last; i++) {
    const here = distancesKm[i]!;
    const before = distancesKm[i - 1]!;
    const height = heightsM[i]!;
    const heightBefore = heightsM[i - 1]!;
    const step = here - before;
    area += step * (height + heightBefore);
    moment += step * (height * (2 * here + before) + heightBefore * (here + 2 * before));
    if (i < last) {
      const above = height - (txAmslM * (pathKm - here) + rxAmslM * here) / pathKm;
      if (above > highestM) highestM = above;
      if (above / here > slopeTx) slopeTx = above / here;
      if (above / (pathKm - here) > slopeRx) slopeRx = above / (pathKm - here);
    }
  }
  let surfaceTxM = (2 * area * pathKm - moment) / pathKm ** 2;
  let surfaceRxM = (moment - area * pathKm) / pathKm ** 2;
  if (highestM > 0) {
    surfaceTxM -= (highestM * slopeTx) / (slopeTx + slopeRx);
    surfaceRxM -= (highestM * slopeRx) / (slopeTx + slopeRx);
  }
  return [txAmslM - Math.min(surfaceTxM, heightsM[0]!), rxAmslM - Math.min(surfaceRxM, heightsM[last]!)];
}

/**
 * Diffraction loss in dB of a general terrain profile: Bullington, corrected by how much a smooth earth of the same
 * fitted heights loses beyond Bullington's own answer for it. Shapes as `bullingtonLossDb`. Source: ITU-R P.526-15 §4.5.2, eqs. 60–63.
 */
export function deltaBullingtonLossDb(args: ProfileArgs & { polarization: LinearPolarization }): number {
  requireProfile(args);
  const actualDb = bullingtonLossDb(args);
  const [txHeightM, rxHeightM] = heightsAboveFittedSurfaceM(args);
  const { distancesKm, frequencyGHz, kFactor, polarization } = args;
  const distanceKm = distancesKm[distancesKm.length - 1]!;
  const smoothDb = sphericalEarthLossDb({
    distanceKm,
    txHeightM: Math.max(0, txHeightM),
    rxHeightM: Math.max(0, rxHeightM),
    frequencyGHz,
    kFactor,
    polarization,
  });
  if (smoothDb === 0) return actualDb;
  const bullingtonSmoothDb = bullingtonLossDb({
    ...args,
    heightsM: new Float64Array(distancesKm.length),
    txAmslM: txHeightM,
    rxAmslM: rxHeightM,
  });
  return actualDb + Math.max(smoothDb - bullingtonSmoothDb, 0);
}
