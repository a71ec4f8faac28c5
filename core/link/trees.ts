import { EARTH_RADIUS_KM } from "../propagation";
import { coverDensity, isTrees, type Profile } from "../terrain";

/**
 * Metres of trees that the straight ray passes through, thin stands counted by their density: every sample at which
 * the ray runs below the tops stands for its stretch of the path. The ray under an earth of `kFactor`; ends in metres above
 * sea level. Trees within a cell of either end are not counted, as everywhere.
 */
export function treeDepthM(profile: Profile, aAmslM: number, bAmslM: number, kFactor: number): number {
  const { distancesKm, groundAmslM, coverHeightM, coverCode } = profile;
  const last = distancesKm.length - 1;
  const pathKm = distancesKm[last]!;
  const curvature = 1000 / (2 * kFactor * EARTH_RADIUS_KM);
  const stretchM = profile.distanceM / last;
  let depthM = 0;
  for (let i = 1; i < last; i++) {
    if (!isTrees(coverCode[i]!)) continue;
    const fromKm = distancesKm[i]!;
    const rayAmslM = aAmslM + ((bAmslM - aAmslM) * fromKm) / pathKm - curvature * fromKm * (pathKm - fromKm);
    const aboveGroundM = rayAmslM - groundAmslM[i]!;
    if (aboveGroundM > 0 && aboveGroundM < coverHeightM[i]!) depthM += stretchM * coverDensity(coverCode[i]!);
  }
  return depthM;
}
