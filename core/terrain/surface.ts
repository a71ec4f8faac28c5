import type { Place } from "../geodesy";

/** What stands on the ground; the code is what cover rasters store. */
export const COVER_KINDS = ["open", "water", "wood", "windbreak", "building"] as const;
export type CoverKind = (typeof COVER_KINDS)[number];

/** Cover that a signal can be planned through rather than over. */
export function isTrees(coverCode: number): boolean {
  return coverCode === 2 || coverCode === 3;
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

/** Ground and cover of one grid, read by whole cells. `groundAmslM` gives NaN where nothing is known. */
export interface Surface {
  frame: GridFrame;
  groundAmslM(column: number, row: number): number;
  /** Height of what stands on the ground, m; 0 where nothing does. */
  coverHeightM(column: number, row: number): number;
  /** Index into COVER_KINDS. */
  coverCode(column: number, row: number): number;
}

/** Length of a cell's shorter side in metres, the spacing at which a profile loses nothing. */
export function cellSizeM(frame: GridFrame): number {
  const middleLatDeg = frame.northDeg - (frame.rows * frame.cellLatDeg) / 2;
  const northSouthM = frame.cellLatDeg * 111_195;
  const eastWestM = frame.cellLonDeg * 111_195 * Math.cos((middleLatDeg * Math.PI) / 180);
  return Math.min(northSouthM, eastWestM);
}

/** Whether a place lies on the grid, outer half cells included. */
export function frameContains(frame: GridFrame, { latDeg, lonDeg }: Place): boolean {
  const column = (lonDeg - frame.westDeg) / frame.cellLonDeg;
  const row = (frame.northDeg - latDeg) / frame.cellLatDeg;
  return column >= 0 && row >= 0 && column <= frame.columns && row <= frame.rows;
}

/** Ground height at a place, bilinear between cell centres; NaN off the grid or beside a hole. */
export function groundAt(surface: Surface, latDeg: number, lonDeg: number): number {
  const { frame } = surface;
  let column = (lonDeg - frame.westDeg) / frame.cellLonDeg - 0.5;
  let row = (frame.northDeg - latDeg) / frame.cellLatDeg - 0.5;
  if (!(column >= -0.5 && row >= -0.5 && column <= frame.columns - 0.5 && row <= frame.rows - 0.5)) return NaN;
  // In the outer half cells the nearest centre line is carried outward.
  column = Math.min(Math.max(column, 0), frame.columns - 1);
  row = Math.min(Math.max(row, 0), frame.rows - 1);
  const left = Math.min(column | 0, Math.max(0, frame.columns - 2));
  const top = Math.min(row | 0, Math.max(0, frame.rows - 2));
  const right = Math.min(left + 1, frame.columns - 1);
  const bottom = Math.min(top + 1, frame.rows - 1);
  const x = column - left;
  const y = row - top;
  const upper = surface.groundAmslM(left, top) * (1 - x) + surface.groundAmslM(right, top) * x;
  const lower = surface.groundAmslM(left, bottom) * (1 - x) + surface.groundAmslM(right, bottom) * x;
  return upper * (1 - y) + lower * y;
}

/** Column and row of the cell that holds a place, clamped to the grid. */
export function cellAt(frame: GridFrame, latDeg: number, lonDeg: number): { column: number; row: number } {
  const column = Math.floor((lonDeg - frame.westDeg) / frame.cellLonDeg);
  const row = Math.floor((frame.northDeg - latDeg) / frame.cellLatDeg);
  return {
    column: Math.min(Math.max(column, 0), frame.columns - 1),
    row: Math.min(Math.max(row, 0), frame.rows - 1),
  };
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
    groundAmslM: (column, row) => ground[row * columns + column]!,
    coverHeightM: cover ? (column, row) => cover.heightM[row * columns + column]! : () => 0,
    coverCode: cover ? (column, row) => cover.code[row * columns + column]! : () => 0,
  };
}

/** A surface that knows nothing anywhere: the terrain of a plan that has none yet. */
export const UNKNOWN_SURFACE: Surface = arraySurface(
  { westDeg: -180, northDeg: 90, cellLonDeg: 0.00027, cellLatDeg: 0.00027, columns: 1, rows: 1 },
  new Float32Array([NaN]),
);
