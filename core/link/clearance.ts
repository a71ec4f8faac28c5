import { EARTH_RADIUS_KM, wavelengthM } from "../propagation";
import { isTrees, type Profile } from "../terrain";

/** Share of the first Fresnel zone that the usual school wants free. */
export const WANTED_ZONE_SHARE = 0.6;

export type PathState = "clear" | "tight" | "blocked" | "unknown";

/** Why a path cannot be answered. */
export type PathProblem = { kind: "hole"; count: number; firstKm: number } | { kind: "samePlace"; distanceM: number };

export interface Clearance {
  state: "clear" | "tight" | "blocked";
  /** Clearance at the worst point as a share of the first zone; negative where the line itself is cut. */
  worstShare: number;
  worstIndex: number;
  worstKm: number;
  /** Metres by which the worst point reaches into the wanted share of the zone; 0 when clear. */
  intrusionM: number;
  /** Least antenna height above ground at either end, the other kept, that frees the wanted share, m. */
  leastHeightAM: number;
  leastHeightBM: number;
}

/** What the ray must pass over: ground, and what stands on it unless it is trees planned through. */
export function obstructionHeightsM(profile: Profile, throughTrees: boolean): Float64Array {
  const heights = new Float64Array(profile.groundAmslM.length);
  for (let i = 0; i < heights.length; i++) {
    const stands = throughTrees && isTrees(profile.coverCode[i]!) ? 0 : profile.coverHeightM[i]!;
    heights[i] = profile.groundAmslM[i]! + stands;
  }
  return heights;
}

/**
 * Clearance of the straight ray over `heightsM` on an earth of `kFactor`, worst point first, and the least heights that
 * would free 60 % of the first zone. Ends in metres above sea level; profile without holes, three samples or more;
 * with two samples there is nothing between and the path is clear. Sources: ITU-R P.526-15 §2.1, P.530-17 §2.2.
 */
export function clearanceOf({
  profile,
  heightsM,
  aAmslM,
  bAmslM,
  frequencyGHz,
  kFactor,
}: {
  profile: Profile;
  heightsM: Float64Array;
  aAmslM: number;
  bAmslM: number;
  frequencyGHz: number;
  kFactor: number;
}): Clearance {
  const { distancesKm, groundAmslM } = profile;
  const last = distancesKm.length - 1;
  const pathKm = distancesKm[last]!;
  const curvature = 1000 / (2 * kFactor * EARTH_RADIUS_KM);
  const zoneFactor = (wavelengthM(frequencyGHz) * 1000) / pathKm;

  let worstShare = Infinity;
  let worstIndex = 0;
  let intrusionM = 0;
  let leastA = -Infinity;
  let leastB = -Infinity;
  for (let i = 1; i < last; i++) {
    const fromKm = distancesKm[i]!;
    const toKm = pathKm - fromKm;
    const product = fromKm * toKm;
    const share = fromKm / pathKm;
    const obstacle = heightsM[i]! + curvature * product;
    const radius = Math.sqrt(zoneFactor * product);
    const clearance = aAmslM + (bAmslM - aAmslM) * share - obstacle;
    const ratio = clearance / radius;
    if (ratio < worstShare) {
      worstShare = ratio;
      worstIndex = i;
      intrusionM = WANTED_ZONE_SHARE * radius - clearance;
    }
    const needed = obstacle + WANTED_ZONE_SHARE * radius;
    const needA = (needed - bAmslM * share) / (1 - share);
    if (needA > leastA) leastA = needA;
    const needB = (needed - aAmslM * (1 - share)) / share;
    if (needB > leastB) leastB = needB;
  }
  const state = worstShare >= WANTED_ZONE_SHARE ? "clear" : worstShare >= 0 ? "tight" : "blocked";
  return {
    state,
    worstShare,
    worstIndex,
    worstKm: distancesKm[worstIndex]!,
    intrusionM: state === "clear" ? 0 : intrusionM,
    leastHeightAM: Math.max(0, leastA - groundAmslM[0]!),
    leastHeightBM: Math.max(0, leastB - groundAmslM[last]!),
  };
}
