import { signedAngleDeg, type Place } from "../geodesy";
import type { AreaIndex } from "./areas";
import {
  cellSizeM,
  coverCodeIn,
  coverHeightIn,
  columnOf,
  rowOf,
  frameContains,
  groundAt,
  UNKNOWN_COVER,
  type Surface,
} from "./surface";

/** One raster of a terrain. */
export interface TerrainLayer {
  surface: Surface;
  /** "surface" has trees and roofs in its heights already; "cover" says only what stands on the ground. */
  kind: "bare" | "surface" | "cover";
}

/** All that is known of the ground: rasters from the finest to the coarsest, and outlines that go before their cover. */
export interface Terrain {
  layers: readonly TerrainLayer[];
  areas: AreaIndex | null;
}

/** A terrain of rasters in any order; where several know the ground, the finest wins, and among equals the first given. */
export function terrainOf(layers: readonly TerrainLayer[], areas: AreaIndex | null = null): Terrain {
  const cell = new Map(layers.map((layer) => [layer, cellSizeM(layer.surface.frame)]));
  return { layers: [...layers].sort((x, y) => cell.get(x)! - cell.get(y)!), areas };
}

/** A terrain of one raster of bare ground with its cover. */
export function plainTerrain(surface: Surface): Terrain {
  return { layers: [{ surface, kind: "bare" }], areas: null };
}

/** What is known at one place. */
export interface GroundSample {
  /** NaN at a hole. */
  groundAmslM: number;
  coverHeightM: number;
  coverCode: number;
}

/**
 * Reads ground and cover at a place into `out`. Ground comes from the finest raster that knows it; a hole in it is
 * filled by the next coarser one. Cover comes from the finest raster that says any; on heights that have trees and
 * roofs in them already it has no height of its own. Outlines are left to the caller (see layAreas).
 */
export function readGround({ layers }: Terrain, latDeg: number, lonDeg: number, out: GroundSample): void {
  out.groundAmslM = NaN;
  out.coverHeightM = 0;
  out.coverCode = 0;
  let hasGround = false;
  let hasCover = false;
  let onSurface = false;
  for (let i = 0; i < layers.length; i++) {
    const { surface, kind } = layers[i]!;
    if (kind !== "cover" && !hasGround) {
      const ground = groundAt(surface, latDeg, lonDeg);
      if (ground === ground) {
        hasGround = true;
        out.groundAmslM = ground;
        onSurface = kind === "surface";
      }
    }
    if (!hasCover && kind !== "surface" && frameContains(surface.frame, latDeg, lonDeg)) {
      const { frame } = surface;
      const column = columnOf(frame, lonDeg);
      const row = rowOf(frame, latDeg);
      const code = coverCodeIn(surface, column, row);
      // A raster of bare ground without cover says 0 everywhere; only one that says more keeps coarser ones out.
      if (code !== UNKNOWN_COVER && (kind === "cover" || code !== 0)) {
        hasCover = true;
        out.coverCode = code;
        out.coverHeightM = coverHeightIn(surface, column, row);
      }
    }
    if (hasGround && hasCover) break;
  }
  if (onSurface) out.coverHeightM = 0;
}

/** Whether any raster of the ground reaches this place; where one does and knows no height, there is a hole. */
export function reachesGround({ layers }: Terrain, latDeg: number, lonDeg: number): boolean {
  return layers.some(({ surface, kind }) => kind !== "cover" && frameContains(surface.frame, latDeg, lonDeg));
}

/** Spacing, m, at which a profile between two places loses nothing: the cell of the finest raster between them, cover too. */
export function stepBetweenM({ layers }: Terrain, from: Place, to: Place): number {
  const middleDeg = from.lonDeg + signedAngleDeg(to.lonDeg - from.lonDeg) / 2;
  const halfDeg = Math.abs(signedAngleDeg(to.lonDeg - from.lonDeg)) / 2;
  const south = Math.min(from.latDeg, to.latDeg);
  const north = Math.max(from.latDeg, to.latDeg);
  for (const { surface } of layers) {
    const { frame } = surface;
    const frameSouth = frame.northDeg - frame.rows * frame.cellLatDeg;
    const halfFrameDeg = (frame.columns * frame.cellLonDeg) / 2;
    const apartDeg = Math.abs(signedAngleDeg(middleDeg - frame.westDeg - halfFrameDeg));
    if (apartDeg <= halfDeg + halfFrameDeg && south <= frame.northDeg && north >= frameSouth) return cellSizeM(frame);
  }
  return DEFAULT_STEP_M;
}

/** Paths longer than this are sampled with as many samples as one of this length: no radio of the plan reaches as far, m. */
export const LONGEST_EXACT_M = 150_000;

/** The same for a path of that length, wider beyond the longest that is sampled cell by cell: a path to the far side of the earth costs no more. */
export function boundedStepM(terrain: Terrain, from: Place, to: Place, distanceM: number): number {
  return stepBetweenM(terrain, from, to) * Math.max(1, distanceM / LONGEST_EXACT_M);
}

/** Spacing where nothing is known. */
const DEFAULT_STEP_M = 30;

/** West, south, east and north edge of all rasters together, degrees, counted on over the 180th meridian; null when there are none. */
export function terrainExtent({ layers }: Terrain): [number, number, number, number] | null {
  if (layers.length === 0) return null;
  const extent: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity];
  const firstDeg = layers[0]!.surface.frame.westDeg;
  for (const { frame } of layers.map(({ surface }) => surface)) {
    const westDeg = firstDeg + signedAngleDeg(frame.westDeg - firstDeg);
    extent[0] = Math.min(extent[0], westDeg);
    extent[1] = Math.min(extent[1], frame.northDeg - frame.rows * frame.cellLatDeg);
    extent[2] = Math.max(extent[2], westDeg + frame.columns * frame.cellLonDeg);
    extent[3] = Math.max(extent[3], frame.northDeg);
  }
  return extent;
}
