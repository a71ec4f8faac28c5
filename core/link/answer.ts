import { pointingOf, tiltDownDeg, type Pointing } from "../aiming";
import { climateOf } from "../climate";
import { correctionOf } from "../learn";
import type { Demand, Link, LinkEnd, Plan, RequiredRate } from "../plan";
import { deltaBullingtonLossDb, type LinearPolarization } from "../propagation";
import { isTrees, SHORTEST_PATH_M, type Profile } from "../terrain";
import { commonModulations, returnFrequencyMHz } from "../radio";
import { linearOf, pathLosses, tapeOf, type PathLosses, type Tape, type TapeQuestion } from "./budget";
import {
  clearanceConditions,
  clearanceOf,
  isClearBut,
  obstructionHeightsM,
  type Clearance,
  type PathProblem,
} from "./clearance";
import { learnedNoiseAt, type OwnNoise } from "./noise";
import { heardThroughBeam } from "./receiveBeam";
import { inLeafShare, leavesIn, NO_TREES, treesInRay, treesLossDb, woodPlace, type TreesInRay } from "./trees";

interface LinkQuestion {
  plan: Plan;
  kind: Link["kind"];
  /** As on the link: null measures the trees in the ray, 0 takes them for solid. */
  foliageDepthM: number | null;
  a: LinkEnd;
  b: LinkEnd;
  /** From a to b. */
  profile: Profile;
  /** What either end hears of the plan's other transmitters; left out where nobody has looked. */
  heard?: { a: OwnNoise; b: OwnNoise };
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
  /** Why the ends cannot talk whatever the level, in words; empty where they can. */
  mismatches: string[];
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

/** What the losses on any frequency of one path are worked out from. */
interface Crossing {
  plan: Plan;
  profile: Profile;
  aAmslM: number;
  bAmslM: number;
  obstructionsAmslM: Float64Array;
  polarization: LinearPolarization;
  /** Trees to be passed through as set by hand, m; 0 for none. */
  plannedTreesM: number;
  /** Trees measured in a ray that is cut, and the heights without any. */
  measured: ReturnType<typeof treesInRay> | null;
  bareM: Float64Array | null;
  widthMHz: number;
  rainRate001MmPerH: number;
  /** Whether either end stands behind a wall or glass. */
  isIndoors: boolean;
}

function diffractionOver(
  { plan, profile, aAmslM, bAmslM, polarization }: Crossing,
  heightsM: Float64Array,
  frequencyGHz: number,
): number {
  return deltaBullingtonLossDb({
    distancesKm: profile.distancesKm,
    heightsM,
    txAmslM: aAmslM,
    rxAmslM: bAmslM,
    frequencyGHz,
    kFactor: plan.kFactor,
    polarization,
  });
}

/** What the path takes on one frequency: over its trees or through them, whichever loses less. */
function lossesAt(crossing: Crossing, frequencyMHz: number): PathLosses {
  const { plan, profile, obstructionsAmslM, plannedTreesM, measured, bareM, widthMHz, rainRate001MmPerH } = crossing;
  const frequencyGHz = frequencyMHz / 1000;
  let diffractionDb = diffractionOver(crossing, obstructionsAmslM, frequencyGHz);
  let trees = NO_TREES;
  if (plannedTreesM > 0) {
    const lossDb = treesLossDb(frequencyGHz, plannedTreesM, 1, plan.season);
    trees = { depthM: plannedTreesM, leafyShare: 1, woodShare: null, lossDb, way: "through", isMeasured: false };
  } else if (measured && bareM) {
    const lossDb = treesLossDb(frequencyGHz, measured.depthM, measured.leafyShare, plan.season);
    const underDb = diffractionOver(crossing, bareM, frequencyGHz);
    const isThrough = lossDb + underDb < diffractionDb;
    const { depthM, leafyShare, woodShare } = measured;
    trees = {
      depthM,
      leafyShare,
      woodShare,
      lossDb: isThrough ? lossDb : 0,
      way: isThrough ? "through" : "over",
      isMeasured: true,
    };
    if (isThrough) diffractionDb = underDb;
  }
  const distanceKm = profile.distanceM / 1000;
  const learned =
    plan.learned?.isOn && plan.learned.readings > 0
      ? correctionOf(plan.learned, {
          frequencyGHz,
          treesDb: trees.lossDb,
          diffractionDb,
          inLeafShare: inLeafShare(trees.leafyShare, leavesIn(plan.season)),
          wood: woodPlace(trees, profile.from, profile.to),
          isIndoors: crossing.isIndoors,
          latDeg: profile.to.latDeg,
          lonDeg: profile.to.lonDeg,
        })
      : null;
  return pathLosses({ distanceKm, diffractionDb, trees, frequencyMHz, widthMHz, rainRate001MmPerH, learned });
}

/** Clearance, diffraction and both tapes of one link over a sampled profile. A bad plan gives an answer that says so. */
export function answerLink({ plan, kind, foliageDepthM, a, b, profile, heard }: LinkQuestion): LinkAnswer {
  const { distanceM } = profile;
  const problem = pathProblem(profile);
  if (problem) return { distanceM, state: "unknown", problem, path: null };

  const last = profile.groundAmslM.length - 1;
  const aAmslM = profile.groundAmslM[0]! + a.radio.heightM;
  const bAmslM = profile.groundAmslM[last]! + b.radio.heightM;
  const { frequencyMHz, widthMHz } = a.radio;
  const { kFactor } = plan;
  const distanceKm = distanceM / 1000;
  const isPlannedThrough = foliageDepthM !== null && foliageDepthM > 0;
  const obstructionsAmslM = obstructionHeightsM(profile, isPlannedThrough, profile.obstructionsInto);
  const conditions = clearanceConditions(plan, distanceKm);
  const ray = { profile, heightsM: obstructionsAmslM, aAmslM, bAmslM, frequencyGHz: frequencyMHz / 1000 };
  const clearance = clearanceOf(ray, conditions);
  // Without its trees the path can only be clear where a tree is the worst of it, and the ray only passes through trees
  // where the line is cut: most paths need neither looked into.
  const isTreeWorst =
    !isPlannedThrough && clearance.state !== "clear" && isTrees(profile.coverCode[clearance.worstIndex]!);
  const treesAlone = isTreeWorst && isClearBut(ray, clearance.checks);
  const measured =
    foliageDepthM === null && clearance.state === "blocked" ? treesInRay(profile, aAmslM, bAmslM, kFactor) : null;
  const bareM = measured && measured.depthM > 0 ? obstructionHeightsM(profile, true) : null;
  const crossing: Crossing = {
    plan,
    profile,
    aAmslM,
    bAmslM,
    obstructionsAmslM,
    polarization: linearOf(a.radio.polarization),
    plannedTreesM: isPlannedThrough ? foliageDepthM : 0,
    measured,
    bareM,
    widthMHz,
    isIndoors: a.behind !== "none" || b.behind !== "none",
    rainRate001MmPerH: climateOf(plan, (profile.from.latDeg + profile.to.latDeg) / 2).rainRate001MmPerH,
  };
  const go = lossesAt(crossing, frequencyMHz);
  const returnMHz = returnFrequencyMHz(a.model, frequencyMHz);
  const back = returnMHz === frequencyMHz ? go : lossesAt(crossing, returnMHz);
  const aTiltDownDeg = tiltDownDeg(aAmslM, bAmslM, distanceM, kFactor);
  const bTiltDownDeg = tiltDownDeg(bAmslM, aAmslM, distanceM, kFactor);
  const aPointing = pointingOf(a, profile.azimuthDeg, aTiltDownDeg, plan.pointingErrorDeg);
  const bPointing = pointingOf(b, profile.backAzimuthDeg, bTiltDownDeg, plan.pointingErrorDeg);
  const mismatches = mismatchesOf(a, b);
  return withTapes(
    { plan, kind, a, b, heard: heard ?? null, go, back, distanceM },
    {
      clearance,
      treesAlone,
      mismatches,
      aAmslM,
      bAmslM,
      aTiltDownDeg,
      bTiltDownDeg,
      aPointing,
      bPointing,
      diffractionDb: go.diffractionDb,
      trees: go.trees,
    },
  );
}

/** Heights of what stands in the way of an answered path, m above sea, sample by sample: as the answer took them. */
export function obstructionsOf(profile: Profile, { trees }: Pick<PathAnswer, "trees">): Float64Array {
  const isPlannedThrough = trees.way === "through" && !trees.isMeasured;
  return obstructionHeightsM(profile, isPlannedThrough);
}

/** The same path with other noise at its ends: nothing else of it is worked out anew. Null where it has no answer yet. */
export function answerHearing(
  { distanceM, path }: LinkAnswer,
  { plan, kind, a, b, heard }: Omit<LinkQuestion, "profile" | "foliageDepthM">,
): LinkAnswer | null {
  if (!path) return null;
  const { aToB, bToA } = path;
  const [go, back] = [aToB.question.path, bToA.question.path];
  return withTapes({ plan, kind, a, b, heard: heard ?? null, go, back, distanceM }, path);
}

/** What the tapes of both directions are made from. */
interface Ways extends Pick<LinkQuestion, "plan" | "kind" | "a" | "b"> {
  heard: { a: OwnNoise; b: OwnNoise } | null;
  go: PathLosses;
  back: PathLosses;
  distanceM: number;
}

function withTapes(
  { plan, kind, a, b, heard, go, back, distanceM }: Ways,
  known: Omit<PathAnswer, "aToB" | "bToA">,
): LinkAnswer {
  const { aPointing, bPointing } = known;
  const isMismatched = known.mismatches.length > 0;
  // Questions are written out: spreading what both share costs more than either tape.
  const path: PathAnswer = {
    clearance: known.clearance,
    treesAlone: known.treesAlone,
    mismatches: known.mismatches,
    aAmslM: known.aAmslM,
    bAmslM: known.bAmslM,
    aTiltDownDeg: known.aTiltDownDeg,
    bTiltDownDeg: known.bTiltDownDeg,
    aPointing,
    bPointing,
    diffractionDb: known.diffractionDb,
    trees: known.trees,
    aToB: tapeOf({
      plan,
      kind,
      isMismatched,
      direction: "aToB",
      turnedDownDb: 0,
      from: a,
      to: b,
      fromPointing: aPointing,
      toPointing: bPointing,
      path: go,
      heard: heard?.b ?? null,
      learnedNoise: learnedNoiseAt(plan, b, go.frequencyMHz),
    }),
    bToA: underPowerPlan({
      plan,
      kind,
      isMismatched,
      direction: "bToA",
      turnedDownDb: 0,
      from: b,
      to: a,
      fromPointing: bPointing,
      toPointing: aPointing,
      path: back,
      heard: heard ? heardThroughBeam(a, aPointing, heard.a) : null,
      learnedNoise: learnedNoiseAt(plan, a, back.frequencyMHz),
    }),
  };
  const figure = notFiniteFigure(path);
  if (figure) return { distanceM, state: "unknown", problem: { kind: "notFinite", figure }, path: null };
  return { distanceM, state: known.clearance.state, problem: null, path };
}

/** The tape toward an access point, whose power plan turns a customer down who would arrive louder than the others. */
function underPowerPlan(question: TapeQuestion): Tape {
  const tape = tapeOf(question);
  const { from, to, kind } = question;
  const { arriveAtDbm = null } = to.radio;
  if (kind !== "access" || arriveAtDbm === null) return tape;
  const { powerMinDbm, powerStepDb } = from.model;
  const { txPowerDbm } = from.radio;
  const steps = Math.floor((tape.chainLevelDbm - arriveAtDbm) / powerStepDb + SAME_STEP);
  const turnedDownDb = Math.min(steps * powerStepDb, txPowerDbm - powerMinDbm);
  if (!(turnedDownDb > 0)) return tape;
  const radio = { ...from.radio, txPowerDbm: txPowerDbm - turnedDownDb };
  return tapeOf({ ...question, turnedDownDb, from: { ...from, radio } });
}
/** What a division may leave under a whole step. */
const SAME_STEP = 1e-9;

/** Why two ends cannot talk whatever the level. */
function mismatchesOf(a: LinkEnd, b: LinkEnd): string[] {
  const found: string[] = [];
  const say = (text: string) => found.push(text);
  if (a.radio.frequencyMHz !== b.radio.frequencyMHz)
    say(`${a.placeName} stands on ${a.radio.frequencyMHz} MHz, ${b.placeName} on ${b.radio.frequencyMHz} MHz`);
  if (a.radio.widthMHz !== b.radio.widthMHz)
    say(`${a.placeName} uses a channel of ${a.radio.widthMHz} MHz, ${b.placeName} one of ${b.radio.widthMHz} MHz`);
  if (a.model === b.model) return found;
  if (a.model.duplex !== b.model.duplex)
    say(`${a.model.model} sends and listens in ${a.model.duplex}, ${b.model.model} in ${b.model.duplex}`);
  else if (a.model.duplex === "FDD" && a.model.duplexSpacingMHz !== b.model.duplexSpacingMHz)
    say(
      `the frequencies of ${a.model.model} stand ${a.model.duplexSpacingMHz ?? "?"} MHz apart, those of ${b.model.model} ${b.model.duplexSpacingMHz ?? "?"} MHz`,
    );
  if (commonModulations(a.model, b.model).length === 0)
    say(`${a.model.model} and ${b.model.model} have no modulation in common`);
  return found;
}

/** The name of the first figure of an answer that is not finite, or null. Such an answer is shown to nobody. */
function notFiniteFigure({ clearance, aToB, bToA, aTiltDownDeg, bTiltDownDeg }: PathAnswer): string | null {
  const { worstShare, intrusionM, leastHeightAM, leastHeightBM } = clearance;
  const sum = worstShare + intrusionM + leastHeightAM + leastHeightBM + aTiltDownDeg + bTiltDownDeg;
  if (Number.isFinite(sum) && isFiniteTape(aToB) && isFiniteTape(bToA)) return null;
  for (const [name, value] of Object.entries({ worstShare, intrusionM, leastHeightAM, leastHeightBM }))
    if (!Number.isFinite(value)) return name;
  for (const tape of [aToB, bToA])
    for (const [name, value] of [...Object.entries(tape), ...Object.entries(tape.question.path)])
      if (typeof value === "number" && !Number.isFinite(value)) return name;
  return "tilt";
}

function isFiniteTape({
  totalLevelDbm,
  chainLevelDbm,
  snrDb,
  rateMbps,
  marginLeftDb,
  overCapDb,
  overloadDb,
  eirpDbm,
}: Tape) {
  return Number.isFinite(
    totalLevelDbm + chainLevelDbm + snrDb + rateMbps + marginLeftDb + overCapDb + overloadDb + eirpDbm,
  );
}

/** Whether the answered link holds with the margin that the plan asks for, both ways. */
export function holds(plan: Plan, frequencyMHz: number, answer: LinkAnswer): boolean {
  if (!answer.path) return false;
  const wanted = wantedMarginDb(plan, frequencyMHz);
  return [answer.path.aToB, answer.path.bToA].every((tape) => tape.modulation !== null && tape.marginLeftDb >= wanted);
}

/** Whether the rates of an answered link reach what is asked for, both ways. */
export function carriesDemand(demand: Demand | null, answer: LinkAnswer): boolean {
  if (!answer.path) return false;
  if (!demand) return true;
  return answer.path.aToB.rateMbps >= demand.downMbps && answer.path.bToA.rateMbps >= demand.upMbps;
}

/**
 * Served means served: the link holds with its margin, and carries what the customer at its end asks for, or what a bridge must carry for
 * those behind it. A feed's own rate, behind which nobody stands yet, leaves nobody unserved.
 */
export function isServed(plan: Plan, { a, b }: { a: LinkEnd; b: LinkEnd }, answer: LinkAnswer): boolean {
  return holds(plan, a.radio.frequencyMHz, answer) && (isFeedAlone(b.demand) || carriesDemand(b.demand, answer));
}

/** Whether a required rate is that of a feed behind which nobody stands yet. */
export const isFeedAlone = (demand: Demand | RequiredRate | null): boolean =>
  demand !== null && "from" in demand && demand.from === "feed";

/** The margin asked of a link: the plan's below 10 GHz, what must be left in rain above. */
export function wantedMarginDb(plan: Plan, frequencyMHz: number): number {
  return frequencyMHz > 10_000 ? plan.rainMarginDb : plan.marginTargetDb;
}

/** The weaker direction's margin left, dB, or null when there is no answer. */
export function weakestMarginDb(answer: LinkAnswer): number | null {
  return answer.path && Math.min(answer.path.aToB.marginLeftDb, answer.path.bToA.marginLeftDb);
}
