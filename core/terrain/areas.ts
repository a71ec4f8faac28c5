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

/**
 * Where along a straight stretch (0 to 1) it enters and leaves an outline, and whether it begins inside: then the line ahead of
 * it, however far, crosses an odd number of edges. What lies on the line itself counts to its left, so that a touched
 * corner, or an edge along the line, cuts twice or not at all.
 */
function crossings(
  area: CoverArea,
  fromLat: number,
  fromLon: number,
  toLat: number,
  toLon: number,
): { cuts: number[]; beginsInside: boolean } {
  const dx = toLon - fromLon;
  const dy = toLat - fromLat;
  const lengthSquared = dx * dx + dy * dy;
  const cuts: number[] = [];
  let beginsInside = false;
  for (const ring of area.rings) {
    for (let i = 1; i < ring.length; i++) {
      const x1 = ring[i - 1]![0] - fromLon;
      const y1 = ring[i - 1]![1] - fromLat;
      const x2 = ring[i]![0] - fromLon;
      const y2 = ring[i]![1] - fromLat;
      const left1 = dx * y1 - dy * x1;
      const left2 = dx * y2 - dy * x2;
      if (left1 >= 0 === left2 >= 0) continue;
      const share = left1 / (left1 - left2);
      const along = (dx * (x1 + (x2 - x1) * share) + dy * (y1 + (y2 - y1) * share)) / lengthSquared;
      if (along <= 0) continue;
      beginsInside = !beginsInside;
      if (along < 1) cuts.push(along);
    }
  }
  return { cuts: cuts.sort((x, y) => x - y), beginsInside };
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
      const { cuts, beginsInside } = crossings(area, fromLat, fromLon - turnDeg, toLat, toLon - turnDeg);
      const bounds = [0, ...cuts, 1];
      let inside = beginsInside;
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
