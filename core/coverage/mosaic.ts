import { KM_PER_DEG, signedAngleDeg } from "../geodesy";
import { gridAround, gridExtent, sideOf, type CoverageGrid } from "./grid";

/** Most cells from the middle of a mosaic to its rim. */
const MOST_RINGS = 400;

/** One grid over several: their own where they are one, else a square over all of them with cells no finer than theirs. */
export function gridOver(grids: readonly CoverageGrid[]): CoverageGrid | null {
  const [first] = grids;
  if (!first) return null;
  if (grids.every((one) => isSame(one, first))) return first;
  // All on the first one's side of the 180th meridian.
  const extents = grids.map((one) => {
    const lonDeg = first.middle.lonDeg + signedAngleDeg(one.middle.lonDeg - first.middle.lonDeg);
    return gridExtent({ ...one, middle: { ...one.middle, lonDeg } });
  });
  const [west, south, east, north] = [0, 1, 2, 3].map((side) =>
    (side < 2 ? Math.min : Math.max)(...extents.map((extent) => extent[side]!)),
  ) as [number, number, number, number];
  const middle = { latDeg: (south + north) / 2, lonDeg: signedAngleDeg((west + east) / 2) };
  const halfKm = (KM_PER_DEG * Math.max(north - south, (east - west) * Math.cos((middle.latDeg * Math.PI) / 180))) / 2;
  const cellKm = Math.max(halfKm / MOST_RINGS, ...grids.map(({ cellNorthKm }) => cellNorthKm));
  return gridAround(middle, halfKm * 1000, cellKm * 1000);
}

const isSame = (one: CoverageGrid, other: CoverageGrid) =>
  one.rings === other.rings &&
  one.cellLatDeg === other.cellLatDeg &&
  one.middle.latDeg === other.middle.latDeg &&
  one.middle.lonDeg === other.middle.lonDeg;

/** Where the middle of each cell of one grid lies in another, −1 outside; null where the two are one. */
export function placesIn(grid: CoverageGrid, shared: CoverageGrid): Int32Array | null {
  if (isSame(grid, shared)) return null;
  const [side, sharedSide] = [sideOf(grid), sideOf(shared)];
  const places = new Int32Array(sharedSide * sharedSide).fill(-1);
  const at = (sharedCell: number, step: number, sharedStep: number, offset: number) =>
    Math.round((offset + (sharedCell - shared.rings) * sharedStep) / step) + grid.rings;
  const east = signedAngleDeg(shared.middle.lonDeg - grid.middle.lonDeg);
  const south = grid.middle.latDeg - shared.middle.latDeg;
  for (let row = 0; row < sharedSide; row++) {
    const ownRow = at(row, grid.cellLatDeg, shared.cellLatDeg, south);
    if (ownRow < 0 || ownRow >= side) continue;
    for (let column = 0; column < sharedSide; column++) {
      const ownColumn = at(column, grid.cellLonDeg, shared.cellLonDeg, east);
      if (ownColumn >= 0 && ownColumn < side) places[row * sharedSide + column] = ownRow * side + ownColumn;
    }
  }
  return places;
}
