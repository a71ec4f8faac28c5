import type { Area, Layer } from "#core/plan";
import { overviewFactor, overviewFrame } from "#core/terrain";
import { shareTiles, type SharedGround, type SharedRaster } from "#ground";
import { frameOf, overviewId, readTiles, type Queries } from "#store";

/** Rasters that are held packed in memory. */
const KEPT_RASTERS = 24;
const rasters = new Map<string, Promise<SharedRaster>>();

/** Drops all that is held of rasters: the database is another one now. */
export function forgetRasters(): void {
  rasters.clear();
}

async function readRaster(db: Queries, layer: Layer): Promise<SharedRaster> {
  const frame = frameOf(layer);
  const whole = shareTiles(frame, await readTiles(db, layer.planId, layer.id));
  if (overviewFactor(frame) === 1) return { kind: layer.kind, whole, overview: null };
  const tiles = await readTiles(db, layer.planId, overviewId(layer.id));
  return { kind: layer.kind, whole, overview: shareTiles(overviewFrame(frame), tiles) };
}

function raster(db: Queries, layer: Layer): Promise<SharedRaster> {
  const key = `${layer.planId} ${layer.id}`;
  const known = rasters.get(key);
  if (known) return known;
  const reading = readRaster(db, layer).catch((error: unknown) => {
    rasters.delete(key);
    throw error;
  });
  if (rasters.size >= KEPT_RASTERS) rasters.delete(rasters.keys().next().value!);
  rasters.set(key, reading);
  return reading;
}

/** The ground that a plan's layers and areas make, for all threads to read. */
export async function readShared(db: Queries, layers: readonly Layer[], areas: readonly Area[]): Promise<SharedGround> {
  // Among rasters of one cell size the newest goes first.
  const newestFirst = [...layers].sort((x, y) => y.addedAt.localeCompare(x.addedAt) || x.id.localeCompare(y.id));
  const read: SharedRaster[] = [];
  for (const layer of newestFirst) read.push(await raster(db, layer));
  return { rasters: read, areas };
}
