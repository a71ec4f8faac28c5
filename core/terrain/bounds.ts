import { M_PER_DEG } from "../geodesy";
/** West, south, east and north edge, degrees. */
export type Bounds = [westDeg: number, southDeg: number, eastDeg: number, northDeg: number];

/** The bounds of some places, `marginM` wider on every side. */
export function boundsOf(places: readonly { latDeg: number; lonDeg: number }[], marginM: number): Bounds {
  let [west, south, east, north] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const { latDeg, lonDeg } of places) {
    west = Math.min(west, lonDeg);
    east = Math.max(east, lonDeg);
    south = Math.min(south, latDeg);
    north = Math.max(north, latDeg);
  }
  if (east - west > 180) {
    // Places on both sides of the 180th meridian lie close together: those west of it are counted on.
    const shifted = places.map(({ lonDeg }) => (lonDeg < 0 ? lonDeg + 360 : lonDeg));
    west = Math.min(...shifted);
    east = Math.max(...shifted);
  }
  const latMargin = marginM / M_PER_DEG;
  const lonMargin = latMargin / Math.max(0.05, Math.cos((((south + north) / 2) * Math.PI) / 180));
  return [west - lonMargin, south - latMargin, east + lonMargin, north + latMargin];
}
