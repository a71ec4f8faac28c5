import { inverseGeodesic, placesAlong, type Place } from "../geodesy";
import { cellAt, cellSizeM, frameContains, groundAt, type Surface } from "./surface";

/** The cut through the ground between two ends; all arrays have the same length, ends included. */
export interface Profile {
  from: Place;
  to: Place;
  distanceM: number;
  azimuthDeg: number;
  backAzimuthDeg: number;
  /** Distance from `from`, km. */
  distancesKm: Float64Array;
  latDeg: Float64Array;
  lonDeg: Float64Array;
  /** NaN at a hole. */
  groundAmslM: Float64Array;
  /** 0 at the two ends' own cells: an antenna stands on what is there. */
  coverHeightM: Float64Array;
  coverCode: Uint8Array;
  /** Samples without ground, and the distance from `from` of the first, km. */
  holes: { count: number; firstKm: number } | null;
}

/** Ends closer than this are one place: no path lies between them. */
export const SHORTEST_PATH_M = 5;

/**
 * Samples the ground and cover along the geodesic from `from` to `to`, no farther apart than `stepM`
 * (the surface's cell size unless given). Where nothing is known the ground is NaN and counted in `holes`.
 */
export function sampleProfile(surface: Surface, from: Place, to: Place, stepM = cellSizeM(surface.frame)): Profile {
  const { distanceM, azimuthDeg, backAzimuthDeg } = inverseGeodesic(from, to);
  const count = Math.max(2, Math.ceil(distanceM / stepM) + 1);
  const { latDeg, lonDeg } = placesAlong(from, to, count);
  const distancesKm = new Float64Array(count);
  const groundAmslM = new Float64Array(count);
  const coverHeightM = new Float64Array(count);
  const coverCode = new Uint8Array(count);
  const endCoverM = Math.max(stepM, 30);
  let holeCount = 0;
  let firstKm = 0;
  for (let i = 0; i < count; i++) {
    const alongM = (distanceM * i) / (count - 1);
    const lat = latDeg[i]!;
    const lon = lonDeg[i]!;
    const ground = groundAt(surface, lat, lon);
    distancesKm[i] = alongM / 1000;
    groundAmslM[i] = ground;
    if (ground !== ground) {
      if (holeCount++ === 0) firstKm = alongM / 1000;
      continue;
    }
    if (!frameContains(surface.frame, { latDeg: lat, lonDeg: lon })) continue;
    const { column, row } = cellAt(surface.frame, lat, lon);
    coverCode[i] = surface.coverCode(column, row);
    if (alongM > endCoverM && distanceM - alongM > endCoverM) coverHeightM[i] = surface.coverHeightM(column, row);
  }
  const holes = holeCount > 0 ? { count: holeCount, firstKm } : null;
  return {
    from,
    to,
    distanceM,
    azimuthDeg,
    backAzimuthDeg,
    distancesKm,
    latDeg,
    lonDeg,
    groundAmslM,
    coverHeightM,
    coverCode,
    holes,
  };
}
