import { sideOf, type CoverageGrid } from "./grid";

/** What lengths may be off by through rounding, as a share. */
export const ROUNDING = 1e-9;

/** Rays through each cell of the square's outermost ring. */
const RAYS_PER_RIM_CELL = 2;
/** Rays from the middle to the rim. */
export const raysOf = ({ rings }: CoverageGrid): number => 8 * rings * RAYS_PER_RIM_CELL;

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
  /** Where it meets the rim, cells east and south of the middle. */
  east: number;
  south: number;
  lengthKm: number;
}

export function rayOf({ rings, cellNorthKm, cellEastKm }: CoverageGrid, ray: number): Ray {
  const [east, south] = rimOf(rings, ray);
  return { east, south, lengthKm: Math.hypot(east * cellEastKm, south * cellNorthKm) };
}

/**
 * Calls `found` with each cell that a ray answers, from the middle outward: of each row or column that it crosses the cell whose middle it
 * passes nearest of all rays. Cells beyond the circle belong to nobody.
 */
export function cellsOfRay(
  grid: CoverageGrid,
  { east, south }: Ray,
  found: (cell: number, east: number, south: number, km: number) => void,
): void {
  const { rings, cellEastKm, cellNorthKm } = grid;
  const side = sideOf(grid);
  const isSteep = Math.abs(south) >= Math.abs(east);
  const across = (isSteep ? east : south) / rings;
  const way = Math.sign(isSteep ? south : east);
  // Without | 0 a ray's zero may be −0, which is no small whole number to V8: halfway round, what is compiled would be thrown away.
  const ownRay = Math.round(across * rings * RAYS_PER_RIM_CELL) | 0;
  const mostKm = rings * Math.max(cellNorthKm, cellEastKm) * (1 + ROUNDING);
  for (let step = 1; step <= rings; step++) {
    const minor = Math.floor(across * step + 0.5);
    // Twice how far it passes from this ray, in rays: of two rays that are equally near the first one's.
    const offRay = 2 * (minor * rings * RAYS_PER_RIM_CELL - ownRay * step);
    if (offRay < -step || offRay >= step) continue;
    const cellEast = isSteep ? minor : way * step;
    const cellSouth = isSteep ? way * step : minor;
    const [eastKm, southKm] = [cellEast * cellEastKm, cellSouth * cellNorthKm];
    const km = Math.sqrt(eastKm * eastKm + southKm * southKm);
    if (km > mostKm) return;
    found((rings + cellSouth) * side + rings + cellEast, cellEast, cellSouth, km);
  }
}
