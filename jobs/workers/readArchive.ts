import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { Layer, PlanRows } from "#core/plan";
import { overviewFactor, overviewGatherer, tilesAcross, tilesDown, type TerrainTile } from "#core/terrain";
import { ArchiveError, readBesideFiles, readRowFiles, type Beside } from "#formats/archive";
import { emptyTile, exactWriter, layerTiles, openRaster, type RasterSource } from "#formats/raster";
import { unpackTo, type UnpackBounds } from "#formats/zip";
import { encodeTile } from "#ground";
import { PLANES, planeFile, requiredPlane, type PlaneName } from "../planes";
import { TILES_AT_ONCE, type PackedTile } from "./readRasters";
import { announced, refusalOf, send } from "./tell";

/** A plan's archive that is to be unpacked into a folder and read. */
export interface ArchiveOrder {
  kind: "archive";
  path: string;
  folder: string;
  planId: string;
  bounds: UnpackBounds;
}
export type ArchiveMessage =
  | { kind: "rows"; names: Map<string, number>; rows: PlanRows; beside: Beside }
  /** `isOverview` where they are the layer's coarse picture. */
  | { kind: "layerTiles"; layerId: string; isOverview: boolean; tiles: PackedTile[]; doneShare: number };

/** Reads an archive: its rows first, then the tiles of each layer. Throws FileRefused by file and field. */
export async function readArchive({ path, folder, planId, bounds }: ArchiveOrder): Promise<void> {
  const tell = (message: ArchiveMessage) => send(message);
  const names = unpackTo(path, folder, bounds);
  const fileOf = (name: string) => join(folder, String(names.get(name)));
  const files = {
    get: (name: string) => (names.has(name) ? new Uint8Array(readFileSync(fileOf(name))) : undefined),
    has: (name: string) => names.has(name),
  };
  const rows = readRowFiles(files, planId);
  await tell({ kind: "rows", names, rows, beside: readBesideFiles(files) });
  for (const layer of rows.layers) {
    const required = planeFile(layer.id, requiredPlane(layer));
    if (!names.has(required)) throw new ArchiveError(`the archive has no ${required}`);
    const present = PLANES.filter((plane) => names.has(planeFile(layer.id, plane)));
    const flush = (isOverview: boolean, tiles: PackedTile[], doneShare: number) =>
      tell({ kind: "layerTiles", layerId: layer.id, isOverview, tiles, doneShare });
    await readLayer(layer, present, fileOf, flush);
  }
}

type Flush = (isOverview: boolean, tiles: PackedTile[], doneShare: number) => Promise<void>;

async function readLayer(
  layer: Layer,
  planes: readonly PlaneName[],
  fileOf: (name: string) => string,
  flush: Flush,
): Promise<void> {
  const sources: RasterSource[] = [];
  let reading = "";
  try {
    for (const plane of planes) {
      reading = planeFile(layer.id, plane);
      sources.push(await openPlane(layer, reading, fileOf(reading)));
    }
    reading = planeFile(layer.id, planes[0]!);
    await sendTiles(layer, planes, sources, flush);
  } catch (error) {
    const { message, todo } = refusalOf(reading, error);
    throw error instanceof ArchiveError ? error : new ArchiveError(message, { todo, cause: error });
  } finally {
    for (const source of sources) await source.close();
  }
}

async function openPlane(layer: Layer, name: string, path: string): Promise<RasterSource> {
  const source = await announced(name, () => openRaster(path, name, { values: "classes" }));
  const { columns, rows } = source;
  if (columns === layer.columns && rows === layer.rows) return source;
  await source.close();
  throw new ArchiveError(`${name}: ${columns} × ${rows} cells; layers.json says ${layer.columns} × ${layer.rows}`);
}

/** The planes of a layer side by side, tile by tile: each is one walk over the same frame. */
async function sendTiles(layer: Layer, planes: readonly PlaneName[], sources: RasterSource[], flush: Flush) {
  const walks = sources.map((source) => layerTiles(source, layer, exactWriter)[Symbol.asyncIterator]());
  const overview = overviewFactor(layer) > 1 ? overviewGatherer(layer, emptyTile) : null;
  const count = tilesAcross(layer) * tilesDown(layer);
  let batch: PackedTile[] = [];
  for (let index = 0; index < count; index++) {
    const tile = emptyTile();
    for (const [i, walk] of walks.entries()) {
      const step = await walk.next();
      if (!step.done) layPlane(tile, planes[i]!, step.value.tile.groundAmslM);
    }
    overview?.add(index, tile);
    batch.push({ index, data: encodeTile(tile) });
    if (batch.length < TILES_AT_ONCE && index < count - 1) continue;
    await flush(false, batch, (index + 1) / count);
    batch = [];
  }
  const coarse = [...(overview?.tiles ?? [])].map(([index, tile]) => ({ index, data: encodeTile(tile) }));
  if (coarse.length > 0) await flush(true, coarse, 1);
}

function layPlane(tile: TerrainTile, plane: PlaneName, values: Float32Array): void {
  const target = plane === "ground" ? tile.groundAmslM : plane === "cover-height" ? tile.coverHeightM : tile.coverCode;
  for (let i = 0; i < values.length; i++) if (values[i] === values[i]) target[i] = values[i]!;
}
