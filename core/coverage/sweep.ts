import { EARTH_RADIUS_KM, knifeEdgeLossDb, wavelengthM } from "../propagation";
import type { Plan } from "../plan";
import { sideOf, type CellWindow, type CoverageGrid, type GridGround } from "./grid";
import { RayScratch, rayOf, raysOf, readRay, ROUNDING, ZONE_KM } from "./ray";

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

/**
 * Losses from the middle of a grid to its cells, by rays `from` to `to` (exclusive) of `raysOf`: each cell is answered on the ray that
 * passes nearest its middle. Diffraction is Bullington's construction over ground and cover (P.526-15 §4.5.1), taken along the ray in
 * one pass: with the earth's curve taken out of the heights once (g = h − 500 d²/(k·a)) neither horizon depends on where the receiver
 * stands; the transmitter's is a running maximum, the receiver's the tangent to the upper hull of the points since then. A cell's own cover
 * and what stands within 30 m of it are not in its way. Where trees alone cut the line, the signal goes through them if that loses less,
 * as in a full answer; what the ground under them then takes is its worst point's edge.
 */
export function sweep(
  grid: CoverageGrid,
  ground: GridGround,
  ask: SweepAsk,
  into: SweptLosses,
  from = 0,
  to = raysOf(grid),
): void {
  const { rings } = grid;
  const scratch = new RayScratch(rings);
  for (let ray = from; ray < to; ray++) sweepRay(grid, ground, ask, into, ray, scratch);
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

/** What all cells of one ray have in common. Distances are steps, and slopes metres a step. */
interface Sight {
  txM: number;
  stepKm: number;
  /** What the earth's curve takes from a height, m a step squared. */
  curve: number;
  /** Free space over one step, dB. */
  freeSpaceDb: number;
  vFactor: number;
  /** As on a full answer's samples, a cell apart: points this near behind a receiver are bare, the next beyond has its cover. */
  coverBack: number;
  firstCoverKm: number;
  /** The cell that lies across the edge of a receiver's zone, and how far back that begins and the cell ends, steps; all 0 where none does. */
  zoneBack: number;
  zoneFrom: number;
  zoneTo: number;
  /** Points this near behind are kept out of the hull: what is in the way of them depends on the receiver. */
  heldBack: number;
}

function sightOf(
  { cellNorthKm, cellEastKm }: CoverageGrid,
  stepKm: number,
  txM: number,
  { frequencyGHz, kFactor }: SweepAsk,
): Sight {
  const cellKm = Math.min(cellNorthKm, cellEastKm);
  const firstCoverKm = (Math.floor(ZONE_KM / cellKm + ROUNDING) + 1) * cellKm;
  const coverBack = Math.max(1, Math.round(firstCoverKm / stepKm)) | 0;
  const zoneSteps = ZONE_KM / stepKm;
  const acrossEdge = Math.round(zoneSteps) | 0;
  const isAcross = acrossEdge > 0 && Math.abs(zoneSteps - acrossEdge) < 0.5 - ROUNDING;
  return {
    txM,
    stepKm,
    curve: (500 / (kFactor * EARTH_RADIUS_KM)) * stepKm * stepKm,
    freeSpaceDb: 92.44778 + 20 * Math.log10(frequencyGHz * stepKm),
    vFactor: 0.002 / (wavelengthM(frequencyGHz) * stepKm),
    coverBack,
    firstCoverKm,
    zoneBack: isAcross ? acrossEdge : 0,
    zoneFrom: isAcross ? zoneSteps : 0,
    zoneTo: isAcross ? acrossEdge + 0.5 : 0,
    heldBack: Math.max(coverBack, Math.ceil(firstCoverKm / cellKm - ROUNDING)) | 0,
  };
}

/**
 * Bullington's v for a receiver at `rxM`, whom the transmitter sees under `slope`, by the points behind: the transmitter's horizon so
 * far, the hull since then, and `past` former horizons.
 */
function vAt(
  { txM, vFactor, coverBack, heldBack }: Sight,
  { inverse, bares, tops, near, hullStep, hullM, pastStep, pastSlope }: RayScratch,
  step: number,
  rxM: number,
  slope: number,
  txSlope: number,
  hull: number,
  past: number,
): number {
  // What stands close before the receiver, seen from both ends.
  let horizon = txSlope;
  let rxSlope = -Infinity;
  for (let back = 1; back <= heldBack && back < step; back++) {
    const overM = back > coverBack ? tops[step - back]! : bares[step - back]!;
    const fromTx = (overM - txM) * inverse[step - back]!;
    const fromRx = (overM - rxM) * inverse[back]!;
    if (fromTx > horizon) horizon = fromTx;
    if (fromRx > rxSlope) rxSlope = fromRx;
  }
  for (let i = 0; i < near.count; i++) {
    const fromTx = (near.topM[i]! - txM) / (step - near.back[i]!);
    const fromRx = (near.topM[i]! - rxM) / near.back[i]!;
    if (fromTx > horizon) horizon = fromTx;
    if (fromRx > rxSlope) rxSlope = fromRx;
  }
  if (horizon >= slope) {
    // Both horizons meet over the path: v² = 0.002 d (St − Str)(Sr + Str)/λ.
    // Along the hull the slope rises to the tangent's and falls from there on.
    let tangent = -Infinity;
    for (let i = hull - 1; i >= 0; i--) {
      const back = (hullM[i]! - rxM) * inverse[step - hullStep[i]!]!;
      if (!(back > tangent)) break;
      tangent = back;
    }
    if (tangent > rxSlope) rxSlope = tangent;
    return Math.sqrt(vFactor * step * (horizon - slope) * Math.max(0, rxSlope + slope));
  }
  // In sight: among points once the horizon is the one that reaches farthest into the zone, by (Str − St)² d/(D − d).
  let least = Infinity;
  for (let back = 1; back <= heldBack && back < step; back++) {
    const at = step - back;
    const overM = back >= coverBack ? tops[at]! : bares[at]!;
    const under = slope - (overM - txM) * inverse[at]!;
    const square = under * under * at * inverse[back]!;
    if (square < least) least = square;
  }
  for (let i = 0; i < near.count; i++) {
    const at = step - near.back[i]!;
    const under = slope - (near.topM[i]! - txM) / at;
    const square = (under * under * at) / near.back[i]!;
    if (square < least) least = square;
  }
  for (let i = past - 1; i >= 0; i--) {
    const at = pastStep[i]!;
    const under = slope - pastSlope[i]!;
    const square = under * under * at * inverse[step - at]!;
    if (square < least) least = square;
  }
  return -Math.sqrt(vFactor * step * least);
}

/** The worst point's v once the trees are left out of a receiver's way: of the horizon that is left, and of what stands close before him. */
function underVAt(
  { txM, vFactor, coverBack, heldBack }: Sight,
  { inverse, bares, unders, near }: RayScratch,
  step: number,
  slope: number,
  underSlope: number,
  underStep: number,
): number {
  let under = slope - underSlope;
  let least = underStep > 0 ? under * under * underStep * inverse[step - underStep]! : Infinity;
  for (let back = 1; back <= heldBack && back < step; back++) {
    const at = step - back;
    const overM = back >= coverBack ? unders[at]! : bares[at]!;
    under = slope - (overM - txM) * inverse[at]!;
    // The ground itself cuts the line.
    if (under < 0) return 0;
    const square = under * under * at * inverse[back]!;
    if (square < least) least = square;
  }
  for (let i = 0; i < near.count; i++) {
    const at = step - near.back[i]!;
    under = slope - (near.underM[i]! - txM) / at;
    if (under < 0) return 0;
    const square = (under * under * at) / near.back[i]!;
    if (square < least) least = square;
  }
  return -Math.sqrt(vFactor * step * least);
}

/** Puts down what stands across the edge of a receiver's zone, and in the first cell beyond, where a full answer meets it. */
function standNear(
  { stepKm, coverBack, firstCoverKm, zoneBack, zoneFrom, zoneTo }: Sight,
  { bares, tops, unders, near }: RayScratch,
  step: number,
): void {
  near.count = 0;
  if (step <= coverBack || step * stepKm <= firstCoverKm + ZONE_KM) return;
  const zoneCell = step - zoneBack;
  if (zoneBack > 0 && tops[zoneCell]! > bares[zoneCell]!) {
    near.add(zoneFrom, tops[zoneCell]!, unders[zoneCell]!);
    near.add(zoneTo, tops[zoneCell]!, unders[zoneCell]!);
  }
  const firstCell = step - coverBack;
  if (tops[firstCell]! > bares[firstCell]!) near.add(firstCoverKm / stepKm, tops[firstCell]!, unders[firstCell]!);
}

/**
 * Answers one cell: `own` at a step of its ray, by what the ray has passed so far. Apart from the loop over the steps, because V8 compiles
 * this anew when rare cases turn up, and a loop that it compiles anew while it runs stays slower.
 */
function answerCell(
  into: SweptLosses,
  groundM: number,
  own: number,
  { rxHeightM, frequencyGHz, season }: SweepAsk,
  sight: Sight,
  scratch: RayScratch,
  step: number,
  txSlope: number,
  hull: number,
  past: number,
  underSlope: number,
  underStep: number,
): void {
  const { txM, stepKm, curve, freeSpaceDb } = sight;
  const { decibels, inverse, bares, trees } = scratch;
  const slope = (groundM + rxHeightM - curve * step * step - txM) * inverse[step]!;
  const rxM = txM + slope * step;
  standNear(sight, scratch, step);
  const v = vAt(sight, scratch, step, rxM, slope, txSlope, hull, past);
  let extraDb = v > LEAST_V ? diffractionAt(v, step * stepKm) : 0;
  let throughDb = 0;
  if (v >= 0 && trees.count > 0 && underSlope < slope) {
    const underV = underVAt(sight, scratch, step, slope, underSlope, underStep);
    const underDb = underV > LEAST_V ? diffractionAt(underV, step * stepKm) : 0;
    if (underV < 0 && underDb < extraDb) {
      const inTreesDb = trees.lossDb(bares, step, txM, slope, 1000 * stepKm, frequencyGHz, season);
      if (inTreesDb > 0 && inTreesDb + underDb < extraDb) {
        extraDb = inTreesDb + underDb;
        throughDb = inTreesDb;
        into.inLeafShare[own] = trees.inLeafShare;
        into.woodShare[own] = trees.woodStep * inverse[step]!;
      }
    }
  }
  into.lossDb[own] = freeSpaceDb + decibels[step]! + extraDb;
  into.diffractionDb[own] = extraDb;
  into.treesDb[own] = throughDb;
  into.tiltDownDeg[own] = -arcTangent(slope / (1000 * stepKm)) * DEGREES;
}

/** Answers the cells of one ray. Distances are steps, and slopes metres a step. */
function sweepRay(
  grid: CoverageGrid,
  ground: GridGround,
  ask: SweepAsk,
  into: SweptLosses,
  number: number,
  scratch: RayScratch,
): void {
  const { rings } = grid;
  const ray = rayOf(grid, number);
  const { groundAmslM } = ground;
  const txM = groundAmslM[rings * (2 * rings + 1) + rings]! + ask.txHeightM;
  const sight = sightOf(grid, ray.stepKm, txM, ask);
  const steps = readRay(grid, ground, ray, sight.curve, scratch);
  const { inverse, tops, unders, owns, hullStep, hullM, pastStep, pastSlope } = scratch;
  const { heldBack } = sight;
  let txSlope = -Infinity;
  let hull = 0;
  // The hull's last point.
  let lastM = 0;
  let lastStep = 0;
  let past = 0;
  // The horizon that is left without trees.
  let underSlope = -Infinity;
  let underStep = 0;
  for (let step = 1; step <= steps; step++) {
    const own = owns[step]!;
    if (own >= 0)
      answerCell(into, groundAmslM[own]!, own, ask, sight, scratch, step, txSlope, hull, past, underSlope, underStep);
    const grown = step - heldBack;
    if (grown < 1) continue;
    const grownM = tops[grown]!;
    const grownSlope = (grownM - txM) * inverse[grown]!;
    const grownUnder = (unders[grown]! - txM) * inverse[grown]!;
    if (grownUnder >= underSlope) {
      underSlope = grownUnder;
      underStep = grown;
    }
    if (grownSlope >= txSlope) {
      // A new horizon: what lies before it can be no receiver's.
      txSlope = grownSlope;
      pastStep[past] = grown;
      pastSlope[past++] = grownSlope;
      hull = 0;
    }
    while (hull >= 2) {
      const fromM = hullM[hull - 2]!;
      const fromStep = hullStep[hull - 2]!;
      if ((lastM - fromM) * (grown - fromStep) > (grownM - fromM) * (lastStep - fromStep)) break;
      hull--;
      lastM = fromM;
      lastStep = fromStep;
    }
    lastM = grownM;
    lastStep = grown;
    hullStep[hull] = grown;
    hullM[hull++] = grownM;
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
