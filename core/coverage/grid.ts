import { signedAngleDeg, type Place } from "../geodesy";
import { readAlong, type Terrain } from "../terrain";

/**
 * A square of cells around a transmitter: `rings` of them each way, the transmitter's own in the middle, row 0 the northernmost.
 * Cells are even in latitude and longitude, as near square on the ground as the middle's latitude makes them.
 */
export interface CoverageGrid {
  middle: Place;
  rings: number;
  cellLatDeg: number;
  cellLonDeg: number;
  /** Length of a cell north–south and east–west, km. */
  cellNorthKm: number;
  cellEastKm: number;
}

const EQUATOR_KM = 6378.137;
const ECCENTRICITY_SQUARED = (2 - 1 / 298.257223563) / 298.257223563;
const RADIANS = Math.PI / 180;

/** The grid of cells of `cellM` around a place, out to `radiusM`. Lengths by the radii of curvature of WGS 84 at the middle. */
export function gridAround(middle: Place, radiusM: number, cellM: number): CoverageGrid {
  const sine = Math.sin(middle.latDeg * RADIANS);
  const w = 1 - ECCENTRICITY_SQUARED * sine * sine;
  const crossKm = EQUATOR_KM / Math.sqrt(w);
  const meridianKm = (crossKm * (1 - ECCENTRICITY_SQUARED)) / w;
  const cellKm = cellM / 1000;
  return {
    middle: { latDeg: middle.latDeg, lonDeg: middle.lonDeg },
    rings: Math.max(1, Math.ceil(radiusM / cellM)),
    cellLatDeg: cellKm / (meridianKm * RADIANS),
    cellLonDeg: cellKm / (crossKm * Math.cos(middle.latDeg * RADIANS) * RADIANS),
    cellNorthKm: cellKm,
    cellEastKm: cellKm,
  };
}

/** Cells along one side. */
export const sideOf = ({ rings }: CoverageGrid): number => 2 * rings + 1;

/** The middle of a cell. */
export function cellPlace({ middle, rings, cellLatDeg, cellLonDeg }: CoverageGrid, column: number, row: number): Place {
  return { latDeg: middle.latDeg + (rings - row) * cellLatDeg, lonDeg: middle.lonDeg + (column - rings) * cellLonDeg };
}

/** West, south, east and north edge, degrees. */
export function gridExtent({ middle, rings, cellLatDeg, cellLonDeg }: CoverageGrid): [number, number, number, number] {
  const [northSouth, eastWest] = [(rings + 0.5) * cellLatDeg, (rings + 0.5) * cellLonDeg];
  return [middle.lonDeg - eastWest, middle.latDeg - northSouth, middle.lonDeg + eastWest, middle.latDeg + northSouth];
}

/** Ground and what stands on it in every cell of a grid, row by row. */
export interface GridGround {
  /** NaN where nothing is known. */
  groundAmslM: Float32Array;
  coverHeightM: Float32Array;
  /** What stands there, as terrain codes it. */
  coverCode: Uint8Array;
}

/** Columns and rows of a grid, each from and to (exclusive). */
export interface CellWindow {
  columns: [from: number, to: number];
  rows: [from: number, to: number];
}

/** Reads the ground at the middle of every cell of a window; what lies outside it stays unknown. */
export function readGrid(
  terrain: Terrain,
  grid: CoverageGrid,
  window: CellWindow = { columns: [0, sideOf(grid)], rows: [0, sideOf(grid)] },
): GridGround {
  const side = sideOf(grid);
  const groundAmslM = new Float32Array(side * side).fill(NaN);
  const coverHeightM = new Float32Array(side * side);
  const coverCode = new Uint8Array(side * side);
  const [firstColumn, endColumn] = window.columns;
  const count = endColumn - firstColumn;
  const places = { latDeg: new Float64Array(count), lonDeg: new Float64Array(count) };
  const read = {
    groundAmslM: new Float64Array(count),
    coverHeightM: new Float64Array(count),
    coverCode: new Uint8Array(count),
  };
  for (let row = window.rows[0]; row < window.rows[1]; row++) {
    for (let i = 0; i < count; i++) places.lonDeg[i] = signedAngleDeg(cellPlace(grid, firstColumn + i, row).lonDeg);
    places.latDeg.fill(cellPlace(grid, firstColumn, row).latDeg);
    readAlong(terrain, places, read);
    groundAmslM.set(read.groundAmslM, row * side + firstColumn);
    coverHeightM.set(read.coverHeightM, row * side + firstColumn);
    coverCode.set(read.coverCode, row * side + firstColumn);
  }
  return { groundAmslM, coverHeightM, coverCode };
}
