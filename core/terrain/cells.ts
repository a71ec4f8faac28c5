import { columnsEast, rowsSouth, type GridFrame } from "./surface";

/** Share of a step at which a coordinate passes into another cell: 1 where it does not. */
export function changeShare(from: number, to: number): number {
  const cell = Math.floor(from);
  const next = Math.floor(to);
  return cell === next ? 1 : (Math.max(cell, next) - from) / (to - from);
}

/** Shares of the step that leads to sample `i` at which it passes into another column of a raster and into another row. */
export const cellChange = (frame: GridFrame, latDeg: Float64Array, lonDeg: Float64Array, i: number) => ({
  column: changeShare(columnsEast(frame, lonDeg[i - 1]!), columnsEast(frame, lonDeg[i]!)),
  row: changeShare(rowsSouth(frame, latDeg[i - 1]!), rowsSouth(frame, latDeg[i]!)),
});
