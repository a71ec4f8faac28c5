import { END_ZONE_M } from "../terrain";
import type { CoverageGrid, GridGround } from "./grid";
import { RayTrees } from "./trees";

export const ZONE_KM = END_ZONE_M / 1000;
/** What lengths may be off by through rounding, as a share. */
export const ROUNDING = 1e-9;

/** Rays through each cell of the square's outermost ring. */
const RAYS_PER_RIM_CELL = 2;
/** Rays from the middle to the rim. */
export const raysOf = ({ rings }: CoverageGrid): number => 8 * rings * RAYS_PER_RIM_CELL;

/** What stands close before one receiver: how many steps back, and its levelled heights with trees and without, m. */
export class NearCover {
  readonly back = new Float64Array(3);
  readonly topM = new Float64Array(3);
  readonly underM = new Float64Array(3);
  count = 0;

  add(back: number, topM: number, underM: number): void {
    this.back[this.count] = back;
    this.topM[this.count] = topM;
    this.underM[this.count++] = underM;
  }
}

/**
 * Room for one ray after another. A class, because V8 compiles for the shape that it sees: of a literal the second one seems to it another,
 * and what it compiled during the first sweep is thrown away, for good in part (sweeps then take a quarter longer).
 */
export class RayScratch {
  /** What some steps lose in free space over one, dB, and one divided by them: a division costs several times a product. */
  readonly decibels: Float64Array;
  readonly inverse: Float64Array;
  /** Levelled heights of the ray's points, bare and with what stands there. */
  readonly bares: Float64Array;
  readonly tops: Float64Array;
  /** The same with all but trees. */
  readonly unders: Float64Array;
  readonly trees: RayTrees;
  readonly near = new NearCover();
  /** The cell that each point answers; −1 where another ray does. */
  readonly owns: Int32Array;
  /** The upper hull of the points since the transmitter's horizon: their steps and levelled heights. */
  readonly hullStep: Int32Array;
  readonly hullM: Float64Array;
  /** Points that were the transmitter's horizon once, with their slopes, m a step. */
  readonly pastStep: Int32Array;
  readonly pastSlope: Float64Array;

  constructor(rings: number) {
    this.decibels = Float64Array.from({ length: rings + 1 }, (_, step) => 20 * Math.log10(step));
    this.inverse = Float64Array.from({ length: rings + 1 }, (_, step) => 1 / step);
    this.bares = new Float64Array(rings + 1);
    this.tops = new Float64Array(rings + 1);
    this.unders = new Float64Array(rings + 1);
    this.trees = new RayTrees(rings);
    this.owns = new Int32Array(rings + 1);
    this.hullStep = new Int32Array(rings + 2);
    this.hullM = new Float64Array(rings + 2);
    this.pastStep = new Int32Array(rings + 2);
    this.pastSlope = new Float64Array(rings + 2);
  }
}

/** Where a ray meets the rim, in cells east and south of the middle; clockwise from the north-west corner. */
function rimOf(rings: number, ray: number): [east: number, south: number] {
  const side = 2 * rings * RAYS_PER_RIM_CELL;
  const along = (ray % side) / RAYS_PER_RIM_CELL - rings;
  switch (Math.floor(ray / side)) {
    case 0:
      return [along, -rings];
    case 1:
      return [rings, along];
    case 2:
      return [-along, rings];
    default:
      return [-rings, -along];
  }
}

/** One ray in figures. */
export interface Ray {
  /** Length of a step, km: a whole cell along the major axis, and `across` of one along the other. */
  stepKm: number;
  across: number;
  majorStride: number;
  minorStride: number;
  /** The ray's number, counted from the middle of its side of the rim. */
  ownRay: number;
  /** Steps to the last point within reach. */
  steps: number;
}

export function rayOf({ rings, cellNorthKm, cellEastKm }: CoverageGrid, ray: number): Ray {
  const [east, south] = rimOf(rings, ray);
  const isSteep = Math.abs(south) >= Math.abs(east);
  const side = 2 * rings + 1;
  const across = (isSteep ? east : south) / rings;
  const stepKm = Math.hypot((east / rings) * cellEastKm, (south / rings) * cellNorthKm);
  const mostKm = rings * Math.max(cellNorthKm, cellEastKm) * (1 + ROUNDING);
  return {
    stepKm,
    across,
    majorStride: (isSteep ? Math.sign(south) * side : Math.sign(east)) | 0,
    minorStride: isSteep ? 1 : side,
    // Without | 0 a ray's zero may be −0, which is no small whole number to V8: halfway round, what is compiled would be thrown away.
    ownRay: Math.round(across * rings * RAYS_PER_RIM_CELL) | 0,
    steps: Math.min(rings, Math.floor(mostKm / stepKm)),
  };
}

/**
 * Reads a ray's points into `bares` and `tops`, levelled by the earth's curve, and into `owns` the cell that each answers, −1 where
 * another ray passes nearer to its middle. Gives how many points there are: nothing is told behind a hole.
 */
export function readRay(
  { rings }: CoverageGrid,
  ground: GridGround,
  { stepKm, across, majorStride, minorStride, ownRay, steps }: Ray,
  curve: number,
  { bares, tops, unders, owns, trees }: RayScratch,
): number {
  const { groundAmslM, coverHeightM } = ground;
  const rimRays = (2 * rings * RAYS_PER_RIM_CELL) | 0;
  const ownRays = (2 * ownRay) | 0;
  const zoneSteps = ZONE_KM / stepKm;
  let along = (rings * (2 * rings + 1) + rings) | 0;
  const halfAcross = Math.abs(across) / 2 - ROUNDING;
  bares[0] = groundAmslM[along]!;
  trees.count = 0;
  for (let step = 1; step <= steps; step++) {
    along = (along + majorStride) | 0;
    const minor = across * step;
    const below = Math.floor(minor) | 0;
    const share = minor - below;
    const column = (share < 0.5 ? below : below + 1) | 0;
    const near = (along + Math.imul(column, minorStride)) | 0;
    const base = (along + Math.imul(below, minorStride)) | 0;
    const low = groundAmslM[base]!;
    const groundM = share === 0 ? low : low + (groundAmslM[base + minorStride]! - low) * share;
    if (!(groundM === groundM)) return step - 1;
    // The ray that passes nearest a cell's middle answers it.
    const offRay = (Math.imul(column, rimRays) - Math.imul(ownRays, step)) | 0;
    owns[step] = offRay >= -step && offRay < step ? near : -1;
    // The ray's stretch in this row lies in one cell, or in two.
    const lower = Math.floor(minor - halfAcross + 0.5) | 0;
    const upper = Math.floor(minor + halfAcross + 0.5) | 0;
    let coverM = coverHeightM[near]!;
    if (lower !== upper) {
      const otherM = coverHeightM[(along + Math.imul(lower === column ? upper : lower, minorStride)) | 0]!;
      if (otherM > coverM) coverM = otherM;
    }
    const bareM = groundM - curve * step * step;
    bares[step] = bareM;
    const topM = bareM + (step <= zoneSteps ? 0 : coverM);
    tops[step] = topM;
    unders[step] = topM;
    if (topM > bareM) {
      const first = (along + Math.imul(across > 0 ? lower : upper, minorStride)) | 0;
      const second = (along + Math.imul(across > 0 ? upper : lower, minorStride)) | 0;
      if (standTrees(trees, step, across, lower, upper, first, second, ground)) unders[step] = bareM;
    }
  }
  return steps;
}

/**
 * Puts down the trees on a ray's stretch in one row, from half a step before a point to half a step behind: in one cell, or from one
 * into its neighbour. Says whether what stands tallest there is trees.
 */
function standTrees(
  trees: RayTrees,
  step: number,
  across: number,
  lower: number,
  upper: number,
  first: number,
  second: number,
  { coverHeightM, coverCode }: GridGround,
): boolean {
  if (first === second) return trees.add(step - 0.5, step + 0.5, coverCode[first]!, coverHeightM[first]!);
  const edge = (lower + upper) / (2 * across);
  const isFirst = trees.add(step - 0.5, edge, coverCode[first]!, coverHeightM[first]!);
  const isSecond = trees.add(edge, step + 0.5, coverCode[second]!, coverHeightM[second]!);
  return coverHeightM[second]! > coverHeightM[first]! ? isSecond : isFirst;
}
