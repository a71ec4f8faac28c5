import { M_PER_DEG } from "../geodesy";
/** What stands on the ground; the code is what cover rasters store. */
/** "wood" and "windbreak" shed their leaves, "evergreen" keeps them. */
export const COVER_KINDS = ["open", "water", "wood", "windbreak", "building", "evergreen"] as const;
export type CoverKind = (typeof COVER_KINDS)[number];

/** A cover code: the kind in the low four bits, tenths of density above them; density 0 is the kind's own, a full one. */
export function coverCode(kind: CoverKind, density = 1): number {
  return COVER_KINDS.indexOf(kind) | ((density >= 1 ? 0 : Math.max(1, Math.round(density * 10))) << 4);
}
/** In a raster of cover: nothing is known here. */
export const UNKNOWN_COVER = 255;

export function coverKind(code: number): CoverKind {
  return COVER_KINDS[code & 15] ?? "open";
}

/** How thick the cover stands, as a share of a closed one. */
export function coverDensity(code: number): number {
  const tenths = code >> 4;
  return tenths === 0 ? 1 : tenths / 10;
}

/** Cover that a signal can be planned through rather than over. */
export function isTrees(code: number): boolean {
  const kind = code & 15;
  return kind === 2 || kind === 3 || kind === EVERGREEN;
}

const EVERGREEN = COVER_KINDS.indexOf("evergreen");
/** Trees that keep their leaves in winter. */
export function isEvergreen(code: number): boolean {
  return (code & 15) === EVERGREEN;
}

/**
 * A regular grid in geographic coordinates, its values at cell centres. Row 0 is the northernmost.
 * `westDeg` and `northDeg` are the outer edge of the grid.
 */
export interface GridFrame {
  westDeg: number;
  northDeg: number;
  cellLonDeg: number;
  cellLatDeg: number;
  columns: number;
  rows: number;
}

/** Where a block of a surface begins that is not in its arrays: nothing is known there, or it was not unpacked yet. */
export const HOLE = -1;
export const UNREAD = -2;

/**
 * Ground and cover of one grid as plain data. The grid is cut into blocks from its north-west corner, west to east, north to south;
 * each lies in the arrays row by row, `blockColumns` wide however much of it lies on the grid.
 */
export interface Surface {
  frame: GridFrame;
  blockColumns: number;
  blockRows: number;
  /** Index of each block's first cell in the arrays, HOLE or UNREAD. */
  starts: Int32Array;
  /** NaN where nothing is known. */
  groundAmslM: Float32Array;
  /** Height of what stands on the ground, m; null where nothing stands anywhere. */
  coverHeightM: Float32Array | null;
  /** Codes as `coverCode` makes them. */
  coverCode: Uint8Array | null;
  /** A coarse copy of a large raster, for looking at it from far away. */
  overview: Surface | null;
}

/** Thrown by whatever reads a block that was not unpacked yet: whoever has it packed unpacks it and reads again. */
export class UnreadGround extends Error {
  constructor(
    readonly surface: Surface,
    readonly block: number,
  ) {
    super(`block ${block} of the ground is not unpacked`);
  }
}

/** The block of a surface that holds a cell. */
export function blockOf({ frame, blockColumns, blockRows }: Surface, column: number, row: number): number {
  return ((row / blockRows) | 0) * Math.ceil(frame.columns / blockColumns) + ((column / blockColumns) | 0);
}

/** Index of a block's first cell in the arrays; HOLE where nothing is known. Throws UnreadGround. */
export function startOf(surface: Surface, block: number): number {
  // Another thread may just have unpacked it: its cells lie there before its start does.
  const start = Atomics.load(surface.starts, block);
  if (start === UNREAD) throw new UnreadGround(surface, block);
  return start;
}

/** Index of a cell in the arrays; HOLE where nothing is known. Throws UnreadGround. */
function cellOf(surface: Surface, column: number, row: number): number {
  const { blockColumns, blockRows } = surface;
  const start = startOf(surface, blockOf(surface, column, row));
  return start === HOLE ? HOLE : start + (row % blockRows) * blockColumns + (column % blockColumns);
}

/** Ground height in a cell, m above sea; NaN where nothing is known. */
export function groundIn(surface: Surface, column: number, row: number): number {
  const cell = cellOf(surface, column, row);
  return cell === HOLE ? NaN : surface.groundAmslM[cell]!;
}

/** Height of what stands in a cell, m; 0 where nothing does. */
export function coverHeightIn(surface: Surface, column: number, row: number): number {
  if (surface.coverHeightM === null) return 0;
  const cell = cellOf(surface, column, row);
  return cell === HOLE ? 0 : surface.coverHeightM[cell]!;
}

/** The cover code of a cell; 0 where nothing stands. */
export function coverCodeIn(surface: Surface, column: number, row: number): number {
  if (surface.coverCode === null) return 0;
  const cell = cellOf(surface, column, row);
  return cell === HOLE ? 0 : surface.coverCode[cell]!;
}

/** Length of a cell's shorter side in metres, the spacing at which a profile loses nothing. */
export function cellSizeM(frame: GridFrame): number {
  const middleLatDeg = frame.northDeg - (frame.rows * frame.cellLatDeg) / 2;
  const northSouthM = frame.cellLatDeg * M_PER_DEG;
  const eastWestM = frame.cellLonDeg * M_PER_DEG * Math.cos((middleLatDeg * Math.PI) / 180);
  return Math.min(northSouthM, eastWestM);
}

/** Degrees by which a place lies east of a grid's west edge, counted on over the 180th meridian. */
function eastOfDeg(westDeg: number, lonDeg: number): number {
  const east = lonDeg - westDeg;
  return east < -180 ? east + 360 : east >= 360 ? east - 360 : east;
}

// A place on the very line between two cells falls to one side by the last digit of its sum, so every reader of a grid computes
// the same sum: times the reciprocal, as the loops of `readAlong` do, which have no time to divide.

/** Columns from a grid's west edge to a place. */
export const columnsEast = ({ westDeg, cellLonDeg }: GridFrame, lonDeg: number) =>
  eastOfDeg(westDeg, lonDeg) * (1 / cellLonDeg);
/** Rows from a grid's north edge to a place. */
export const rowsSouth = ({ northDeg, cellLatDeg }: GridFrame, latDeg: number) =>
  (northDeg - latDeg) * (1 / cellLatDeg);

/** The column in which a place lies that the grid contains. */
export const columnOf = (frame: GridFrame, lonDeg: number) =>
  Math.min(Math.floor(columnsEast(frame, lonDeg)), frame.columns - 1);
/** The row in which a place lies that the grid contains. */
export const rowOf = (frame: GridFrame, latDeg: number) =>
  Math.min(Math.floor(rowsSouth(frame, latDeg)), frame.rows - 1);

/** Whether a place lies on the grid, outer half cells included. */
export function frameContains(frame: GridFrame, latDeg: number, lonDeg: number): boolean {
  const column = columnsEast(frame, lonDeg);
  const row = rowsSouth(frame, latDeg);
  return column >= 0 && row >= 0 && column <= frame.columns && row <= frame.rows;
}

/** Ground height at a place, bilinear between cell centres; NaN off the grid or beside a hole. */
export function groundAt(surface: Surface, latDeg: number, lonDeg: number): number {
  const { frame } = surface;
  let column = (lonDeg - frame.westDeg) * (1 / frame.cellLonDeg) - 0.5;
  let row = rowsSouth(frame, latDeg) - 0.5;
  if (!(column >= -0.5 && row >= -0.5 && column <= frame.columns - 0.5 && row <= frame.rows - 0.5))
    return groundARoundOn(surface, latDeg, lonDeg);
  // In the outer half cells the nearest centre line is carried outward.
  column = Math.min(Math.max(column, 0), frame.columns - 1);
  row = Math.min(Math.max(row, 0), frame.rows - 1);
  const left = Math.min(column | 0, Math.max(0, frame.columns - 2));
  const top = Math.min(row | 0, Math.max(0, frame.rows - 2));
  const right = Math.min(left + 1, frame.columns - 1);
  const bottom = Math.min(top + 1, frame.rows - 1);
  const x = column - left;
  const y = row - top;
  const upper = groundIn(surface, left, top) * (1 - x) + groundIn(surface, right, top) * x;
  const lower = groundIn(surface, left, bottom) * (1 - x) + groundIn(surface, right, bottom) * x;
  return upper * (1 - y) + lower * y;
}

/** Ground at a place that is not on the grid as its longitude stands: it may be one turn on, over the 180th meridian. */
function groundARoundOn(surface: Surface, latDeg: number, lonDeg: number): number {
  const turned = surface.frame.westDeg + eastOfDeg(surface.frame.westDeg, lonDeg);
  return Math.abs(turned - lonDeg) > 1 ? groundAt(surface, latDeg, turned) : NaN;
}

/** A surface held whole in memory. `coverHeightM` and `coverCode` may be left out for bare ground. */
export function arraySurface(
  frame: GridFrame,
  ground: Float32Array,
  cover?: { heightM: Float32Array; code: Uint8Array },
): Surface {
  const { columns, rows } = frame;
  if (ground.length !== columns * rows) {
    throw new RangeError(`ground has ${ground.length} values; ${columns} × ${rows} cells need ${columns * rows}`);
  }
  return {
    frame,
    blockColumns: columns,
    blockRows: rows,
    starts: new Int32Array(1),
    groundAmslM: ground,
    coverHeightM: cover?.heightM ?? null,
    coverCode: cover?.code ?? null,
    overview: null,
  };
}
