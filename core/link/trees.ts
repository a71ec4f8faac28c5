import { signedAngleDeg, type Place } from "../geodesy";
import { EARTH_RADIUS_KM, foliageLossDb } from "../propagation";
import { coverDensity, coverStep, END_ZONE_M, isEvergreen, isTrees, type Profile } from "../terrain";

/** What trees do to a ray. */
export interface TreesInRay {
  /** Metres of trees that the ray passes through, thin stands counted by their density. */
  depthM: number;
  /** Share of them that sheds its leaves. */
  leafyShare: number;
  /** The middle of the wood in which the ray runs farthest, as a share of the path from its first end; null where nothing was measured. */
  woodShare: number | null;
  /** What they take, dB; 0 where the signal passes over them. */
  lossDb: number;
  /** The way that loses less: through the trees, or bent over their tops. */
  way: "none" | "through" | "over";
  /** Measured in the ray rather than set by hand. */
  isMeasured: boolean;
}

export const NO_TREES: TreesInRay = {
  ...{ depthM: 0, leafyShare: 1, woodShare: null, lossDb: 0 },
  ...{ way: "none", isMeasured: true },
};

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

/** Share of the trees in a ray that stands in leaf where so many of all leaves do: evergreens keep theirs. */
export const inLeafShare = (leafyShare: number, leaves: number): number => 1 - leafyShare * (1 - leaves);

/** The leaves that stand in the season that a plan is made for. */
export const leavesIn = (season: "inLeaf" | "bare"): number => (season === "inLeaf" ? 1 : 0);

/** Where the wood stands in which a ray from one place to another runs farthest; null where nobody knows. */
export function woodPlace({ woodShare }: TreesInRay, from: Place, to: Place): Place | null {
  if (woodShare === null) return null;
  return {
    latDeg: from.latDeg + woodShare * (to.latDeg - from.latDeg),
    lonDeg: signedAngleDeg(from.lonDeg + woodShare * signedAngleDeg(to.lonDeg - from.lonDeg)),
  };
}

/** By how much less the trees in a ray take when they are bare than in leaf, dB. */
export function leafDbOf({ way, depthM, leafyShare }: TreesInRay, frequencyGHz: number): number {
  if (way !== "through") return 0;
  const lossDb = (season: "inLeaf" | "bare") => treesLossDb(frequencyGHz, depthM, leafyShare, season);
  return lossDb("inLeaf") - lossDb("bare");
}

/** Adds stretches of trees up, one behind the other along a ray, and finds the wood in which most of them lie: stretches without a gap. */
export class WoodFinder {
  private sinceM = 0;
  private moment = 0;
  private end = NaN;
  private deepestM = 0;
  /** Where the middle of that wood lies, in the measure of the stretches; null before any. */
  middle: number | null = null;

  clear(): void {
    this.sinceM = this.deepestM = this.moment = 0;
    this.end = NaN;
    this.middle = null;
  }

  /** A stretch from one place to another, of so many metres of trees; what lies over or under them counts as a gap. */
  add(from: number, to: number, depthM: number): void {
    if (depthM <= 0) return;
    if (!(from - this.end < SAME_PLACE)) this.sinceM = this.moment = 0;
    this.end = to;
    this.sinceM += depthM;
    this.moment += (depthM * (from + to)) / 2;
    if (this.sinceM <= this.deepestM) return;
    this.deepestM = this.sinceM;
    this.middle = this.moment / this.sinceM;
  }
}
/** Stretches nearer to each other than this are one, in their measure: they differ by rounding. */
const SAME_PLACE = 1e-9;

/**
 * Metres of trees that the straight ray passes through, thin stands counted by their density: on every step the stretch that lies in
 * the trees' own cells and on which the ray runs above the ground and below their tops. The ray under an earth of `kFactor`; ends in
 * metres above sea level. Trees within 30 m of either end are not counted, as everywhere.
 */
export function treesInRay(
  profile: Profile,
  aAmslM: number,
  bAmslM: number,
  kFactor: number,
): Pick<TreesInRay, "depthM" | "leafyShare" | "woodShare"> {
  const { distancesKm, groundAmslM, coverHeightM, coverCode } = profile;
  const last = distancesKm.length - 1;
  const pathKm = distancesKm[last]!;
  const curvature = 1000 / (2 * kFactor * EARTH_RADIUS_KM);
  const zoneKm = Math.min(END_ZONE_M / 1000, pathKm / 2);
  const risePerKm = (bAmslM - aAmslM) / pathKm;
  let depthM = 0;
  let evergreenM = 0;
  const wood = new WoodFinder();
  let isBehindTrees = isTrees(coverCode[0]!);
  for (let i = 1; i <= last; i++) {
    const wasBehindTrees = isBehindTrees;
    isBehindTrees = isTrees(coverCode[i]!);
    if (!isBehindTrees && !wasBehindTrees) continue;
    const fromKm = distancesKm[i - 1]!;
    const toKm = distancesKm[i]!;
    const nearM = aAmslM + risePerKm * fromKm - curvature * fromKm * (pathKm - fromKm) - groundAmslM[i - 1]!;
    const farM = aAmslM + risePerKm * toKm - curvature * toKm * (pathKm - toKm) - groundAmslM[i]!;
    const nearTopM = wasBehindTrees ? coverHeightM[i - 1]! : 0;
    const farTopM = isBehindTrees ? coverHeightM[i]! : 0;
    // Most steps lie wholly in the ground or over the tops.
    const topM = nearTopM > farTopM ? nearTopM : farTopM;
    if ((nearM <= 0 && farM <= 0) || (nearM >= topM && farM >= topM)) continue;
    const stepKm = toKm - fromKm;
    const begin = Math.max(0, (zoneKm - fromKm) / stepKm);
    const end = Math.min(1, (pathKm - zoneKm - fromKm) / stepKm);
    const { leaves, enters } = coverStep(profile, i);
    const near = stretchWithin(nearM, farM, begin, Math.min(end, leaves), nearTopM);
    const far = stretchWithin(nearM, farM, Math.max(begin, enters), end, farTopM);
    const nearDepthM = near === 0 ? 0 : near * stepKm * 1000 * coverDensity(coverCode[i - 1]!);
    const farDepthM = far === 0 ? 0 : far * stepKm * 1000 * coverDensity(coverCode[i]!);
    depthM += nearDepthM + farDepthM;
    wood.add(fromKm, toKm, nearDepthM + farDepthM);
    if (isEvergreen(coverCode[i - 1]!)) evergreenM += nearDepthM;
    if (isEvergreen(coverCode[i]!)) evergreenM += farDepthM;
  }
  return {
    depthM,
    leafyShare: depthM > 0 ? 1 - evergreenM / depthM : 1,
    woodShare: wood.middle === null ? null : wood.middle / pathKm,
  };
}

/**
 * Of a step on which a height over ground goes evenly from `nearM` to `farM`, how much of what lies between the shares `from` and `to`
 * lies over the ground and below `topM`; as a share of the step.
 */
export function stretchWithin(nearM: number, farM: number, from: number, to: number, topM: number): number {
  const riseM = farM - nearM;
  if (riseM === 0) return nearM > 0 && nearM < topM ? Math.max(0, to - from) : 0;
  const atGround = -nearM / riseM;
  const atTop = (topM - nearM) / riseM;
  return Math.max(0, Math.min(to, Math.max(atGround, atTop)) - Math.max(from, Math.min(atGround, atTop)));
}
