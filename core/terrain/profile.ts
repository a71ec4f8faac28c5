import { inverseGeodesic, placesAlong, type Place } from "../geodesy";
import { layAreas } from "./areas";
import { readGround, stepBetweenM, type GroundSample, type Terrain } from "./terrain";

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

/** An antenna stands on what is there: cover this near an end is not in the way. */
const LEAST_END_M = 30;

/**
 * Samples the ground and cover along the geodesic from `from` to `to`, no farther apart than `stepM` (the cell of the
 * finest raster between them unless given). Where nothing is known the ground is NaN and counted in `holes`.
 */
export function sampleProfile(
  terrain: Terrain,
  from: Place,
  to: Place,
  stepM = stepBetweenM(terrain, from, to),
): Profile {
  const { distanceM, azimuthDeg, backAzimuthDeg } = inverseGeodesic(from, to);
  const count = Math.max(2, Math.ceil(distanceM / stepM) + 1);
  const { latDeg, lonDeg } = placesAlong(from, to, count);
  const distancesKm = new Float64Array(count);
  const groundAmslM = new Float64Array(count);
  const coverHeightM = new Float64Array(count);
  const coverCode = new Uint8Array(count);
  const sample: GroundSample = { groundAmslM: 0, coverHeightM: 0, coverCode: 0 };
  let holeCount = 0;
  let firstKm = 0;
  for (let i = 0; i < count; i++) {
    distancesKm[i] = (distanceM * i) / (count - 1) / 1000;
    readGround(terrain, latDeg[i]!, lonDeg[i]!, sample);
    groundAmslM[i] = sample.groundAmslM;
    coverHeightM[i] = sample.coverHeightM;
    coverCode[i] = sample.coverCode;
    if (sample.groundAmslM !== sample.groundAmslM && holeCount++ === 0) firstKm = distancesKm[i]!;
  }
  if (terrain.areas) layAreas(terrain.areas, latDeg, lonDeg, coverHeightM, coverCode);
  const endKm = Math.max(stepM, LEAST_END_M) / 1000;
  for (let i = 0; i < count && distancesKm[i]! <= endKm; i++) coverHeightM[i] = coverHeightM[count - 1 - i] = 0;
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
