import { EARTH_RADIUS_KM, wavelengthM } from "../propagation";
import { kFactor999 } from "../climate";
import type { Plan } from "../plan";
import { isTrees, type Profile } from "../terrain";

/** Share of the first Fresnel zone that the usual school wants free. */
const WANTED_ZONE_SHARE = 0.6;

export type PathState = "clear" | "tight" | "blocked" | "unknown";

/** Why a path cannot be answered. */
export type PathProblem =
  | { kind: "hole"; count: number; firstKm: number }
  | { kind: "samePlace"; distanceM: number }
  /** A figure came out as no number: the answer is withheld rather than shown. */
  | { kind: "notFinite"; figure: string };

/** How much of the first zone must be free under one bending of the ray. */
interface ClearanceCondition {
  kFactor: number;
  /** Share of the first zone's radius. */
  wantedShare: number;
  /** Share wanted instead where what reaches into that share is extended along the path rather than a single edge. */
  extendedShare?: number;
}

/** One condition held against a path. */
export interface ClearanceCheck extends ClearanceCondition {
  isMet: boolean;
  /** Clearance at the worst point as a share of the first zone; negative where the line itself is cut. */
  worstShare: number;
  worstIndex: number;
  worstKm: number;
  /** Metres by which that point reaches into the wanted share of the zone; 0 when met. */
  worstIntrusionM: number;
  /** The most metres missing anywhere, which need not be where the share is worst, and where; 0 when met. */
  intrusionM: number;
  deepestKm: number;
  /** The first and last samples that lack the wanted share, null when met: between them lies whatever is in the way. */
  lacking: [first: number, last: number] | null;
  /** Least antenna height above ground at either end, the other kept, that frees the wanted share, m. */
  leastHeightAM: number;
  leastHeightBM: number;
}

/** The condition that binds, and what all of them together ask for. */
export interface Clearance extends ClearanceCheck {
  state: "clear" | "tight" | "blocked";
  checks: ClearanceCheck[];
}

/**
 * What a plan's school asks of a path. *60 %*: that share of the first zone at the plan's k. *Two-condition*: the whole
 * first zone at the plan's k, taken for the median, and at the k exceeded for 99.9 % of the worst month, by length: in a
 * temperate climate the line itself over a single obstruction and 30 % over an extended one, in a tropical climate 60 % on
 * paths over 30 km. Source: ITU-R P.530-17 §2.2.2.
 */
export function clearanceConditions(
  plan: Pick<Plan, "clearanceSchool" | "climate" | "kFactor">,
  distanceKm: number,
): ClearanceCondition[] {
  const { kFactor } = plan;
  if (plan.clearanceSchool === "sixtyPercent") return [{ kFactor, wantedShare: WANTED_ZONE_SHARE }];
  const isTropical = plan.climate === "tropical" && distanceKm > TROPICAL_FROM_KM;
  return [
    { kFactor, wantedShare: 1 },
    {
      kFactor: Math.min(kFactor, kFactor999(distanceKm)),
      ...(isTropical ? { wantedShare: WANTED_ZONE_SHARE } : { wantedShare: 0, extendedShare: EXTENDED_ZONE_SHARE }),
    },
  ];
}
const EXTENDED_ZONE_SHARE = 0.3;
/** The text leaves "extended" to the reader: Tejado takes it for more than this share of the path's length. */
const EXTENDED_FROM_PATH_SHARE = 0.1;
/** Shorter paths in the tropics go by the temperate condition. */
const TROPICAL_FROM_KM = 30;
/** The usual strongly sub-refractive case, looked at beside the plan's k whatever the school. */
export const SUB_REFRACTIVE_K = 2 / 3;

/** What a condition wants, in words: "60 %", or "a free line at k = 0.50" where it is not the plan's own k. */
export function wantedText({ wantedShare, kFactor }: ClearanceCondition, plan: Pick<Plan, "kFactor">): string {
  const share = wantedShare === 0 ? "a free line" : `${Math.round(wantedShare * 100)} %`;
  return kFactor === plan.kFactor ? share : `${share} at k = ${kFactor.toFixed(2)}`;
}

/** What the ray must pass over: ground, and what stands on it unless it is trees planned through. Written to `into`. */
export function obstructionHeightsM(
  { groundAmslM, coverHeightM, coverCode }: Profile,
  throughTrees: boolean,
  into: Float64Array = new Float64Array(groundAmslM.length),
): Float64Array {
  const count = into.length;
  for (let i = 0; i < count; i++) into[i] = groundAmslM[i]! + coverHeightM[i]!;
  if (throughTrees) for (let i = 0; i < count; i++) if (isTrees(coverCode[i]!)) into[i] = groundAmslM[i]!;
  return into;
}

/** The straight ray between two ends over what stands between them. */
export interface Ray {
  profile: Profile;
  heightsM: Float64Array;
  aAmslM: number;
  bAmslM: number;
  frequencyGHz: number;
}

/**
 * One condition held against the straight ray over `heightsM` on an earth of its k: worst point first, and the least
 * heights that would meet it. Ends in metres above sea level; profile without holes, three samples or more; with two
 * samples there is nothing between and the path is clear. Sources: ITU-R P.526-15 §2.1, P.530-17 §2.2.
 */
export function checkClearance(
  { profile, heightsM, aAmslM, bAmslM, frequencyGHz }: Ray,
  { kFactor, wantedShare }: ClearanceCondition,
): ClearanceCheck {
  const { distancesKm, groundAmslM } = profile;
  const last = distancesKm.length - 1;
  const pathKm = distancesKm[last]!;
  const curvature = 1000 / (2 * kFactor * EARTH_RADIUS_KM);
  const zoneFactor = (wavelengthM(frequencyGHz) * 1000) / pathKm;
  const slope = (bAmslM - aAmslM) / pathKm;

  let worstShare = Infinity;
  let worstIndex = 0;
  let worstIntrusionM = 0;
  let intrusionM = 0;
  let deepestIndex = 0;
  let firstLacking = -1;
  let lastLacking = -1;
  // Least heights, as heights over the far end's level and distance: a quotient is taken only for a new greatest one.
  let leastA = -Infinity;
  let leastB = -Infinity;
  for (let i = 1; i < last; i++) {
    const fromKm = distancesKm[i]!;
    const toKm = pathKm - fromKm;
    const product = fromKm * toKm;
    const obstacle = heightsM[i]! + curvature * product;
    const radius = Math.sqrt(zoneFactor * product);
    const clearance = aAmslM + slope * fromKm - obstacle;
    if (clearance < worstShare * radius) {
      worstShare = clearance / radius;
      worstIndex = i;
      worstIntrusionM = wantedShare * radius - clearance;
    }
    const wantedM = wantedShare * radius;
    if (clearance < wantedM) {
      if (firstLacking < 0) firstLacking = i;
      lastLacking = i;
      if (wantedM - clearance > intrusionM) {
        intrusionM = wantedM - clearance;
        deepestIndex = i;
      }
    }
    const needed = obstacle + wantedM;
    if (needed - bAmslM > leastA * toKm) leastA = (needed - bAmslM) / toKm;
    if (needed - aAmslM > leastB * fromKm) leastB = (needed - aAmslM) / fromKm;
  }
  const isMet = worstShare >= wantedShare;
  return {
    kFactor,
    wantedShare,
    isMet,
    worstShare,
    worstIndex,
    worstKm: distancesKm[worstIndex]!,
    worstIntrusionM: isMet ? 0 : worstIntrusionM,
    intrusionM: isMet ? 0 : intrusionM,
    deepestKm: distancesKm[isMet ? worstIndex : deepestIndex]!,
    lacking: firstLacking < 0 ? null : [firstLacking, lastLacking],
    leastHeightAM: Math.max(0, bAmslM + leastA * pathKm - groundAmslM[0]!),
    leastHeightBM: Math.max(0, aAmslM + leastB * pathKm - groundAmslM[last]!),
  };
}

/** A condition with the share that this path's obstruction asks for: the extended one's where too much of the path lacks it. */
function conditionFor(ray: Ray, condition: ClearanceCondition): ClearanceCondition {
  const { extendedShare, kFactor, wantedShare } = condition;
  if (extendedShare === undefined) return condition;
  const { profile, heightsM, aAmslM, bAmslM, frequencyGHz } = ray;
  const { distancesKm } = profile;
  const last = distancesKm.length - 1;
  const pathKm = distancesKm[last]!;
  const curvature = 1000 / (2 * kFactor * EARTH_RADIUS_KM);
  const zoneFactor = (wavelengthM(frequencyGHz) * 1000) / pathKm;
  const slope = (bAmslM - aAmslM) / pathKm;
  let lackingKm = 0;
  for (let i = 1; i < last; i++) {
    const fromKm = distancesKm[i]!;
    const product = fromKm * (pathKm - fromKm);
    const clearance = aAmslM + slope * fromKm - heightsM[i]! - curvature * product;
    if (clearance < extendedShare * Math.sqrt(zoneFactor * product))
      lackingKm += (distancesKm[i + 1]! - distancesKm[i - 1]!) / 2;
  }
  const isExtended = lackingKm > EXTENDED_FROM_PATH_SHARE * pathKm;
  return { kFactor, wantedShare: isExtended ? extendedShare : wantedShare };
}

/**
 * Clearance by a school's conditions, the first of which is that of usual weather: blocked where its line is cut, tight
 * where any condition is missed. The one missed by most metres binds.
 */
export function clearanceOf(ray: Ray, conditions: readonly ClearanceCondition[]): Clearance {
  const usual = checkClearance(ray, conditions[0]!);
  const checks = [usual];
  let binding = usual;
  let { leastHeightAM, leastHeightBM } = usual;
  for (let i = 1; i < conditions.length; i++) {
    const check = checkClearance(ray, conditionFor(ray, conditions[i]!));
    checks.push(check);
    if (check.intrusionM > binding.intrusionM) binding = check;
    leastHeightAM = Math.max(leastHeightAM, check.leastHeightAM);
    leastHeightBM = Math.max(leastHeightBM, check.leastHeightBM);
  }
  const state = usual.worstShare < 0 ? "blocked" : binding.isMet ? "clear" : "tight";
  // Field by field: spreading the check would cost as much as looking along the path does.
  return {
    kFactor: binding.kFactor,
    wantedShare: binding.wantedShare,
    isMet: binding.isMet,
    worstShare: binding.worstShare,
    worstIndex: binding.worstIndex,
    worstKm: binding.worstKm,
    worstIntrusionM: binding.worstIntrusionM,
    intrusionM: binding.intrusionM,
    deepestKm: binding.deepestKm,
    lacking: binding.lacking,
    leastHeightAM,
    leastHeightBM,
    state,
    checks,
  };
}

/**
 * "0.31 of the zone clear at 4.20 km, 16.1 m short of 60 %", and where most metres are missing when that is elsewhere. Empty
 * when nothing is missing.
 */
export function shortfallText(clearance: Clearance, plan: Pick<Plan, "kFactor">): string {
  const { worstShare, worstKm, worstIntrusionM, intrusionM, deepestKm, isMet } = clearance;
  if (isMet) return "";
  const wanted = wantedText(clearance, plan);
  const share =
    worstShare < 0
      ? `${(-worstShare).toFixed(2)} of the zone over the line`
      : `${worstShare.toFixed(2)} of the zone clear`;
  const elsewhere = isMostElsewhere(clearance)
    ? `; most is missing at ${deepestKm.toFixed(2)} km, ${intrusionM.toFixed(1)} m`
    : "";
  return `${share} at ${worstKm.toFixed(2)} km, ${worstIntrusionM.toFixed(1)} m short of ${wanted}${elsewhere}`;
}
/** A difference smaller than this is not told as a second place, m. */
const LEAST_TOLD_M = 0.1;

/** Whether noticeably more metres are missing elsewhere than where the share of the zone is worst. */
export function isMostElsewhere({ intrusionM, worstIntrusionM }: ClearanceCheck): boolean {
  return intrusionM - worstIntrusionM >= LEAST_TOLD_M;
}

/** Whether every check would be met if the path's trees were gone. */
export function isClearBut(ray: Ray, checks: readonly ClearanceCheck[]): boolean {
  const { profile, aAmslM, bAmslM, frequencyGHz } = ray;
  const { distancesKm, groundAmslM, coverHeightM, coverCode } = profile;
  const last = distancesKm.length - 1;
  const pathKm = distancesKm[last]!;
  const slope = (bAmslM - aAmslM) / pathKm;
  const zoneFactor = (wavelengthM(frequencyGHz) * 1000) / pathKm;
  for (const { kFactor, wantedShare, lacking } of checks) {
    if (!lacking) continue;
    const curvature = 1000 / (2 * kFactor * EARTH_RADIUS_KM);
    for (let i = lacking[0]; i <= lacking[1]; i++) {
      const fromKm = distancesKm[i]!;
      const product = fromKm * (pathKm - fromKm);
      const stands = coverCode[i] === 0 || isTrees(coverCode[i]!) ? 0 : coverHeightM[i]!;
      const room = aAmslM + slope * fromKm - groundAmslM[i]! - stands - curvature * product;
      if (room < 0 || room * room < wantedShare * wantedShare * zoneFactor * product) return false;
    }
  }
  return true;
}
