import { signedAngleDeg, type Place } from "#core/geodesy";
import { fromLonLat } from "ol/proj";

/** How places lie on one map. */
export interface Projection {
  project: (place: Place) => number[];
  projectLonLat: (at: readonly [lonDeg: number, latDeg: number]) => number[];
}

/** Mercator with everything on the side of the 180th meridian that is nearer to the map's middle: what lies astride of it stays together. */
export function projectionAround(middleLonDeg: number): Projection {
  const projectLonLat = ([lonDeg, latDeg]: readonly [number, number]) =>
    fromLonLat([middleLonDeg + signedAngleDeg(lonDeg - middleLonDeg), latDeg]);
  return { projectLonLat, project: ({ latDeg, lonDeg }) => projectLonLat([lonDeg, latDeg]) };
}
