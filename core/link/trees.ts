import { EARTH_RADIUS_KM, foliageLossDb } from "../propagation";
import { coverDensity, isEvergreen, isTrees, type Profile } from "../terrain";

/** What trees do to a ray. */
export interface TreesInRay {
  /** Metres of trees that the ray passes through, thin stands counted by their density. */
  depthM: number;
  /** Share of them that sheds its leaves. */
  leafyShare: number;
  /** What they take, dB; 0 where the signal passes over them. */
  lossDb: number;
  /** The way that loses less: through the trees, or bent over their tops. */
  way: "none" | "through" | "over";
  /** Measured in the ray rather than set by hand. */
  isMeasured: boolean;
}

export const NO_TREES: TreesInRay = { depthM: 0, leafyShare: 1, lossDb: 0, way: "none", isMeasured: true };

/** Depth at which the formula for foliage ends, m: deeper woods are taken for this. */
export const DEEPEST_TREES_M = 400;

/**
 * Share of the loss in leaf, in dB, that bare broadleaf wood keeps. Tejado's own assumption between the fifth less that
 * ITU-R P.833 reports below 2 GHz and the half found at 5 GHz and above.
 */
export const BARE_SHARE = 0.65;

/** Loss of trees in a season, dB: Weissberger's in leaf, of which the part that sheds keeps `BARE_SHARE` when bare. */
export function treesLossDb(
  frequencyGHz: number,
  depthM: number,
  leafyShare: number,
  season: "inLeaf" | "bare",
): number {
  if (depthM <= 0) return 0;
  const inLeafDb = foliageLossDb({
    frequencyGHz: Math.min(120, frequencyGHz),
    depthM: Math.min(DEEPEST_TREES_M, depthM),
  });
  return season === "inLeaf" ? inLeafDb : inLeafDb * (1 - leafyShare * (1 - BARE_SHARE));
}

/**
 * Metres of trees that the straight ray passes through, thin stands counted by their density: every sample at which
 * the ray runs below the tops stands for its stretch of the path. The ray under an earth of `kFactor`; ends in metres above
 * sea level. Trees beside either end are not counted, as everywhere.
 */
export function treesInRay(
  profile: Profile,
  aAmslM: number,
  bAmslM: number,
  kFactor: number,
): { depthM: number; leafyShare: number } {
  const { distancesKm, groundAmslM, coverHeightM, coverCode, coverLengthM } = profile;
  const last = distancesKm.length - 1;
  const pathKm = distancesKm[last]!;
  const curvature = 1000 / (2 * kFactor * EARTH_RADIUS_KM);
  const stepM = profile.distanceM / last;
  let depthM = 0;
  let evergreenM = 0;
  for (let i = 1; i < last; i++) {
    const code = coverCode[i]!;
    if (!isTrees(code)) continue;
    const fromKm = distancesKm[i]!;
    const rayAmslM = aAmslM + ((bAmslM - aAmslM) * fromKm) / pathKm - curvature * fromKm * (pathKm - fromKm);
    const aboveGroundM = rayAmslM - groundAmslM[i]!;
    if (aboveGroundM <= 0 || aboveGroundM >= coverHeightM[i]!) continue;
    const throughM = (coverLengthM ? coverLengthM[i]! : stepM) * coverDensity(code);
    depthM += throughM;
    if (isEvergreen(code)) evergreenM += throughM;
  }
  return { depthM, leafyShare: depthM > 0 ? 1 - evergreenM / depthM : 1 };
}
