import { signedAngleDeg } from "../geodesy";
import type { CoverRun } from "./areas";
import { changeShare } from "./cells";
import {
  columnsEast,
  coverCodeIn,
  coverHeightIn,
  isTrees,
  rowsSouth,
  UNKNOWN_COVER,
  type GridFrame,
  type Surface,
} from "./surface";
import { readGround, type GroundSample, type Terrain } from "./terrain";

/** An antenna stands on what is there: cover this near an end, in the end's own cell, or of the house on which it stands, is not in the way. */
export const END_ZONE_M = 5;

/** A path's samples, as a profile holds them. */
interface Samples {
  distancesKm: Float64Array;
  latDeg: Float64Array;
  lonDeg: Float64Array;
  coverHeightM: Float64Array;
  coverCode: Uint8Array;
}

/** Stretches of a cell shorter than this, as shares of a step, are rounding. */
const LEAST_SHARE = 1e-6;

/**
 * Clears the cover that the ends stand on or in, and finds what evenly spaced samples miss of each raster's cells: a corner of
 * a taller cell cut between two samples, and what lies between an end's zone and the next sample. With it every cell that
 * the path crosses has been looked at once. Steps must be no longer than any raster's cell; `corners` are those, as
 * `readAlong` gives them, that may go over one.
 */
export function rasterRuns(
  terrain: Terrain,
  samples: Samples,
  count: number,
  corners: readonly number[] | null,
): CoverRun[] {
  const { distancesKm } = samples;
  const last = count - 1;
  const pathKm = distancesKm[last]!;
  const zoneKm = Math.min(END_ZONE_M / 1000, pathKm / 2);
  // The step that leaves the near end's zone, and the one that enters the far end's.
  let leaving = 1;
  while (leaving < last && distancesKm[leaving]! <= zoneKm) leaving++;
  let entering = last;
  while (entering > 1 && distancesKm[entering - 1]! >= pathKm - zoneKm) entering--;
  const runs: CoverRun[] = [];
  for (const { surface, kind } of terrain.layers) {
    if (kind === "surface") continue;
    const walk: Walk = { terrain, surface, samples, last, zoneKm, leaving, entering, runs };
    if (corners) for (const i of corners) crossCorner(walk, i);
    else for (let i = leaving; i <= entering; i++) crossCorner(walk, i);
    crossZoneEdge(walk, true);
    crossZoneEdge(walk, false);
  }
  clearEnd(terrain, samples, 0, last, zoneKm);
  clearEnd(terrain, samples, last, last, zoneKm);
  return runs.length > 1 ? runs.sort((x, y) => x.heightM - y.heightM) : runs;
}

/** One raster's cells looked at along a path. */
interface Walk {
  terrain: Terrain;
  surface: Surface;
  samples: Samples;
  /** Index of the far end. */
  last: number;
  zoneKm: number;
  leaving: number;
  entering: number;
  runs: CoverRun[];
}

/** Keeps the corner of a cell that the step into sample `i` goes over, if it goes over one. */
function crossCorner(walk: Walk, i: number): void {
  const { surface, samples, leaving, entering } = walk;
  if (i < leaving || i > entering) return;
  const x0 = columnsEast(surface.frame, samples.lonDeg[i - 1]!);
  const y0 = rowsSouth(surface.frame, samples.latDeg[i - 1]!);
  const x1 = columnsEast(surface.frame, samples.lonDeg[i]!);
  const y1 = rowsSouth(surface.frame, samples.latDeg[i]!);
  if (Math.floor(x0) === Math.floor(x1) || Math.floor(y0) === Math.floor(y1)) return;
  const tx = changeShare(x0, x1);
  const ty = changeShare(y0, y1);
  const beforeM = i === leaving ? 0 : samples.coverHeightM[i - 1]!;
  const afterM = i === entering ? 0 : samples.coverHeightM[i]!;
  const besideM = Math.max(beforeM, afterM);
  const column = Math.floor(tx < ty ? x1 : x0);
  const row = Math.floor(tx < ty ? y0 : y1);
  if (isTaller(surface, column, row, besideM))
    keepCell(walk, i, column, row, Math.min(tx, ty), Math.max(tx, ty), besideM);
}

/** Keeps what lies between an end's zone and the sample next to it, of the cell in which the zone ends. */
function crossZoneEdge(walk: Walk, isNearEnd: boolean): void {
  const { surface, samples, leaving, entering } = walk;
  const [inside, outside] = isNearEnd ? [leaving - 1, leaving] : [entering, entering - 1];
  const x0 = columnsEast(surface.frame, samples.lonDeg[inside]!);
  const y0 = rowsSouth(surface.frame, samples.latDeg[inside]!);
  const share = Math.min(
    changeShare(x0, columnsEast(surface.frame, samples.lonDeg[outside]!)),
    changeShare(y0, rowsSouth(surface.frame, samples.latDeg[outside]!)),
  );
  // However low: nothing else tells of a cell that has no sample outside the zone.
  const besideM = share < 1 ? 0 : samples.coverHeightM[outside]!;
  if (!isTaller(surface, Math.floor(x0), Math.floor(y0), besideM)) return;
  if (isNearEnd) keepCell(walk, leaving, Math.floor(x0), Math.floor(y0), 0, share, besideM);
  else keepCell(walk, entering, Math.floor(x0), Math.floor(y0), 1 - share, 1, besideM);
}

/** Whether a cell of the raster holds cover over a height. */
function isTaller(surface: Surface, column: number, row: number, heightM: number): boolean {
  const { columns, rows } = surface.frame;
  if (column < 0 || row < 0 || column >= columns || row >= rows) return false;
  const code = coverCodeIn(surface, column, row);
  return code !== 0 && code !== UNKNOWN_COVER && coverHeightIn(surface, column, row) > heightM;
}

/** Keeps what a step into sample `i` crosses of a cell, from and to shares of the step, if what stands there is taller than the samples beside it. */
function keepCell(
  { terrain, surface, samples: { distancesKm, latDeg, lonDeg }, last, zoneKm, runs }: Walk,
  i: number,
  column: number,
  row: number,
  enter: number,
  leave: number,
  besideM: number,
): void {
  const stepKm = distancesKm[i]! - distancesKm[i - 1]!;
  const fromKm = Math.max(distancesKm[i - 1]! + enter * stepKm, zoneKm);
  const toKm = Math.min(distancesKm[i - 1]! + leave * stepKm, distancesKm[last]! - zoneKm);
  if (toKm - fromKm <= LEAST_SHARE * stepKm) return;
  if (isCellOf(surface.frame, column, row, latDeg[0]!, lonDeg[0]!)) return;
  if (isCellOf(surface.frame, column, row, latDeg[last]!, lonDeg[last]!)) return;
  // What stands there is said by the finest raster that knows, which need not be this one.
  const ground: GroundSample = { groundAmslM: 0, coverHeightM: 0, coverCode: 0 };
  const share = ((fromKm + toKm) / 2 - distancesKm[i - 1]!) / stepKm;
  const lonStep = signedAngleDeg(lonDeg[i]! - lonDeg[i - 1]!);
  readGround(
    terrain,
    latDeg[i - 1]! + (latDeg[i]! - latDeg[i - 1]!) * share,
    signedAngleDeg(lonDeg[i - 1]! + lonStep * share),
    ground,
  );
  if (ground.coverHeightM > besideM) runs.push({ fromKm, toKm, heightM: ground.coverHeightM, code: ground.coverCode });
}

function isCellOf(frame: GridFrame, column: number, row: number, latDeg: number, lonDeg: number): boolean {
  return Math.floor(columnsEast(frame, lonDeg)) === column && Math.floor(rowsSouth(frame, latDeg)) === row;
}

/** Takes away the cover of the samples in one end's zone, and in the cell of cover that the end itself stands in. */
function clearEnd({ layers }: Terrain, samples: Samples, end: number, last: number, zoneKm: number): void {
  const { distancesKm, latDeg, lonDeg, coverHeightM, coverCode } = samples;
  let own: GridFrame | null = null;
  let ownColumn = -1;
  let ownRow = -1;
  for (const { surface, kind } of layers) {
    const { frame } = surface;
    ownColumn = Math.floor(columnsEast(frame, lonDeg[end]!));
    ownRow = Math.floor(rowsSouth(frame, latDeg[end]!));
    if (kind === "surface" || ownColumn < 0 || ownRow < 0 || ownColumn >= frame.columns || ownRow >= frame.rows)
      continue;
    const code = coverCodeIn(surface, ownColumn, ownRow);
    if (code === UNKNOWN_COVER || (kind === "bare" && code === 0)) continue;
    own = frame;
    break;
  }
  const way = end === 0 ? 1 : -1;
  for (let i = end; i >= 0 && i <= last; i += way) {
    const isNear = Math.abs(distancesKm[i]! - distancesKm[end]!) <= zoneKm;
    if (!isNear && !(own && isCellOf(own, ownColumn, ownRow, latDeg[i]!, lonDeg[i]!))) return;
    coverHeightM[i] = coverCode[i] = 0;
  }
}

/** An edge closer to a sample than this shares the sample, km. */
const SAME_PLACE_KM = 1e-6;

/** Marks of samples at which a run of cover that was laid over a path begins or ends. */
export const ENTRY = 1;
export const EXIT = 2;

/** Samples with their ground. */
export interface RoomySamples extends Samples {
  groundAmslM: Float64Array;
}

/**
 * Puts a place more at either edge of every run among the first `count` samples, and lays what the runs say over their cover:
 * rasters' runs where they are taller, areas' runs in place of whatever the rasters say. Gives the new count, whether a new place lies
 * in a hole, and the samples at which a run begins or ends; the arrays need room for two more places a run.
 */
export function layRuns(
  terrain: Terrain,
  samples: RoomySamples,
  count: number,
  rasters: readonly CoverRun[],
  outlines: readonly CoverRun[],
): { count: number; hasHole: boolean; edges: Map<number, number> } {
  const { distancesKm, coverHeightM, coverCode } = samples;
  const edgesKm: number[] = [];
  for (const { fromKm, toKm } of rasters) edgesKm.push(fromKm, toKm);
  for (const { fromKm, toKm } of outlines) edgesKm.push(fromKm, toKm);
  const { newCount, hasHole } = insertPlaces(terrain, samples, count, edgesKm);
  const edges = new Map<number, number>();
  for (const runs of [rasters, outlines]) {
    for (const { fromKm, toKm, heightM, code } of runs) {
      const first = indexFrom(distancesKm, newCount, fromKm - SAME_PLACE_KM);
      const final = indexFrom(distancesKm, newCount, toKm - SAME_PLACE_KM);
      edges.set(first, (edges.get(first) ?? 0) | ENTRY);
      edges.set(final, (edges.get(final) ?? 0) | EXIT);
      for (let i = first; i <= final; i++) {
        if (runs === rasters && heightM <= coverHeightM[i]!) continue;
        coverHeightM[i] = heightM;
        coverCode[i] = code;
      }
    }
  }
  return { count: newCount, hasHole, edges };
}

/** The part of every run that lies beyond the ends' zones; nothing of a house on which an end stands. */
export function beyondEnds(runs: readonly CoverRun[], pathKm: number): CoverRun[] {
  const zoneKm = Math.min(END_ZONE_M / 1000, pathKm / 2);
  const isOwnHouse = ({ fromKm, toKm, code }: CoverRun) =>
    !isTrees(code) && (fromKm <= SAME_PLACE_KM || toKm >= pathKm - SAME_PLACE_KM);
  return runs
    .filter((run) => !isOwnHouse(run))
    .map((run) => ({ ...run, fromKm: Math.max(run.fromKm, zoneKm), toKm: Math.min(run.toKm, pathKm - zoneKm) }))
    .filter(({ fromKm, toKm }) => toKm - fromKm > SAME_PLACE_KM);
}

/** The first index at or after a distance. */
function indexFrom(distancesKm: Float64Array, count: number, km: number): number {
  let low = 0;
  let high = count - 1;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (distancesKm[middle]! < km) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Puts a sample at each of some distances that has none, from the far end on; its ground is read, its cover is the run's that begins or ends there. */
function insertPlaces(
  terrain: Terrain,
  samples: RoomySamples,
  count: number,
  edgesKm: number[],
): { newCount: number; hasHole: boolean } {
  const { distancesKm, latDeg, lonDeg, groundAmslM, coverHeightM, coverCode } = samples;
  edgesKm.sort((x, y) => x - y);
  const places = edgesKm.filter(
    (km, n) =>
      !(n > 0 && km - edgesKm[n - 1]! <= SAME_PLACE_KM) &&
      distancesKm[indexFrom(distancesKm, count, km - SAME_PLACE_KM)]! - km > SAME_PLACE_KM,
  );
  const ground: GroundSample = { groundAmslM: 0, coverHeightM: 0, coverCode: 0 };
  let end = count;
  let hasHole = false;
  for (let n = places.length - 1; n >= 0; n--) {
    const km = places[n]!;
    const after = indexFrom(distancesKm, count, km);
    const share = (km - distancesKm[after - 1]!) / (distancesKm[after]! - distancesKm[after - 1]!);
    const lonStep = signedAngleDeg(lonDeg[after]! - lonDeg[after - 1]!);
    const lat = latDeg[after - 1]! + (latDeg[after]! - latDeg[after - 1]!) * share;
    const lon = signedAngleDeg(lonDeg[after - 1]! + lonStep * share);
    const shift = n + 1;
    if (after < end) {
      distancesKm.copyWithin(after + shift, after, end);
      latDeg.copyWithin(after + shift, after, end);
      lonDeg.copyWithin(after + shift, after, end);
      groundAmslM.copyWithin(after + shift, after, end);
      coverHeightM.copyWithin(after + shift, after, end);
      coverCode.copyWithin(after + shift, after, end);
    }
    const at = after + n;
    readGround(terrain, lat, lon, ground);
    distancesKm[at] = km;
    latDeg[at] = lat;
    lonDeg[at] = lon;
    groundAmslM[at] = ground.groundAmslM;
    hasHole ||= Number.isNaN(ground.groundAmslM);
    coverHeightM[at] = coverCode[at] = 0;
    end = after;
  }
  return { newCount: count + places.length, hasHole };
}
