import Flatbush from "flatbush";
import { signedAngleDeg } from "../geodesy";
import { coverCode, type CoverKind } from "./surface";

/** A stretch of a path with one kind of cover on it, known to the centimetre rather than to the sample. */
export interface CoverRun {
  fromKm: number;
  toKm: number;
  heightM: number;
  code: number;
}

/** An outline with what stands in it. */
export interface CoverArea {
  kind: CoverKind;
  heightM: number;
  density: number;
  /** Outer ring, then courts, each closed, as [longitude, latitude]. */
  rings: readonly (readonly (readonly [number, number])[])[];
}

/** Areas found by place: a packed tree of their bounds. */
export interface AreaIndex {
  areas: readonly CoverArea[];
  tree: Flatbush;
}

/** An index over `areas`, or null when there are none. */
export function areaIndex(areas: readonly CoverArea[]): AreaIndex | null {
  if (areas.length === 0) return null;
  const tree = new Flatbush(areas.length);
  for (const { rings } of areas) {
    let [west, south, east, north] = [Infinity, Infinity, -Infinity, -Infinity];
    for (const [lon, lat] of rings[0]!) {
      west = Math.min(west, lon);
      east = Math.max(east, lon);
      south = Math.min(south, lat);
      north = Math.max(north, lat);
    }
    tree.add(west, south, east, north);
  }
  tree.finish();
  return { areas, tree };
}

/** Areas that meet a rectangle, and the whole turns by which their longitudes are to be shifted into it. */
export function areasWithin(
  { areas, tree }: AreaIndex,
  west: number,
  south: number,
  east: number,
  north: number,
): { area: CoverArea; turnDeg: number }[] {
  const turns = [0];
  if (east > 180) turns.push(360);
  if (west < -180) turns.push(-360);
  return turns.flatMap((turnDeg) =>
    tree.search(west - turnDeg, south, east - turnDeg, north).map((index) => ({ area: areas[index]!, turnDeg })),
  );
}

/** Whether a place lies inside the outline: an odd number of edges to its east. */
function contains(area: CoverArea, lat: number, lon: number): boolean {
  let inside = false;
  for (const ring of area.rings) {
    for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
      const [xi, yi] = ring[i]!;
      const [xj, yj] = ring[j]!;
      if (yi > lat !== yj > lat && lon < ((xj - xi) * (lat - yi)) / (yj - yi) + xi) inside = !inside;
    }
  }
  return inside;
}

/** Where along a straight stretch (0 to 1) it enters and leaves an outline. */
function crossings(area: CoverArea, fromLat: number, fromLon: number, toLat: number, toLon: number): number[] {
  const dx = toLon - fromLon;
  const dy = toLat - fromLat;
  const cuts: number[] = [];
  for (const ring of area.rings) {
    for (let i = 1; i < ring.length; i++) {
      const [x1, y1] = ring[i - 1]!;
      const [x2, y2] = ring[i]!;
      const ex = x2 - x1;
      const ey = y2 - y1;
      const cross = dx * ey - dy * ex;
      if (cross === 0) continue;
      const along = ((x1 - fromLon) * ey - (y1 - fromLat) * ex) / cross;
      const edge = ((x1 - fromLon) * dy - (y1 - fromLat) * dx) / cross;
      // An edge owns its first corner only, so that a stretch through a corner is cut once.
      if (along > 0 && along < 1 && edge >= 0 && edge < 1) cuts.push(along);
    }
  }
  return cuts.sort((x, y) => x - y);
}

/** Samples taken as one straight stretch; the geodesic bows off it by centimetres. */
const STRETCH = 64;

/**
 * The stretches of a path that lie within areas, each cut where the straight line meets the outline, the tallest area last.
 * Samples stand at `distancesKm` from the start. A crossing at the seam of two stretches is one run.
 */
export function areaRuns(
  index: AreaIndex,
  { latDeg, lonDeg, distancesKm }: { latDeg: Float64Array; lonDeg: Float64Array; distancesKm: Float64Array },
  count: number,
): CoverRun[] {
  const last = count - 1;
  const runs: CoverRun[] = [];
  /** The run of each area that reaches to the end of the stretch before. */
  let open = new Map<CoverArea, CoverRun>();
  for (let start = 0; start < last; start += STRETCH) {
    const end = Math.min(start + STRETCH, last);
    const [fromLat, fromLon, toLat] = [latDeg[start]!, lonDeg[start]!, latDeg[end]!];
    const toLon = fromLon + signedAngleDeg(lonDeg[end]! - fromLon);
    const fromKm = distancesKm[start]!;
    const lengthKm = distancesKm[end]! - fromKm;
    const stillOpen = new Map<CoverArea, CoverRun>();
    for (const { area, turnDeg } of areasWithin(
      index,
      Math.min(fromLon, toLon),
      Math.min(fromLat, toLat),
      Math.max(fromLon, toLon),
      Math.max(fromLat, toLat),
    )) {
      const bounds = [0, ...crossings(area, fromLat, fromLon - turnDeg, toLat, toLon - turnDeg), 1];
      let inside = contains(area, fromLat, fromLon - turnDeg);
      for (let i = 1; i < bounds.length; i++, inside = !inside) {
        if (!inside) continue;
        const enterKm = fromKm + bounds[i - 1]! * lengthKm;
        const leaveKm = fromKm + bounds[i]! * lengthKm;
        let run = bounds[i - 1] === 0 ? open.get(area) : undefined;
        if (run) run.toKm = leaveKm;
        else {
          run = {
            fromKm: enterKm,
            toKm: leaveKm,
            heightM: area.heightM,
            code: coverCode(area.kind, area.density),
          };
          runs.push(run);
        }
        if (bounds[i] === 1) stillOpen.set(area, run);
      }
    }
    open = stillOpen;
  }
  return runs.sort((x, y) => x.heightM - y.heightM);
}
