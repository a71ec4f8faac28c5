import { inverseGeodesic, placesAlong, type Geodesic, type Place } from "../geodesy";
import { areaRuns, type CoverRun } from "./areas";
import { beyondEnds, layRuns, rasterRuns, type RoomySamples } from "./coverRuns";
import { readAlong } from "./readAlong";
import type { GridFrame } from "./surface";
import { boundedStepM, type Terrain } from "./terrain";

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
  /** 0 near the two ends and in their own cells: an antenna stands on what is there. */
  coverHeightM: Float64Array;
  coverCode: Uint8Array;
  /** The raster whose cells the cover was read from: where several layers have cover, the finest. */
  coverFrame: GridFrame | null;
  /** Samples at which a run laid over the path begins or ends (`coverStep`); null where samples are even. */
  runEdges: ReadonlyMap<number, number> | null;
  /** Samples without ground, and the distance from `from` of the first, km. */
  holes: { count: number; firstKm: number } | null;
  /** On a profile in scratch: where an answer may write the heights that it finds in the way. */
  obstructionsInto?: Float64Array | undefined;
}

/** Ends closer than this are one place: no path lies between them. */
export const SHORTEST_PATH_M = 5;

/** A path has something between its ends, however short it is. */
const FEWEST_SAMPLES = 3;

/**
 * Arrays that one profile after another is written to, so that many paths in a row leave nothing to clear away. A class, because of a
 * literal V8 may take the second one for another shape, and then throws away what it compiled, again and again.
 */
class ProfileScratch implements RoomySamples {
  /** The first so many samples as arrays of their own, by how many: making the views anew costs a path some microseconds. */
  private readonly firsts = new Map<number, ProfileScratch>();

  private constructor(
    readonly distancesKm: Float64Array,
    readonly latDeg: Float64Array,
    readonly lonDeg: Float64Array,
    readonly groundAmslM: Float64Array,
    readonly coverHeightM: Float64Array,
    readonly coverCode: Uint8Array,
    /** Where an answer may write the heights that it finds in the way. */
    readonly obstructionsInto: Float64Array | undefined,
  ) {}

  /** Room for so many samples; `withObstructions` for what an answer finds too. */
  static of(samples: number, withObstructions: boolean): ProfileScratch {
    const doubles = () => new Float64Array(samples);
    return new ProfileScratch(
      ...([doubles(), doubles(), doubles(), doubles(), doubles()] as const),
      new Uint8Array(samples),
      withObstructions ? doubles() : undefined,
    );
  }

  first(count: number): ProfileScratch {
    if (count === this.distancesKm.length) return this;
    const known = this.firsts.get(count);
    if (known) return known;
    const first = new ProfileScratch(
      this.distancesKm.subarray(0, count),
      this.latDeg.subarray(0, count),
      this.lonDeg.subarray(0, count),
      this.groundAmslM.subarray(0, count),
      this.coverHeightM.subarray(0, count),
      this.coverCode.subarray(0, count),
      this.obstructionsInto?.subarray(0, count),
    );
    if (this.firsts.size < MOST_FIRSTS) this.firsts.set(count, first);
    return first;
  }
}

/** Lengths whose views are kept; a plan's paths come to some hundreds. */
const MOST_FIRSTS = 1024;

/** Scratch for profiles of up to `samples` samples; longer ones get arrays of their own. */
export const profileScratch = (samples = 4096): ProfileScratch => ProfileScratch.of(samples, true);

/** The same samples in arrays with room for more. */
function roomier(samples: ProfileScratch, count: number): ProfileScratch {
  const roomy = ProfileScratch.of(count, false);
  for (const key of ["distancesKm", "latDeg", "lonDeg", "groundAmslM", "coverHeightM", "coverCode"] as const)
    roomy[key].set(samples[key]);
  return roomy;
}

/**
 * Samples the ground and cover along the geodesic from `from` to `to`, no farther apart than `stepM` (the cell of the
 * finest raster between them unless given; wider on paths over 150 km). Every cell of cover that the path crosses is looked at once, and outlines are
 * cut exactly: where either needs it, samples stand between the even ones. Where nothing is known the ground is NaN and
 * counted in `holes`. `line` is the geodesic, where it is known. A profile written to `scratch` holds until the next one is.
 */
export function sampleProfile(
  terrain: Terrain,
  from: Place,
  to: Place,
  stepM?: number,
  scratch?: ProfileScratch,
  line: Geodesic = inverseGeodesic(from, to),
): Profile {
  const { distanceM } = line;
  const wantedM = stepM ?? boundedStepM(terrain, from, to, distanceM);
  const count = Math.max(FEWEST_SAMPLES, Math.ceil(distanceM / wantedM) + 1);
  const room = scratch && count <= scratch.distancesKm.length ? scratch : ProfileScratch.of(count, false);
  const { distancesKm } = room;
  placesAlong(from, to, count, line, room);
  const { corners, hasHole } = readAlong(terrain, room, room, count);
  const spacingKm = distanceM / (count - 1) / 1000;
  for (let i = 0; i < count; i++) distancesKm[i] = i * spacingKm;
  distancesKm[count - 1] = distanceM / 1000;
  const rasters = rasterRuns(terrain, room, count, corners);
  const outlines = terrain.areas ? beyondEnds(areaRuns(terrain.areas, room, count), distanceM / 1000) : NO_RUNS;
  const { azimuthDeg, backAzimuthDeg } = line;
  const most = count + 2 * (rasters.length + outlines.length);
  const isEven = most === count;
  const roomy = most <= room.distancesKm.length ? room : roomier(room.first(count), most);
  const laid = isEven ? { count, hasHole, edges: null } : layRuns(terrain, roomy, count, rasters, outlines);
  const found = roomy.first(laid.count);
  return {
    from,
    to,
    distanceM,
    azimuthDeg,
    backAzimuthDeg,
    distancesKm: found.distancesKm,
    latDeg: found.latDeg,
    lonDeg: found.lonDeg,
    groundAmslM: found.groundAmslM,
    coverHeightM: found.coverHeightM,
    coverCode: found.coverCode,
    coverFrame: coverFrameOf(terrain),
    runEdges: laid.edges,
    holes: hasHole || laid.hasHole ? holesOf(found) : null,
    obstructionsInto: found.obstructionsInto,
  };
}

function coverFrameOf({ layers }: Terrain): GridFrame | null {
  for (const { surface, kind } of layers) if (kind !== "surface" && surface.coverCode) return surface.frame;
  return null;
}

/** Samples without ground; places put at edges may fall into a hole that no even sample meets. */
function holesOf({ groundAmslM, distancesKm }: RoomySamples): Profile["holes"] {
  let holes: Profile["holes"] = null;
  for (let i = 0; i < groundAmslM.length; i++) {
    if (!Number.isNaN(groundAmslM[i]!)) continue;
    holes ??= { count: 0, firstKm: distancesKm[i]! };
    holes.count++;
  }
  return holes;
}

const NO_RUNS: readonly CoverRun[] = [];
