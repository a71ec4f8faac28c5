import { EARTH_RADIUS_KM, knifeEdgeLossDb, wavelengthM } from "../propagation";
import type { Plan } from "../plan";
import type { Terrain } from "../terrain";
import { sideOf, type CellWindow, type CoverageGrid } from "./grid";
import { raysOf } from "./ray";
import { nearFrom, RayPoints, raySpacingKm } from "./rayPoints";

/** What a sweep is made for. */
interface SweepAsk {
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
type LookAtGround = (look: (terrain: Terrain) => void) => void;

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
  readonly hullStep: Float64Array;
  readonly hullM: Float64Array;
  /** Points that were the transmitter's horizon once, with their slopes, m a step. */
  readonly pastStep: Float64Array;
  readonly pastSlope: Float64Array;

  constructor({ line }: RayPoints) {
    const points = line.latDeg.length;
    this.inverse = Float64Array.from({ length: points }, (_, step) => 1 / step);
    this.bares = new Float64Array(points);
    this.tops = new Float64Array(points);
    this.unders = new Float64Array(points);
    this.hullStep = new Float64Array(points);
    this.hullM = new Float64Array(points);
    this.pastStep = new Float64Array(points);
    this.pastSlope = new Float64Array(points);
  }
}

/** Levels the heights of a ray's points by the earth's curve. */
function level({ line, count }: RayPoints, { curve }: Sight, { bares, tops, unders }: SweepScratch): void {
  const { groundAmslM, topAmslM, underAmslM } = line;
  for (let i = 0; i < count; i++) {
    const downM = curve * i * i;
    bares[i] = groundAmslM[i]! - downM;
    tops[i] = topAmslM[i]! - downM;
    unders[i] = underAmslM[i]! - downM;
  }
  // A receiver may stand beyond the last point.
  bares[count] = bares[count - 1]!;
}

/** Former horizons that are looked at together first. */
const HORIZONS_TOGETHER = 16;

/** Bullington's v for a receiver at distance `at` and height `rxM`; `slope` is that of the line from the transmitter. */
function vAt(
  { txM, vFactor, curve }: Sight,
  { hullStep, hullM, pastStep, pastSlope }: SweepScratch,
  { back: backs, topM }: RayPoints["near"],
  from: number,
  to: number,
  at: number,
  rxM: number,
  slope: number,
  txSlope: number,
  hull: number,
  past: number,
): number {
  // What stands close before the receiver, seen from both ends.
  let horizon = txSlope;
  let rxSlope = -Infinity;
  let least = Infinity;
  for (let i = from; i < to; i++) {
    const back = backs[i]!;
    const fromTx = at - back;
    const overM = topM[i]! - curve * fromTx * fromTx;
    const txRise = (overM - txM) / fromTx;
    const rxRise = (overM - rxM) / back;
    if (txRise > horizon) horizon = txRise;
    if (rxRise > rxSlope) rxSlope = rxRise;
    const square = ((slope - txRise) * (slope - txRise) * fromTx) / back;
    if (square < least) least = square;
  }
  if (horizon >= slope) {
    // Both horizons meet over the path: v² = 0.002 d (St − Str)(Sr + Str)/λ.
    // Along the hull the slope rises to the tangent's and falls from there on.
    let tangent = -Infinity;
    for (let i = hull - 1; i >= 0; i--) {
      const rise = (hullM[i]! - rxM) / (at - hullStep[i]!);
      if (!(rise > tangent)) break;
      tangent = rise;
    }
    if (tangent > rxSlope) rxSlope = tangent;
    return Math.sqrt(vFactor * at * (horizon - slope) * Math.max(0, rxSlope + slope));
  }
  // In sight: among points once the horizon is the one that reaches farthest into the zone, by (Str − St)² d/(D − d).
  // Horizons only rise: of some together none reaches farther in than the last one's slope would at the first one's place.
  for (let end = past; end > 0; end -= HORIZONS_TOGETHER) {
    const first = end > HORIZONS_TOGETHER ? end - HORIZONS_TOGETHER : 0;
    const most = slope - pastSlope[end - 1]!;
    if (most * most * pastStep[first]! >= least * (at - pastStep[first]!)) continue;
    for (let i = end - 1; i >= first; i--) {
      const step = pastStep[i]!;
      const under = slope - pastSlope[i]!;
      // A quotient is only taken where a product has shown it to be the least so far.
      const product = under * under * step;
      if (product < least * (at - step)) least = product / (at - step);
    }
  }
  return -Math.sqrt(vFactor * at * least);
}

/** The worst point's v once the trees are left out of a receiver's way: of the horizon that is left, and of what stands close before him. */
function underVAt(
  { txM, vFactor, curve }: Sight,
  { back: backs, underM }: RayPoints["near"],
  from: number,
  to: number,
  at: number,
  slope: number,
  underSlope: number,
  underStep: number,
): number {
  const underHorizon = slope - underSlope;
  let least = underStep > 0 ? (underHorizon * underHorizon * underStep) / (at - underStep) : Infinity;
  for (let i = from; i < to; i++) {
    const fromTx = at - backs[i]!;
    const under = slope - (underM[i]! - curve * fromTx * fromTx - txM) / fromTx;
    // The ground itself cuts the line.
    if (under < 0) return 0;
    const square = (under * under * fromTx) / backs[i]!;
    if (square < least) least = square;
  }
  return -Math.sqrt(vFactor * at * least);
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
  txSlope: number,
  hull: number,
  past: number,
  underSlope: number,
  underStep: number,
): void {
  const { txM, stepKm, curve, freeSpaceDb } = sight;
  const { trees, near } = points;
  const nearest = nearFrom(receiver);
  const nearEnd = nearest + near.counts[receiver]!;
  const own = points.cell[receiver]!;
  const at = points.at[receiver]!;
  const rxM = points.groundM[receiver]! + rxHeightM - curve * at * at;
  const slope = (rxM - txM) / at;
  const v = vAt(sight, scratch, near, nearest, nearEnd, at, rxM, slope, txSlope, hull, past);
  let extraDb = v > LEAST_V ? diffractionAt(v, at * stepKm) : 0;
  let throughDb = 0;
  if (v >= 0 && underSlope < slope) {
    const underV = underVAt(sight, near, nearest, nearEnd, at, slope, underSlope, underStep);
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
  into.lossDb[own] = freeSpaceDb + points.decibels[receiver]! + extraDb;
  into.diffractionDb[own] = extraDb;
  into.treesDb[own] = throughDb;
  into.tiltDownDeg[own] = -arcTangent(slope / (1000 * stepKm)) * DEGREES;
}

/** Answers the receivers of one ray, from the nearest outward: what stands before each is taken into hull and horizons first. */
export function sweepRay(points: RayPoints, ask: SweepAsk, into: SweptLosses, scratch: SweepScratch): void {
  const { count, receivers, lineEnds, groundM } = points;
  const txM = points.line.groundAmslM[0]! + ask.txHeightM;
  const sight = sightOf(points.spacingKm, txM, ask);
  level(points, sight, scratch);
  const { inverse, tops, unders, hullStep, hullM, pastStep, pastSlope } = scratch;
  let txSlope = -Infinity;
  let hull = 0;
  // The hull's last point.
  let lastM = 0;
  let lastStep = 0;
  let past = 0;
  // The horizon that is left without trees.
  let underSlope = -Infinity;
  let underStep = 0;
  let grown = 0;
  for (let receiver = 0; receiver < receivers && points.at[receiver]! < count; receiver++) {
    for (const lineEnd = lineEnds[receiver]!; grown + 1 <= lineEnd;) {
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
    const rxGroundM = groundM[receiver]!;
    if (rxGroundM === rxGroundM)
      answerCell(points, ask, sight, scratch, receiver, into, txSlope, hull, past, underSlope, underStep);
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
