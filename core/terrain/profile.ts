import { inverseGeodesic, placesAlong, type Place } from "../geodesy";
import { layAreas } from "./areas";
import { readAlong } from "./readAlong";
import { stepBetweenM, type Terrain } from "./terrain";

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
  /** On a profile in scratch: where an answer may write the heights that it finds in the way. */
  obstructionsInto?: Float64Array | undefined;
}

/** Ends closer than this are one place: no path lies between them. */
export const SHORTEST_PATH_M = 5;

/** An antenna stands on what is there: cover this near an end is not in the way. */
const LEAST_END_M = 30;

/** Arrays that one profile after another is written to, so that many paths in a row leave nothing to clear away. */
export interface ProfileScratch {
  distancesKm: Float64Array;
  latDeg: Float64Array;
  lonDeg: Float64Array;
  groundAmslM: Float64Array;
  coverHeightM: Float64Array;
  coverCode: Uint8Array;
  obstructionsInto?: Float64Array | undefined;
}

/** Scratch for profiles of up to `samples` samples; longer ones get arrays of their own. */
export function profileScratch(samples = 4096): ProfileScratch {
  return { ...arraysOf(samples), obstructionsInto: new Float64Array(samples) };
}

function arraysOf(count: number): ProfileScratch {
  return {
    distancesKm: new Float64Array(count),
    latDeg: new Float64Array(count),
    lonDeg: new Float64Array(count),
    groundAmslM: new Float64Array(count),
    coverHeightM: new Float64Array(count),
    coverCode: new Uint8Array(count),
  };
}

function firstOf(scratch: ProfileScratch, count: number): ProfileScratch {
  return {
    distancesKm: scratch.distancesKm.subarray(0, count),
    latDeg: scratch.latDeg.subarray(0, count),
    lonDeg: scratch.lonDeg.subarray(0, count),
    groundAmslM: scratch.groundAmslM.subarray(0, count),
    coverHeightM: scratch.coverHeightM.subarray(0, count),
    coverCode: scratch.coverCode.subarray(0, count),
    obstructionsInto: scratch.obstructionsInto?.subarray(0, count),
  };
}

/**
 * Samples the ground and cover along the geodesic from `from` to `to`, no farther apart than `stepM` (the cell of the
 * finest raster between them unless given). Where nothing is known the ground is NaN and counted in `holes`. A profile
 * written to `scratch` holds until the next one is.
 */
export function sampleProfile(
  terrain: Terrain,
  from: Place,
  to: Place,
  stepM = stepBetweenM(terrain, from, to),
  scratch?: ProfileScratch,
): Profile {
  const line = inverseGeodesic(from, to);
  const { distanceM } = line;
  const count = Math.max(2, Math.ceil(distanceM / stepM) + 1);
  const arrays = scratch && count <= scratch.distancesKm.length ? firstOf(scratch, count) : arraysOf(count);
  const { distancesKm, latDeg, lonDeg, groundAmslM, coverHeightM, coverCode } = arrays;
  placesAlong(from, to, count, line, arrays);
  readAlong(terrain, arrays, arrays);
  const spacingKm = distanceM / (count - 1) / 1000;
  let holeCount = 0;
  let firstKm = 0;
  for (let i = 0; i < count; i++) {
    distancesKm[i] = i * spacingKm;
    const ground = groundAmslM[i]!;
    if (ground !== ground && holeCount++ === 0) firstKm = distancesKm[i]!;
  }
  distancesKm[count - 1] = distanceM / 1000;
  if (terrain.areas) layAreas(terrain.areas, latDeg, lonDeg, coverHeightM, coverCode);
  const endKm = Math.max(stepM, LEAST_END_M) / 1000;
  for (let i = 0; i < count && distancesKm[i]! <= endKm; i++) coverHeightM[i] = coverHeightM[count - 1 - i] = 0;
  const holes = holeCount > 0 ? { count: holeCount, firstKm } : null;
  const { azimuthDeg, backAzimuthDeg } = line;
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
    obstructionsInto: arrays.obstructionsInto,
  };
}
