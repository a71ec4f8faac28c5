import { EARTH_RADIUS_KM, knifeEdgeLossDb, wavelengthM } from "../propagation";
import type { Plan } from "../plan";
import { isTrees, type Terrain } from "../terrain";
import { sideOf, type CellWindow, type CoverageGrid } from "./grid";
import { raysOf } from "./ray";
import { MOST_NEAR, nearFrom, RayPoints, raySpacingKm } from "./rayPoints";

/** What a sweep is made for. */
export interface SweepAsk {
  /** Antenna heights above ground, m. */
  txHeightM: number;
  rxHeightM: number;
  frequencyGHz: number;
  kFactor: number;
  /** Whether trees have their leaves. */
  season: Plan["season"];
}

/** Losses of every cell of a grid, row by row. */
export interface CellLosses {
  /** Free space and diffraction, dB; NaN where the ground on the way is not known, and in the middle. */
  lossDb: Float32Array;
  /** What ground and cover take, dB: over 0 where the path is not free. */
  diffractionDb: Float32Array;
  /** Angle below the horizontal at which the transmitter sees the cell, degrees. */
  tiltDownDeg: Float32Array;
}

/** The same with what a sweep knows of the trees on the way. */
export interface SweptLosses extends CellLosses {
  /** What of `diffractionDb` trees take through which the signal goes, dB; 0 where it goes over them. */
  treesDb: Float32Array;
  /** Where they take something: what share of them stands in leaf, and how far along the way the wood stands in which it runs farthest, as a share. */
  inLeafShare: Float32Array;
  woodShare: Float32Array;
}

// The knife edge's loss, and what Bullington's construction adds for it, by v in steps of a hundredth.
const LEAST_V = -0.78;
const V_STEPS = 100;
const MOST_V = 400;
const EDGE_DB = new Float64Array((MOST_V + 1) * V_STEPS + 2);
const ADDED_SHARE = new Float64Array(EDGE_DB.length);
for (let i = 0; i < EDGE_DB.length; i++) {
  const edgeDb = knifeEdgeLossDb(LEAST_V + i / V_STEPS);
  EDGE_DB[i] = edgeDb;
  ADDED_SHARE[i] = 1 - Math.exp(-edgeDb / 6);
}

/** What Bullington's construction loses for a v over `LEAST_V` on a path, dB; beyond the table by its formula. */
function diffractionAt(v: number, km: number): number {
  if (v >= MOST_V) return knifeEdgeLossDb(v) + 10 + 0.02 * km;
  const place = (v - LEAST_V) * V_STEPS;
  const i = place | 0;
  const part = place - i;
  const edgeDb = EDGE_DB[i]! + (EDGE_DB[i + 1]! - EDGE_DB[i]!) * part;
  const addedShare = ADDED_SHARE[i]! + (ADDED_SHARE[i + 1]! - ADDED_SHARE[i]!) * part;
  return edgeDb + addedShare * (10 + 0.02 * km);
}

/** Room for the losses of a grid of which nothing is known yet. */
export function newLosses(grid: CoverageGrid): CellLosses {
  const cells = sideOf(grid) ** 2;
  return {
    lossDb: new Float32Array(cells).fill(NaN),
    diffractionDb: new Float32Array(cells).fill(NaN),
    tiltDownDeg: new Float32Array(cells).fill(NaN),
  };
}

/** Room for a sweep of a grid. */
export function newSwept(grid: CoverageGrid): SweptLosses {
  const cells = sideOf(grid) ** 2;
  return {
    ...newLosses(grid),
    treesDb: new Float32Array(cells).fill(NaN),
    inLeafShare: new Float32Array(cells),
    woodShare: new Float32Array(cells),
  };
}

/** Looks at the ground; where a part of it is still packed the look is broken off, and made again once it is unpacked. */
export type LookAtGround = (look: (terrain: Terrain) => void) => void;

/**
 * Losses from the middle of a grid to its cells, by rays `from` to `to` (exclusive) of `raysOf`: each cell is answered on the ray that
 * passes nearest its middle. Diffraction is Bullington's construction over ground and cover (P.526-15 §4.5.1), taken along the ray in
 * one pass: with the earth's curve taken out of the heights once (g = h − 500 d²/(k·a)) neither horizon depends on where the receiver
 * stands; the transmitter's is a running maximum, the receiver's the tangent to the upper hull of the points since then. What stands right
 * before a receiver is read where a full answer reads it, at the even steps of his own path. Ends stand on, and in, what is there.
 * Where trees alone cut the line, the signal goes through them if that loses less, as in a full answer; what the ground under them then
 * takes is its worst point's edge.
 */
export function sweep(
  grid: CoverageGrid,
  ground: LookAtGround,
  ask: SweepAsk,
  into: SweptLosses,
  from = 0,
  to = raysOf(grid),
): void {
  let spacingKm = 0;
  ground((terrain) => (spacingKm = raySpacingKm(terrain, grid)));
  const points = new RayPoints(grid, spacingKm);
  const scratch = new SweepScratch(points);
  for (let ray = from; ray < to; ray++) {
    ground((terrain) => points.read(terrain, ray));
    sweepRay(points, ask, into, scratch);
  }
}

/** Parts in which a coverage is worked out: north, east, south and west of the middle. */
export const WEDGES = 4;

/** The rays of one part, and the cells that they cross. */
export function wedgeOf(grid: CoverageGrid, wedge: number): { from: number; to: number; window: CellWindow } {
  const { rings } = grid;
  const [side, rays] = [sideOf(grid), raysOf(grid) / WEDGES];
  const whole: [number, number] = [0, side];
  const halves: [near: [number, number], far: [number, number]] = [
    [0, rings + 1],
    [rings, side],
  ];
  const half = wedge === 0 || wedge === 3 ? halves[0] : halves[1];
  const window = wedge % 2 === 0 ? { columns: whole, rows: half } : { columns: half, rows: whole };
  return { from: wedge * rays, to: (wedge + 1) * rays, window };
}

/** What all receivers of one ray have in common. Distances are steps, and slopes metres a step. */
interface Sight {
  txM: number;
  stepKm: number;
  /** What the earth's curve takes from a height, m a step squared. */
  curve: number;
  /** Free space over one step, dB. */
  freeSpaceDb: number;
  vFactor: number;
}

function sightOf(stepKm: number, txM: number, { frequencyGHz, kFactor }: SweepAsk): Sight {
  return {
    txM,
    stepKm,
    curve: (500 / (kFactor * EARTH_RADIUS_KM)) * stepKm * stepKm,
    freeSpaceDb: 92.44778 + 20 * Math.log10(frequencyGHz * stepKm),
    vFactor: 0.002 / (wavelengthM(frequencyGHz) * stepKm),
  };
}

/** Of the points of one ray what its receivers ask for. A class, as `RayPoints` is. */
export class SweepScratch {
  /** One divided by so many steps: a division costs several times a product. */
  readonly inverse: Float64Array;
  /** Levelled heights: bare, with what stands there, and with all of that but trees. */
  readonly bares: Float64Array;
  readonly tops: Float64Array;
  readonly unders: Float64Array;
  /** The upper hull of the points since the transmitter's horizon: their steps and levelled heights. */
  readonly hullStep: Int32Array;
  readonly hullM: Float64Array;
  hull = 0;
  /** Points that were the transmitter's horizon once, with their slopes, m a step. */
  readonly pastStep: Int32Array;
  readonly pastSlope: Float64Array;
  past = 0;
  txSlope = -Infinity;
  /** The horizon that is left without trees, and its step. */
  underSlope = -Infinity;
  underStep = 0;
  /** Points that are in the hull. */
  grown = 0;
  /** What stands close before a receiver: how far from the transmitter, how far from him, and its levelled heights. */
  readonly nearAt = new Float64Array(MOST_NEAR);
  readonly nearBack = new Float64Array(MOST_NEAR);
  readonly nearTopM = new Float64Array(MOST_NEAR);
  readonly nearUnderM = new Float64Array(MOST_NEAR);
  nearCount = 0;

  constructor({ line }: RayPoints) {
    const points = line.latDeg.length;
    this.inverse = Float64Array.from({ length: points }, (_, step) => 1 / step);
    this.bares = new Float64Array(points);
    this.tops = new Float64Array(points);
    this.unders = new Float64Array(points);
    this.hullStep = new Int32Array(points);
    this.hullM = new Float64Array(points);
    this.pastStep = new Int32Array(points);
    this.pastSlope = new Float64Array(points);
  }
}

/** Levels the heights of a ray's points by the earth's curve. */
function level({ line, count }: RayPoints, { curve }: Sight, { bares, tops, unders }: SweepScratch): void {
  const { groundAmslM, coverHeightM, coverCode } = line;
  for (let i = 0; i < count; i++) {
    const bareM = groundAmslM[i]! - curve * i * i;
    const coverM = coverHeightM[i]!;
    bares[i] = bareM;
    tops[i] = bareM + coverM;
    unders[i] = coverM > 0 && !isTrees(coverCode[i]!) ? bareM + coverM : bareM;
  }
  // A receiver may stand beyond the last point.
  bares[count] = bares[count - 1]!;
}

/** Takes the points into hull and horizons, up to so many. */
function grow({ txM }: Sight, scratch: SweepScratch, to: number): void {
  const { inverse, tops, unders, hullStep, hullM, pastStep, pastSlope } = scratch;
  let { grown, hull, past, txSlope, underSlope, underStep } = scratch;
  let lastM = hull > 0 ? hullM[hull - 1]! : 0;
  let lastStep = hull > 0 ? hullStep[hull - 1]! : 0;
  while (grown < to) {
    grown++;
    const topM = tops[grown]!;
    const slope = (topM - txM) * inverse[grown]!;
    const under = (unders[grown]! - txM) * inverse[grown]!;
    if (under >= underSlope) {
      underSlope = under;
      underStep = grown;
    }
    if (slope >= txSlope) {
      // A new horizon: what lies before it can be no receiver's.
      txSlope = slope;
      pastStep[past] = grown;
      pastSlope[past++] = slope;
      hull = 0;
    }
    while (hull >= 2) {
      const fromM = hullM[hull - 2]!;
      const fromStep = hullStep[hull - 2]!;
      if ((lastM - fromM) * (grown - fromStep) > (topM - fromM) * (lastStep - fromStep)) break;
      hull--;
      lastM = fromM;
      lastStep = fromStep;
    }
    lastM = topM;
    lastStep = grown;
    hullStep[hull] = grown;
    hullM[hull++] = topM;
  }
  scratch.grown = grown;
  scratch.hull = hull;
  scratch.past = past;
  scratch.txSlope = txSlope;
  scratch.underSlope = underSlope;
  scratch.underStep = underStep;
}

/** Bullington's v for a receiver at `at`, `rxM` high, whom the transmitter sees under `slope`, by all points before him. */
function vAt({ txM, vFactor }: Sight, scratch: SweepScratch, at: number, rxM: number, slope: number): number {
  const { hullStep, hullM, pastStep, pastSlope, nearAt, nearBack, nearTopM, nearCount } = scratch;
  // What stands close before the receiver, seen from both ends.
  let horizon = scratch.txSlope;
  let rxSlope = -Infinity;
  for (let i = 0; i < nearCount; i++) {
    const fromTx = (nearTopM[i]! - txM) / nearAt[i]!;
    const fromRx = (nearTopM[i]! - rxM) / nearBack[i]!;
    if (fromTx > horizon) horizon = fromTx;
    if (fromRx > rxSlope) rxSlope = fromRx;
  }
  if (horizon >= slope) {
    // Both horizons meet over the path: v² = 0.002 d (St − Str)(Sr + Str)/λ.
    // Along the hull the slope rises to the tangent's and falls from there on.
    let tangent = -Infinity;
    for (let i = scratch.hull - 1; i >= 0; i--) {
      const back = (hullM[i]! - rxM) / (at - hullStep[i]!);
      if (!(back > tangent)) break;
      tangent = back;
    }
    if (tangent > rxSlope) rxSlope = tangent;
    return Math.sqrt(vFactor * at * (horizon - slope) * Math.max(0, rxSlope + slope));
  }
  // In sight: among points once the horizon is the one that reaches farthest into the zone, by (Str − St)² d/(D − d).
  let least = Infinity;
  for (let i = 0; i < nearCount; i++) {
    const under = slope - (nearTopM[i]! - txM) / nearAt[i]!;
    const square = (under * under * nearAt[i]!) / nearBack[i]!;
    if (square < least) least = square;
  }
  for (let i = scratch.past - 1; i >= 0; i--) {
    const step = pastStep[i]!;
    const under = slope - pastSlope[i]!;
    const square = (under * under * step) / (at - step);
    if (square < least) least = square;
  }
  return -Math.sqrt(vFactor * at * least);
}

/** The worst point's v once the trees are left out of a receiver's way: of the horizon that is left, and of what stands close before him. */
function underVAt({ txM, vFactor }: Sight, scratch: SweepScratch, at: number, slope: number): number {
  const { underSlope, underStep, nearAt, nearBack, nearUnderM, nearCount } = scratch;
  const underHorizon = slope - underSlope;
  let least = underStep > 0 ? (underHorizon * underHorizon * underStep) / (at - underStep) : Infinity;
  for (let i = 0; i < nearCount; i++) {
    const under = slope - (nearUnderM[i]! - txM) / nearAt[i]!;
    // The ground itself cuts the line.
    if (under < 0) return 0;
    const square = (under * under * nearAt[i]!) / nearBack[i]!;
    if (square < least) least = square;
  }
  return -Math.sqrt(vFactor * at * least);
}

/** Levels what stands close before a receiver. */
function standNear({ near }: RayPoints, { curve }: Sight, scratch: SweepScratch, receiver: number, at: number): void {
  const { nearAt, nearBack, nearTopM, nearUnderM } = scratch;
  const first = nearFrom(receiver);
  const count = near.counts[receiver]!;
  for (let i = 0; i < count; i++) {
    const back = near.back[first + i]!;
    const fromTx = at - back;
    const bareM = near.groundM[first + i]! - curve * fromTx * fromTx;
    const topM = bareM + near.coverM[first + i]!;
    nearAt[i] = fromTx;
    nearBack[i] = back;
    nearTopM[i] = topM;
    nearUnderM[i] = near.isTrees[first + i] === 1 ? bareM : topM;
  }
  scratch.nearCount = count;
}

/**
 * Answers one receiver by what the ray has passed so far. Apart from the loop over them, because V8 compiles this anew when rare cases
 * turn up, and a loop that it compiles anew while it runs stays slower.
 */
function answerCell(
  points: RayPoints,
  { rxHeightM, frequencyGHz, season }: SweepAsk,
  sight: Sight,
  scratch: SweepScratch,
  receiver: number,
  into: SweptLosses,
): void {
  const { txM, stepKm, curve, freeSpaceDb } = sight;
  const { trees } = points;
  const own = points.cell[receiver]!;
  const at = points.at[receiver]!;
  const rxM = points.groundM[receiver]! + rxHeightM - curve * at * at;
  const slope = (rxM - txM) / at;
  standNear(points, sight, scratch, receiver, at);
  const v = vAt(sight, scratch, at, rxM, slope);
  let extraDb = v > LEAST_V ? diffractionAt(v, at * stepKm) : 0;
  let throughDb = 0;
  if (v >= 0 && scratch.underSlope < slope) {
    const underV = underVAt(sight, scratch, at, slope);
    const underDb = underV > LEAST_V ? diffractionAt(underV, at * stepKm) : 0;
    if (underV < 0 && underDb < extraDb) {
      const to = at - points.ownBack[receiver]!;
      const inTreesDb = trees.lossDb(scratch.bares, to, txM, slope, 1000 * stepKm, frequencyGHz, season);
      if (inTreesDb + underDb < extraDb) {
        extraDb = inTreesDb + underDb;
        throughDb = inTreesDb;
      }
      if (throughDb > 0) {
        into.inLeafShare[own] = trees.inLeafShare;
        into.woodShare[own] = trees.woodStep / at;
      }
    }
  }
  into.lossDb[own] = freeSpaceDb + 20 * Math.log10(at) + extraDb;
  into.diffractionDb[own] = extraDb;
  into.treesDb[own] = throughDb;
  into.tiltDownDeg[own] = -arcTangent(slope / (1000 * stepKm)) * DEGREES;
}

/** Answers the receivers of one ray. */
export function sweepRay(points: RayPoints, ask: SweepAsk, into: SweptLosses, scratch: SweepScratch): void {
  const txM = points.line.groundAmslM[0]! + ask.txHeightM;
  const sight = sightOf(points.spacingKm, txM, ask);
  level(points, sight, scratch);
  scratch.grown = scratch.hull = scratch.past = scratch.underStep = 0;
  scratch.txSlope = scratch.underSlope = -Infinity;
  for (let receiver = 0; receiver < points.receivers; receiver++) {
    const at = points.at[receiver]!;
    if (at >= points.count) return;
    if (Number.isNaN(points.groundM[receiver]!)) continue;
    grow(sight, scratch, Math.max(0, Math.floor(points.lineEnds[receiver]!)));
    answerCell(points, ask, sight, scratch, receiver, into);
  }
}
const DEGREES = 180 / Math.PI;

/** Angle of a slope, radians: up to 0.3 by its series, which stays within a thousandth of a degree. */
function arcTangent(slope: number): number {
  if (slope > SERIES_TO || slope < -SERIES_TO) return Math.atan(slope);
  const square = slope * slope;
  return slope * (1 - square * (1 / 3 - square * (1 / 5 - square / 7)));
}
const SERIES_TO = 0.3;
