import { KM_PER_DEG } from "../geodesy";
/** Subscribers counted on a grid of squares. */
export interface DensityCell {
  westDeg: number;
  southDeg: number;
  eastDeg: number;
  northDeg: number;
  count: number;
  perKm2: number;
  demandMbps: number;
}

/**
 * Counts subscribers on squares of `cellKm`, only those that hold any, densest first. Squares lie on a fixed grid of
 * latitude, so that they stand still while subscribers come and go.
 */
export function densityCells(
  subscribers: Iterable<{ latDeg: number; lonDeg: number; demandMbps: number }>,
  cellKm = 1,
): DensityCell[] {
  if (!(cellKm > 0)) throw new RangeError(`cellKm is ${cellKm}; it must be above 0`);
  const cellLat = cellKm / KM_PER_DEG;
  const cells = new Map<string, DensityCell>();
  for (const { latDeg, lonDeg, demandMbps } of subscribers) {
    const row = Math.floor(latDeg / cellLat);
    // Every row of squares has its own width in degrees, so that each square is as wide as it is high.
    const cellLon = cellLat / Math.max(0.01, Math.cos(((row + 0.5) * cellLat * Math.PI) / 180));
    const column = Math.floor(lonDeg / cellLon);
    const key = `${row} ${column}`;
    const cell = cells.get(key) ?? {
      westDeg: column * cellLon,
      southDeg: row * cellLat,
      eastDeg: (column + 1) * cellLon,
      northDeg: (row + 1) * cellLat,
      count: 0,
      perKm2: 0,
      demandMbps: 0,
    };
    cell.count++;
    cell.perKm2 = cell.count / cellKm ** 2;
    cell.demandMbps += demandMbps;
    cells.set(key, cell);
  }
  return [...cells.values()].sort((x, y) => y.count - x.count);
}
