import { signedAngleDeg, type Place } from "../geodesy";

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
  return {
    latDeg: middle.latDeg + (rings - row) * cellLatDeg,
    lonDeg: signedAngleDeg(middle.lonDeg + (column - rings) * cellLonDeg),
  };
}

/** The cell at a place; null outside the grid. */
export function cellAt(grid: CoverageGrid, { latDeg, lonDeg }: Place): number | null {
  const { middle, rings, cellLatDeg, cellLonDeg } = grid;
  const column = rings + Math.round(signedAngleDeg(lonDeg - middle.lonDeg) / cellLonDeg);
  const row = rings - Math.round((latDeg - middle.latDeg) / cellLatDeg);
  const side = sideOf(grid);
  return column < 0 || row < 0 || column >= side || row >= side ? null : row * side + column;
}

/** West, south, east and north edge, degrees, counted on over the 180th meridian. */
export function gridExtent({ middle, rings, cellLatDeg, cellLonDeg }: CoverageGrid): [number, number, number, number] {
  const [northSouth, eastWest] = [(rings + 0.5) * cellLatDeg, (rings + 0.5) * cellLonDeg];
  return [middle.lonDeg - eastWest, middle.latDeg - northSouth, middle.lonDeg + eastWest, middle.latDeg + northSouth];
}

/** Columns and rows of a grid, each from and to (exclusive). */
export interface CellWindow {
  columns: [from: number, to: number];
  rows: [from: number, to: number];
}
