import { randomUUID } from "node:crypto";
import { mkdirSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { setImmediate as breathe } from "node:timers/promises";
import { worldOf, type Layer, type PlanRows } from "#core/plan";
import { overviewFactor, overviewGatherer, TILE_CELLS, tilesAcross, tilesDown, type TerrainTile } from "#core/terrain";
import { AudioError, audioType } from "#formats/audio";
import { ArchiveError, besideFiles, rowFiles, type ArchiveFiles } from "#formats/archive";
import { emptyTile, exactWriter, layerTiles, openRaster, writeGeotiff } from "#formats/raster";
import { decodeTile, encodeTile } from "#ground";
import { zipFiles } from "#formats/zip";
import {
  createPlan,
  frameOf,
  overviewId,
  planStamp,
  readPhoto,
  readVoice,
  readPlan,
  readFieldNotes,
  readStaging,
  readStock,
  readTiles,
  type Author,
  type PlanBytes,
  type Store,
} from "#store";
import { withArchive, type UnpackedArchive } from "./readArchive";
import type { JobKind, JobTools } from "./tools";
import { dropOldFiles, dropUpload, uploadPath } from "./uploads";

/** The planes of a raster, each a GeoTIFF of its own. */
const PLANES = [
  { suffix: "ground", read: (tile: TerrainTile, i: number) => tile.groundAmslM[i]! },
  { suffix: "cover-height", read: (tile: TerrainTile, i: number) => tile.coverHeightM[i]! },
  { suffix: "cover-code", read: (tile: TerrainTile, i: number) => tile.coverCode[i]! },
] as const;

/**
 * The whole plan as one archive: rows as CSV and JSON, rasters as GeoTIFF, photographs as JPEG. Equal plans give equal
 * bytes. What was done on the bench and bought goes with it; the logbook, the named versions and all secrets stay behind.
 */
export async function archivePlan(store: Store, planId: string, tools: JobTools): Promise<Uint8Array> {
  const rows = await readPlan(store.db, planId);
  if (!rows) throw new Error(`there is no plan "${planId}"`);
  const files = rowFiles(rows);
  for (const [index, layer] of rows.layers.entries()) {
    tools.progress(index / rows.layers.length, `Writing ${layer.name}`);
    const packed = await readTiles(store.db, planId, layer.id);
    const tiles = new Map<number, TerrainTile>();
    for (const { index: at, data } of packed) {
      tiles.set(at, decodeTile(data));
      await breathe();
    }
    tools.check();
    for (const { suffix, read } of PLANES) {
      if (suffix === "ground" ? layer.kind === "cover" : !hasCover(tiles)) continue;
      files.set(`terrain/${layer.id}-${suffix}.tif`, layerGeotiff(layer, tiles, read));
      await breathe();
    }
  }
  const beside = {
    staging: await readStaging(store.db, planId),
    stock: await readStock(store.db, planId),
    fieldNotes: await readFieldNotes(store.db, planId),
  };
  for (const [name, data] of besideFiles(beside)) files.set(name, data);
  for (const photo of rows.photos) {
    const data = await readPhoto(store.db, planId, photo.id);
    if (data) files.set(`photos/${photo.id}.jpg`, data);
  }
  for (const { id, kind } of beside.fieldNotes) {
    const voice = kind === "voice" && (await readVoice(store.db, planId, id));
    if (voice) files.set(voiceFile(id), voice.bytes);
  }
  tools.progress(0.95, "Packing");
  return zipFiles(files, (name) => /\.(tif|jpg)$/.test(name) || name.startsWith(VOICES));
}

/** Where an archive holds what was spoken, each recording under the id of its note. */
const VOICES = "voices/";
const voiceFile = (noteId: string) => `${VOICES}${noteId}`;

function hasCover(tiles: ReadonlyMap<number, TerrainTile>): boolean {
  for (const { coverCode } of tiles.values()) if (coverCode.some((code) => code !== 0)) return true;
  return false;
}

function layerGeotiff(
  layer: Layer,
  tiles: ReadonlyMap<number, TerrainTile>,
  read: (tile: TerrainTile, i: number) => number,
): Uint8Array {
  const frame = frameOf(layer);
  const across = tilesAcross(frame);
  return writeGeotiff(frame, (column, row) => {
    const tile = tiles.get(((row / TILE_CELLS) | 0) * across + ((column / TILE_CELLS) | 0));
    return tile ? read(tile, (row % TILE_CELLS) * TILE_CELLS + (column % TILE_CELLS)) : NaN;
  });
}

const exportsFolder = (store: Store) => join(store.directory, "exports");

/** Writes a plan's archive, which can be fetched when the job is done. */
export const archive: JobKind<null> = {
  work: async (store, { id, planId }, tools) => {
    const bytes = await archivePlan(store, planId, tools);
    tools.check();
    mkdirSync(exportsFolder(store), { recursive: true });
    writeFileSync(join(exportsFolder(store), id), bytes);
    return { message: `The archive is ready: ${bytes.length} bytes.`, resultUrl: `/plans/${planId}/archive/${id}` };
  },
};

/** Path of a finished archive, or null. */
export function archivePath(store: Store, id: string): string | null {
  return /^[0-9a-f-]{36}$/.test(id) ? join(exportsFolder(store), id) : null;
}

/** Drops archives that were written long ago. */
export const dropOldArchives = (store: Store): void => dropOldFiles(exportsFolder(store));

/** Makes a new plan of an archive; nothing of it is kept unless all of it can be. Gives the plan's id. */
export async function takeArchive(
  store: Store,
  path: string,
  author: Author,
  tools: Pick<JobTools, "progress" | "check" | "signal">,
  planId: string = randomUUID(),
): Promise<string> {
  tools.progress(0, "Unpacking");
  await withArchive(store, path, planId, tools, (archive) => keepArchive(store, archive, author, tools));
  return planId;
}

async function keepArchive(
  store: Store,
  { rows, beside, files }: UnpackedArchive,
  author: Author,
  tools: Pick<JobTools, "progress" | "check">,
): Promise<void> {
  const bytes: PlanBytes = { tiles: [], photos: [] };
  for (const [index, layer] of rows.layers.entries()) {
    tools.progress(index / rows.layers.length, `Reading ${layer.name}`);
    tools.check();
    bytes.tiles.push(...(await layerBytes(store, layer, files)));
  }
  for (const { id } of rows.photos) {
    const data = files.get(`photos/${id}.jpg`);
    if (!data) throw new ArchiveError(`the archive has no photos/${id}.jpg`);
    bytes.photos.push({ photoId: id, data });
  }
  const voices = new Map<string, Uint8Array>();
  for (const { id, kind } of beside.fieldNotes) {
    const voice = kind === "voice" && files.get(voiceFile(id));
    if (voice) voices.set(id, checkedVoice(id, voice));
  }
  checkReferences(rows);
  tools.progress(0.9, "Keeping");
  await createPlan(store.db, rows, author, "Opened a plan archive", bytes, { ...beside, voices });
}

function checkedVoice(noteId: string, bytes: Uint8Array): Uint8Array {
  try {
    audioType(bytes);
    return bytes;
  } catch (error) {
    if (error instanceof AudioError)
      throw new ArchiveError(`${voiceFile(noteId)}: ${error.message}`, { todo: error.todo });
    throw error;
  }
}

async function layerBytes(store: Store, layer: Layer, files: ArchiveFiles): Promise<PlanBytes["tiles"]> {
  const frame = frameOf(layer);
  const tiles = new Map<number, TerrainTile>();
  const tileAt = (index: number) => {
    const tile = tiles.get(index) ?? emptyTile();
    tiles.set(index, tile);
    return tile;
  };
  for (const { suffix } of PLANES) {
    const name = `terrain/${layer.id}-${suffix}.tif`;
    const data = files.get(name);
    if (!data) {
      if (suffix === (layer.kind === "cover" ? "cover-code" : "ground"))
        throw new ArchiveError(`the archive has no ${name}`);
      continue;
    }
    for await (const { index, tile } of planeTiles(store, name, data, layer)) {
      const target = tileAt(index);
      for (let i = 0; i < TILE_CELLS ** 2; i++) {
        const value = tile.groundAmslM[i]!;
        if (value !== value) continue;
        if (suffix === "ground") target.groundAmslM[i] = value;
        else if (suffix === "cover-height") target.coverHeightM[i] = value;
        else target.coverCode[i] = value;
      }
    }
  }
  const overview = overviewFactor(frame) > 1 ? overviewGatherer(frame, emptyTile) : null;
  const packed: PlanBytes["tiles"] = [];
  for (let index = 0; index < tilesAcross(frame) * tilesDown(frame); index++) {
    const tile = tileAt(index);
    overview?.add(index, tile);
    packed.push({ layerId: layer.id, index, data: encodeTile(tile) });
    await breathe();
  }
  for (const [index, tile] of overview?.tiles ?? [])
    packed.push({ layerId: overviewId(layer.id), index, data: encodeTile(tile) });
  return packed;
}

/** Tiles of one plane. The reader of rasters wants a file; the archive's entry lies in one for as long as that takes. */
async function* planeTiles(store: Store, name: string, data: Uint8Array, layer: Layer) {
  mkdirSync(exportsFolder(store), { recursive: true });
  const path = join(exportsFolder(store), `plane-${randomUUID()}.tif`);
  writeFileSync(path, data);
  try {
    const source = await openRaster(path, name, { values: "classes" });
    try {
      if (source.columns !== layer.columns || source.rows !== layer.rows)
        throw new ArchiveError(
          `${name}: ${source.columns} × ${source.rows} cells; layers.json says ${layer.columns} × ${layer.rows}`,
        );
      yield* layerTiles(source, frameOf(layer), exactWriter);
    } finally {
      await source.close();
    }
  } finally {
    rmSync(path, { force: true });
  }
}

/** Every radio stands somewhere and is of some model, every link has its radios: said by name before anything is written. */
function checkReferences(rows: PlanRows): void {
  worldOf(rows);
  const ids = (list: readonly { id: string }[]) => new Set(list.map(({ id }) => id));
  const [sites, subscribers, equipment, radios, links] = [
    ids(rows.sites),
    ids(rows.subscribers),
    ids(rows.equipment),
    ids(rows.radios),
    ids(rows.links),
  ];
  const carriers = ids(rows.carriers);
  const need = (known: ReadonlySet<string>, id: string | null, where: string) => {
    if (id !== null && !known.has(id)) throw new ArchiveError(`${where} names ${id}, which the archive does not hold`);
  };
  for (const radio of rows.radios) {
    need(sites, radio.siteId, `radios.json, ${radio.id}: siteId`);
    need(subscribers, radio.subscriberId, `radios.json, ${radio.id}: subscriberId`);
    need(equipment, radio.radioModelId, `radios.json, ${radio.id}: radioModelId`);
    need(equipment, radio.antennaModelId, `radios.json, ${radio.id}: antennaModelId`);
    need(carriers, radio.carrierId, `radios.json, ${radio.id}: carrierId`);
    if ((radio.siteId === null) === (radio.subscriberId === null))
      throw new ArchiveError(`radios.json, ${radio.id}: it must stand at a site or at a subscriber`);
  }
  for (const link of rows.links) {
    need(radios, link.aRadioId, `links.json, ${link.id}: aRadioId`);
    need(radios, link.bRadioId, `links.json, ${link.id}: bRadioId`);
  }
  for (const { id, linkId } of rows.measurements) need(links, linkId, `measurements.json, ${id}: linkId`);
  for (const { id, antennaModelId } of rows.outsiders)
    need(equipment, antennaModelId, `outsiders.json, ${id}: antennaModelId`);
  const crews = ids(rows.crews);
  for (const { id, linkId, crewAId, crewBId } of rows.visits) {
    need(links, linkId, `visits.json, ${id}: linkId`);
    need(crews, crewAId, `visits.json, ${id}: crewAId`);
    need(crews, crewBId, `visits.json, ${id}: crewBId`);
  }
  for (const { id, siteId } of rows.scans) need(sites, siteId, `scans.json, ${id}: siteId`);
}

/** Makes a plan, under the job's own id, of an archive that was received. */
export const takingArchive: JobKind<{ uploadId: string; author: Author }> = {
  work: async (store, { id, order: { uploadId, author } }, tools) => {
    const done = { message: "The plan is open.", resultUrl: `/plans/${id}/survey` };
    // An earlier process may have died after it was kept.
    if (await planStamp(store.db, id)) return done;
    const path = uploadPath(store, uploadId);
    if (!path) throw new Error("The archive did not arrive.");
    await takeArchive(store, path, author, tools, id);
    dropUpload(store, uploadId);
    return done;
  },
  clear: (store, { order }) => Promise.resolve(dropUpload(store, order.uploadId)),
};
