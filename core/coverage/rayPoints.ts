import { signedAngleDeg } from "../geodesy";
import {
  changeShare,
  columnsEast,
  coverCodeIn,
  coverHeightIn,
  END_ZONE_M,
  isTrees,
  readAlong,
  rowsSouth,
  stepBetweenM,
  UNKNOWN_COVER,
  type Surface,
  type Terrain,
} from "../terrain";
import { cellPlace, gridExtent, sideOf, type CoverageGrid } from "./grid";
import { cellsOfRay, rayOf, ROUNDING, type Ray } from "./ray";
import { RayTrees } from "./trees";

const ZONE_KM = END_ZONE_M / 1000;

/** A ray has at most so many points a cell, where the ground is known finer. */
const MOST_POINTS_PER_CELL = 4;
/** Samples of a full answer right before a receiver that are read at their own places, and the corners of cells between them. */
const NEAR_SAMPLES = 2;
const MOST_NEAR = 2 * NEAR_SAMPLES;
/** A full answer has at least so many steps. */
const FEWEST_STEPS = 2;

/** Even steps of a full path over so many steps of a ray: none is longer than those. */
const stepsOver = (distance: number): number => Math.max(FEWEST_STEPS, Math.ceil(distance * (1 - ROUNDING)));

/** Spacing of a ray's points, km: that of a full answer's samples, as far as a cell is worth it. */
export function raySpacingKm(terrain: Terrain, grid: CoverageGrid): number {
  const [west, south, east, north] = gridExtent(grid);
  const rasterKm =
    stepBetweenM(
      terrain,
      { latDeg: south, lonDeg: signedAngleDeg(west) },
      { latDeg: north, lonDeg: signedAngleDeg(east) },
    ) / 1000;
  return Math.max(rasterKm, Math.min(grid.cellNorthKm, grid.cellEastKm) / MOST_POINTS_PER_CELL);
}

/** Obstacles close to each receiver, nearest first: distance from the receiver in steps, and height above sea level with and without trees, m. */
class NearPoints {
  readonly back: Float64Array;
  readonly topM: Float64Array;
  readonly underM: Float64Array;
  readonly counts: Uint8Array;

  constructor(receivers: number) {
    this.back = new Float64Array(receivers * MOST_NEAR);
    this.topM = new Float64Array(receivers * MOST_NEAR);
    this.underM = new Float64Array(receivers * MOST_NEAR);
    this.counts = new Uint8Array(receivers);
  }

  add(receiver: number, back: number, groundM: number, coverM: number, code: number): void {
    const at = receiver * MOST_NEAR + this.counts[receiver]!;
    this.counts[receiver] = this.counts[receiver]! + 1;
    this.back[at] = back;
    this.topM[at] = groundM + coverM;
    this.underM[at] = isTrees(code) ? groundM : groundM + coverM;
  }
}
/** Where the points of a receiver begin among all. */
export const nearFrom = (receiver: number): number => receiver * MOST_NEAR;

/** Room to read places into: also where they lie among the cells of the raster of cover, in columns and rows of it. */
class Room {
  readonly columns: Float64Array;
  readonly rows: Float64Array;
  readonly latDeg: Float64Array;
  readonly lonDeg: Float64Array;
  readonly groundAmslM: Float64Array;
  readonly coverHeightM: Float64Array;
  readonly coverCode: Uint8Array;

  constructor(places: number) {
    this.latDeg = new Float64Array(places);
    this.lonDeg = new Float64Array(places);
    this.groundAmslM = new Float64Array(places);
    this.coverHeightM = new Float64Array(places);
    this.coverCode = new Uint8Array(places);
    this.columns = new Float64Array(places);
    this.rows = new Float64Array(places);
  }

  /** Reads the first so many places. */
  read(terrain: Terrain, cover: Surface | null, count: number) {
    if (cover)
      for (let i = 0; i < count; i++) {
        this.columns[i] = columnsEast(cover.frame, this.lonDeg[i]!);
        this.rows[i] = rowsSouth(cover.frame, this.latDeg[i]!);
      }
    return readAlong(terrain, this, this, count);
  }
}

/** The same with how high what stands there reaches above sea level, with trees and without, m. */
class Line extends Room {
  readonly topAmslM: Float64Array;
  readonly underAmslM: Float64Array;

  constructor(points: number) {
    super(points);
    this.topAmslM = new Float64Array(points);
    this.underAmslM = new Float64Array(points);
  }

  /** Adds up ground and cover of the first so many points. */
  addUp(count: number): void {
    const { groundAmslM, coverHeightM, coverCode, topAmslM, underAmslM } = this;
    for (let i = 0; i < count; i++) {
      const topM = groundAmslM[i]! + coverHeightM[i]!;
      topAmslM[i] = topM;
      underAmslM[i] = isTrees(coverCode[i]!) ? groundAmslM[i]! : topM;
    }
  }
}

/**
 * One ray with all that a sweep asks of it: points at even steps from the transmitter, read from the rasters themselves, and the
 * receivers that it answers, at the middles of their cells. Lengths are steps of `spacingKm`. A class, because V8 compiles for the
 * shape that it sees: of a literal the second one seems to it another, and what it compiled is thrown away.
 */
export class RayPoints {
  /** Points whose ground is known, the transmitter's own the first; receivers farther out are told nothing. */
  count = 0;
  /** Ground and what stands on it, trees or not; nothing where the transmitter stands. */
  readonly line: Line;
  readonly trees: RayTrees;
  receivers = 0;
  /** The cell of each receiver. */
  readonly cell: Int32Array;
  /** How far off he stands, and how much more that loses in free space than one step, dB. */
  readonly at: Float64Array;
  readonly decibels: Float64Array;
  /** Ground height at the receiver, m above sea; NaN where it, or the ground just before it, is unknown. */
  readonly groundM: Float64Array;
  /** Distance from the receiver back to the edge of its own cover cell. */
  readonly ownBack: Float64Array;
  /** Distance up to which the ray's own points count; closer to the receiver, those of `near` do. */
  readonly lineEnds: Float64Array;
  readonly near: NearPoints;
  private readonly ends: Room;

  constructor(
    private readonly grid: CoverageGrid,
    readonly spacingKm: number,
  ) {
    const { rings, cellEastKm, cellNorthKm } = grid;
    const points = Math.ceil(Math.hypot(rings * cellEastKm, rings * cellNorthKm) / spacingKm) + 3;
    this.line = new Line(points);
    // On each step the ray may leave one wood, cross the corner of another and come into a third.
    this.trees = new RayTrees(2 * points);
    this.cell = new Int32Array(rings);
    this.at = new Float64Array(rings);
    this.decibels = new Float64Array(rings);
    this.lineEnds = new Float64Array(rings);
    this.groundM = new Float64Array(rings);
    this.ownBack = new Float64Array(rings);
    this.near = new NearPoints(rings);
    this.ends = new Room(rings * (1 + NEAR_SAMPLES));
  }

  /** Reads a ray. */
  read(terrain: Terrain, number: number): void {
    const ray = rayOf(this.grid, number);
    const cover = coverSurface(terrain);
    this.readLine(terrain, cover, ray);
    this.readReceivers(terrain, cover, ray);
  }

  private readLine(terrain: Terrain, cover: Surface | null, { east, south, lengthKm }: Ray): void {
    const { line, trees, grid, spacingKm } = this;
    const { latDeg, lonDeg, groundAmslM, coverHeightM, coverCode } = line;
    const reachKm = Math.min(lengthKm, grid.rings * Math.max(grid.cellEastKm, grid.cellNorthKm));
    const count = Math.floor((reachKm / spacingKm) * (1 + ROUNDING)) + 2;
    const perStep = spacingKm / lengthKm;
    for (let i = 0; i < count; i++) {
      latDeg[i] = grid.middle.latDeg - south * perStep * i * grid.cellLatDeg;
      lonDeg[i] = signedAngleDeg(grid.middle.lonDeg + east * perStep * i * grid.cellLonDeg);
    }
    const { corners, hasHole } = line.read(terrain, cover, count);
    this.count = hasHole ? firstHole(groundAmslM, count) : count;
    trees.count = 0;
    // What the transmitter stands on, and in, is not in its way.
    for (let i = 0; i < count; i++) {
      const isNear = i * spacingKm <= ZONE_KM || (cover !== null && isOneCell(line, 0, i));
      if (!isNear) break;
      coverHeightM[i] = coverCode[i] = 0;
    }
    if (cover) this.layTrees(cover, corners);
    line.addUp(this.count);
  }

  /**
   * Puts down the trees on the way, each stretch from where the ray comes into their cells to where it leaves them, and what is tallest in
   * the corner of a cell in which no point lies: that counts at the nearer point. `corners` are the steps that may go over one.
   */
  private layTrees(cover: Surface, corners: readonly number[] | null): void {
    const { line, trees, count } = this;
    const { coverHeightM, coverCode } = line;
    let from = 0;
    let [code, heightM] = [0, 0];
    let nextCorner = 0;
    for (let i = 1; i < count; i++) {
      if (corners) while (nextCorner < corners.length && corners[nextCorner]! < i) nextCorner++;
      const corner = !corners || corners[nextCorner] === i ? cornerBetween(cover, line, i - 1, i) : null;
      const isCorner =
        corner && corner.heightM > heightM && corner.heightM > coverHeightM[i]! && !isOwnCell(line, 0, corner);
      if (!isCorner && coverCode[i] === code && coverHeightM[i] === heightM) continue;
      const edges = isCorner ? corner : edgeOf(line, i);
      if (code !== 0) trees.add(from, i - 1 + edges.from, code, heightM);
      from = i - 1 + edges.to;
      [code, heightM] = [coverCode[i]!, coverHeightM[i]!];
      if (!isCorner) continue;
      trees.add(i - 1 + edges.from, from, corner.code, corner.heightM);
      const nearer = edges.from + edges.to < 1 ? i - 1 : i;
      if (nearer === 0) continue;
      coverHeightM[nearer] = corner.heightM;
      coverCode[nearer] = corner.code;
    }
    if (code !== 0) trees.add(from, count - 1, code, heightM);
  }

  private readReceivers(terrain: Terrain, cover: Surface | null, ray: Ray): void {
    const { grid, ends, at, cell, groundM, ownBack, near, spacingKm, line } = this;
    const side = sideOf(grid);
    let count = 0;
    cellsOfRay(grid, ray, (own, east, south, km) => {
      const steps = stepsOver(km / spacingKm);
      const place = cellPlace(grid, own % side, Math.floor(own / side));
      for (let k = 0; k <= NEAR_SAMPLES; k++) {
        const share = k / steps;
        const i = count * (1 + NEAR_SAMPLES) + k;
        ends.latDeg[i] = place.latDeg + south * share * grid.cellLatDeg;
        ends.lonDeg[i] = signedAngleDeg(place.lonDeg - east * share * grid.cellLonDeg);
      }
      at[count] = km / spacingKm;
      cell[count++] = own;
    });
    this.receivers = count;
    ends.read(terrain, cover, count * (1 + NEAR_SAMPLES));
    near.counts.fill(0, 0, count);
    for (let receiver = 0; receiver < count; receiver++) {
      const own = receiver * (1 + NEAR_SAMPLES);
      const distance = at[receiver]!;
      const step = distance / stepsOver(distance);
      groundM[receiver] = ends.groundAmslM[own]!;
      this.decibels[receiver] = 20 * Math.log10(distance);
      // From there on his own samples count.
      this.lineEnds[receiver] = distance - (NEAR_SAMPLES + 0.5) * step;
      const zone = ZONE_KM / spacingKm;
      let isOwn = true;
      let back = 0;
      for (let k = 1; k <= NEAR_SAMPLES && distance - k * step > zone; k++) {
        const i = own + k;
        const wasOwn = isOwn;
        isOwn &&= cover !== null && isOneCell(ends, own, i);
        if (isOwn) back = k * step;
        else if (wasOwn && cover !== null) back = (k - 1 + leavesAt(ends, i - 1, i)) * step;
        const isBare = isOwn || k * step <= zone || (cover !== null && isOneCellAcross(line, 0, ends, i));
        if (Number.isNaN(ends.groundAmslM[i]!)) groundM[receiver] = NaN;
        if (cover !== null) this.layNearCorner(cover, receiver, own, k, step, zone);
        near.add(
          receiver,
          k * step,
          ends.groundAmslM[i]!,
          isBare ? 0 : ends.coverHeightM[i]!,
          isBare ? 0 : ends.coverCode[i]!,
        );
      }
      ownBack[receiver] = Math.max(zone, back);
    }
  }

  /** The corner of a cell between two samples before a receiver, where what stands there is taller than at both. */
  private layNearCorner(cover: Surface, receiver: number, own: number, k: number, step: number, zone: number): void {
    const { ends, near, line } = this;
    const corner = cornerBetween(cover, ends, own + k - 1, own + k);
    if (!corner || isOwnCell(ends, own, corner) || isOwnCell(line, 0, corner)) return;
    // Of a cell as tall as his own a full answer takes no notice.
    if (corner.heightM <= ends.coverHeightM[own + k - 1]! || corner.heightM <= ends.coverHeightM[own + k]!) return;
    const from = Math.max(zone, (k - 1 + corner.from) * step);
    const to = (k - 1 + corner.to) * step;
    if (to <= from) return;
    const [nearM, farM] = [ends.groundAmslM[own + k - 1]!, ends.groundAmslM[own + k]!];
    near.add(receiver, from, nearM + (farM - nearM) * (from / step - k + 1), corner.heightM, corner.code);
  }
}

/** The raster that says what stands on the ground; null where none does. */
function coverSurface({ layers }: Terrain): Surface | null {
  for (const { surface, kind } of layers) if (kind !== "surface" && surface.coverCode) return surface;
  return null;
}

function firstHole(groundAmslM: Float64Array, count: number): number {
  for (let i = 0; i < count; i++) if (Number.isNaN(groundAmslM[i]!)) return i;
  return count;
}

const columnAt = ({ columns }: Room, i: number) => Math.floor(columns[i]!);
const rowAt = ({ rows }: Room, i: number) => Math.floor(rows[i]!);

/** Whether two places lie in one cell of cover. */
const isOneCellAcross = (of: Room, one: number, others: Room, other: number) =>
  columnAt(of, one) === columnAt(others, other) && rowAt(of, one) === rowAt(others, other);
const isOneCell = (places: Room, one: number, other: number) => isOneCellAcross(places, one, places, other);
const isOwnCell = (places: Room, own: number, { column, row }: { column: number; row: number }) =>
  columnAt(places, own) === column && rowAt(places, own) === row;

/** Share of the way from one place to another at which the first one's cell of cover is left. */
const leavesAt = ({ columns, rows }: Room, from: number, to: number) =>
  Math.min(changeShare(columns[from]!, columns[to]!), changeShare(rows[from]!, rows[to]!));

/** Share of the step to a point at which the cover before it ends and its own begins: over a corner half-way between both edges, half-way within one cell. */
function edgeOf({ columns, rows }: Room, i: number): { from: number; to: number } {
  const column = changeShare(columns[i - 1]!, columns[i]!);
  const row = changeShare(rows[i - 1]!, rows[i]!);
  const edge = column === 1 ? row : row === 1 ? column : (column + row) / 2;
  const share = edge < 1 ? edge : 0.5;
  return { from: share, to: share };
}

/** The cell whose corner the way from one place to another crosses, where that has cover: with the shares at which it is entered and left. */
function cornerBetween(cover: Surface, places: Room, from: number, to: number) {
  const [x0, y0] = [columnAt(places, from), rowAt(places, from)];
  const [x1, y1] = [columnAt(places, to), rowAt(places, to)];
  if (x0 === x1 || y0 === y1) return null;
  const acrossColumn = changeShare(places.columns[from]!, places.columns[to]!);
  const acrossRow = changeShare(places.rows[from]!, places.rows[to]!);
  const isColumnFirst = acrossColumn < acrossRow;
  const column = isColumnFirst ? x1 : x0;
  const row = isColumnFirst ? y0 : y1;
  const { columns, rows } = cover.frame;
  if (column < 0 || row < 0 || column >= columns || row >= rows) return null;
  const code = coverCodeIn(cover, column, row);
  if (code === 0 || code === UNKNOWN_COVER) return null;
  const heightM = coverHeightIn(cover, column, row);
  return {
    ...{ column, row, code, heightM },
    from: Math.min(acrossColumn, acrossRow),
    to: Math.max(acrossColumn, acrossRow),
  };
}
