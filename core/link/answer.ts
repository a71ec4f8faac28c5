import { pointingOf, tiltDownDeg, type Pointing } from "../aiming";
import { climateOf } from "../climate";
import type { Link, LinkEnd, Plan } from "../plan";
import { deltaBullingtonLossDb } from "../propagation";
import { isTrees, SHORTEST_PATH_M, type Profile } from "../terrain";
import { linearOf, pathLosses, tapeOf, type Tape } from "./budget";
import {
  clearanceConditions,
  clearanceOf,
  isClearBut,
  obstructionHeightsM,
  type Clearance,
  type PathProblem,
} from "./clearance";
import { NO_TREES, treesInRay, treesLossDb, type TreesInRay } from "./trees";

export interface LinkQuestion {
  plan: Plan;
  kind: Link["kind"];
  /** As on the link: null measures the trees in the ray, 0 takes them for solid. */
  foliageDepthM: number | null;
  a: LinkEnd;
  b: LinkEnd;
  /** From a to b. */
  profile: Profile;
}

/** Everything known of a path that can be answered. */
export interface PathAnswer {
  clearance: Clearance;
  aAmslM: number;
  bAmslM: number;
  /** Tilt of the path at either end, below the horizontal. */
  aTiltDownDeg: number;
  bTiltDownDeg: number;
  aPointing: Pointing;
  bPointing: Pointing;
  diffractionDb: number;
  /** Trees that the ray passes through, and the way the signal is taken to go. */
  trees: TreesInRay;
  /** Only trees keep the path from being clear. */
  treesAlone: boolean;
  obstructionsAmslM: Float64Array;
  aToB: Tape;
  bToA: Tape;
}

export interface LinkAnswer {
  distanceM: number;
  /** "unknown" where the path could not be answered; `problem` says why. */
  state: Clearance["state"] | "unknown";
  problem: PathProblem | null;
  path: PathAnswer | null;
}

/** Why a profile allows no answer, or null. A hole is never taken for sea level. */
export function pathProblem(profile: Profile): PathProblem | null {
  if (profile.distanceM < SHORTEST_PATH_M) return { kind: "samePlace", distanceM: profile.distanceM };
  return profile.holes ? { kind: "hole", ...profile.holes } : null;
}

/** Clearance, diffraction and both tapes of one link over a sampled profile. A bad plan gives an answer that says so. */
export function answerLink({ plan, kind, foliageDepthM, a, b, profile }: LinkQuestion): LinkAnswer {
  const { distanceM } = profile;
  const problem = pathProblem(profile);
  if (problem) return { distanceM, state: "unknown", problem, path: null };

  const last = profile.groundAmslM.length - 1;
  const aAmslM = profile.groundAmslM[0]! + a.radio.heightM;
  const bAmslM = profile.groundAmslM[last]! + b.radio.heightM;
  const { frequencyMHz, widthMHz } = a.radio;
  const frequencyGHz = frequencyMHz / 1000;
  const { kFactor } = plan;
  const distanceKm = distanceM / 1000;
  const isPlannedThrough = foliageDepthM !== null && foliageDepthM > 0;
  const obstructionsAmslM = obstructionHeightsM(profile, isPlannedThrough, profile.obstructionsInto);
  const conditions = clearanceConditions(plan, distanceKm);
  const ray = { profile, heightsM: obstructionsAmslM, aAmslM, bAmslM, frequencyGHz };
  const clearance = clearanceOf(ray, conditions);
  const diffraction = (heightsM: Float64Array) =>
    deltaBullingtonLossDb({
      distancesKm: profile.distancesKm,
      heightsM,
      txAmslM: aAmslM,
      rxAmslM: bAmslM,
      frequencyGHz,
      kFactor,
      polarization: linearOf(a.radio.polarization),
    });
  let diffractionDb = diffraction(obstructionsAmslM);
  let trees = NO_TREES;
  let treesAlone = false;
  if (isPlannedThrough) {
    const lossDb = treesLossDb(frequencyGHz, foliageDepthM, 1, plan.season);
    trees = { depthM: foliageDepthM, leafyShare: 1, lossDb, way: "through", isMeasured: false };
  } else {
    // Without its trees the path can only be clear where a tree is the worst of it, and the ray only passes through trees
    // where the line is cut: most paths need neither looked into.
    const isTreeWorst = clearance.state !== "clear" && isTrees(profile.coverCode[clearance.worstIndex]!);
    const found =
      foliageDepthM === null && clearance.state === "blocked" ? treesInRay(profile, aAmslM, bAmslM, kFactor) : null;
    treesAlone = isTreeWorst && isClearBut(ray, conditions);
    if (found && found.depthM > 0) {
      const bareM = obstructionHeightsM(profile, true);
      const lossDb = treesLossDb(frequencyGHz, found.depthM, found.leafyShare, plan.season);
      const underDb = diffraction(bareM);
      const isThrough = lossDb + underDb < diffractionDb;
      trees = { ...found, lossDb: isThrough ? lossDb : 0, way: isThrough ? "through" : "over", isMeasured: true };
      if (isThrough) diffractionDb = underDb;
    }
  }
  const aTiltDownDeg = tiltDownDeg(aAmslM, bAmslM, distanceM, kFactor);
  const bTiltDownDeg = tiltDownDeg(bAmslM, aAmslM, distanceM, kFactor);
  const aPointing = pointingOf(a, profile.azimuthDeg, aTiltDownDeg, plan.pointingErrorDeg);
  const bPointing = pointingOf(b, profile.backAzimuthDeg, bTiltDownDeg, plan.pointingErrorDeg);
  const { rainRate001MmPerH } = climateOf(plan, (profile.from.latDeg + profile.to.latDeg) / 2);
  const path = pathLosses({ distanceKm, diffractionDb, trees, frequencyMHz, widthMHz, rainRate001MmPerH });
  return {
    distanceM,
    state: clearance.state,
    problem: null,
    path: {
      clearance,
      treesAlone,
      aAmslM,
      bAmslM,
      aTiltDownDeg,
      bTiltDownDeg,
      aPointing,
      bPointing,
      diffractionDb,
      trees,
      obstructionsAmslM,
      aToB: tapeOf({
        direction: "aToB",
        plan,
        kind,
        from: a,
        to: b,
        fromPointing: aPointing,
        toPointing: bPointing,
        path,
      }),
      bToA: tapeOf({
        direction: "bToA",
        plan,
        kind,
        from: b,
        to: a,
        fromPointing: bPointing,
        toPointing: aPointing,
        path,
      }),
    },
  };
}

/** Whether the answered link carries traffic with the margin that the plan asks for, both ways. */
export function isServed(plan: Plan, frequencyMHz: number, answer: LinkAnswer): boolean {
  if (!answer.path) return false;
  const wanted = wantedMarginDb(plan, frequencyMHz);
  return [answer.path.aToB, answer.path.bToA].every((tape) => tape.modulation !== null && tape.marginLeftDb >= wanted);
}

/** The margin asked of a link: the plan's below 10 GHz, what must be left in rain above. */
export function wantedMarginDb(plan: Plan, frequencyMHz: number): number {
  return frequencyMHz > 10_000 ? plan.rainMarginDb : plan.marginTargetDb;
}

/** The weaker direction's margin left, dB, or null when there is no answer. */
export function weakestMarginDb(answer: LinkAnswer): number | null {
  return answer.path && Math.min(answer.path.aToB.marginLeftDb, answer.path.bToA.marginLeftDb);
}
