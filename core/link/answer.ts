import { pointingOf, tiltDownDeg, type Pointing } from "../aiming";
import type { Link, LinkEnd, Plan } from "../plan";
import { deltaBullingtonLossDb } from "../propagation";
import { SHORTEST_PATH_M, type Profile } from "../terrain";
import { clearanceOf, obstructionHeightsM, type Clearance, type PathProblem } from "./clearance";
import { linearOf, tapeOf, type Tape } from "./tape";

export interface LinkQuestion {
  plan: Plan;
  kind: Link["kind"];
  foliageDepthM: number;
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
  const obstructionsAmslM = obstructionHeightsM(profile, foliageDepthM > 0);
  const clearance = clearanceOf({ profile, heightsM: obstructionsAmslM, aAmslM, bAmslM, frequencyGHz, kFactor });
  const diffractionDb = deltaBullingtonLossDb({
    distancesKm: profile.distancesKm,
    heightsM: obstructionsAmslM,
    txAmslM: aAmslM,
    rxAmslM: bAmslM,
    frequencyGHz,
    kFactor,
    polarization: linearOf(a.radio.polarization),
  });
  const aTiltDownDeg = tiltDownDeg(aAmslM, bAmslM, distanceM, kFactor);
  const bTiltDownDeg = tiltDownDeg(bAmslM, aAmslM, distanceM, kFactor);
  const aPointing = pointingOf(a, profile.azimuthDeg, aTiltDownDeg);
  const bPointing = pointingOf(b, profile.backAzimuthDeg, bTiltDownDeg);
  const path = { distanceKm: distanceM / 1000, diffractionDb, foliageDepthM, frequencyMHz, widthMHz };
  const aToB = tapeOf({
    direction: "aToB",
    plan,
    kind,
    from: a,
    to: b,
    fromPointing: aPointing,
    toPointing: bPointing,
    path,
  });
  const bToA = tapeOf({
    direction: "bToA",
    plan,
    kind,
    from: b,
    to: a,
    fromPointing: bPointing,
    toPointing: aPointing,
    path,
  });
  return {
    distanceM,
    state: clearance.state,
    problem: null,
    path: {
      clearance,
      aAmslM,
      bAmslM,
      aTiltDownDeg,
      bTiltDownDeg,
      aPointing,
      bPointing,
      diffractionDb,
      obstructionsAmslM,
      aToB,
      bToA,
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
