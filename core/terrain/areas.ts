import Flatbush from "flatbush";
import { coverCode, type CoverKind } from "./surface";

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
 * Lays the areas under a profile's samples over its cover; the tallest wins. A stretch through an outline that falls
 * between two samples, a house on a 30 m grid, marks the nearer sample, so that nothing in the way is ever skipped.
 */
export function layAreas(
  { areas, tree }: AreaIndex,
  latDeg: Float64Array,
  lonDeg: Float64Array,
  coverHeightM: Float64Array,
  code: Uint8Array,
): void {
  const last = latDeg.length - 1;
  for (let start = 0; start < last; start += STRETCH) {
    const end = Math.min(start + STRETCH, last);
    const [fromLat, fromLon, toLat, toLon] = [latDeg[start]!, lonDeg[start]!, latDeg[end]!, lonDeg[end]!];
    const found = tree
      .search(Math.min(fromLon, toLon), Math.min(fromLat, toLat), Math.max(fromLon, toLon), Math.max(fromLat, toLat))
      .map((index) => areas[index]!)
      .sort((x, y) => x.heightM - y.heightM);
    for (const area of found) {
      const mark = coverCode(area.kind, area.density);
      const bounds = [0, ...crossings(area, fromLat, fromLon, toLat, toLon), 1];
      let inside = contains(area, fromLat, fromLon);
      for (let i = 1; i < bounds.length; i++, inside = !inside) {
        if (!inside) continue;
        const enter = start + bounds[i - 1]! * (end - start);
        const leave = start + bounds[i]! * (end - start);
        let first = Math.ceil(enter);
        let final = Math.floor(leave);
        if (first > final) first = final = Math.round((enter + leave) / 2);
        for (let sample = first; sample <= final; sample++) {
          coverHeightM[sample] = area.heightM;
          code[sample] = mark;
        }
      }
    }
  }
}
