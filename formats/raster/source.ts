import type { Crs } from "./crs";
import { RasterError } from "./error";

/** A raster of one band that is read some rows at a time. Rows run from north to south, cells from west to east. */
export interface RasterSource {
  /** What the file was found to be, in words. */
  found: string;
  columns: number;
  rows: number;
  /** Outer edge and size of a cell in the units of `crs`. */
  west: number;
  north: number;
  cellX: number;
  cellY: number;
  crs: Crs;
  /** Values of `count` whole rows from `first` on; NaN where there are none. */
  readRows(first: number, count: number): Promise<Float32Array>;
  close(): Promise<void>;
}

/** Cells taken at most from one file. */
const MOST_CELLS = 400_000_000;
/** Values beyond these are no heights on Earth; they count as holes. */
export const LOWEST_M = -12_000;
export const HIGHEST_M = 9_000;

export function requireSize(columns: number, rows: number): void {
  for (const [what, value] of [
    ["columns", columns],
    ["rows", rows],
  ] as const)
    if (!Number.isInteger(value) || value < 1)
      throw new RasterError(`the header claims ${value} ${what}; a whole number above 0 was expected`);
  if (columns * rows > MOST_CELLS)
    throw new RasterError(`the header claims ${columns} × ${rows} cells; at most ${MOST_CELLS} are taken`, {
      todo: "Cut it in parts and bring them together.",
    });
}
