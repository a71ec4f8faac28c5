import type { Place } from "./geodesic";

/** Metres to a degree of latitude, and of longitude on the equator, on a sphere of 6371 km: within 0.6 % anywhere, enough to rank and to leave out by. */
export const M_PER_DEG = 111_195;
export const KM_PER_DEG = M_PER_DEG / 1000;

/** Distance as on a flat map, m; within 1 % up to some tens of kilometres, away from the poles. */
export function flatM(x: Place, y: Place): number {
  const north = (x.latDeg - y.latDeg) * M_PER_DEG;
  const east = (x.lonDeg - y.lonDeg) * M_PER_DEG * Math.cos(((x.latDeg + y.latDeg) * Math.PI) / 360);
  return Math.hypot(north, east);
}
