import { randomUUID } from "node:crypto";
import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { worldOf, type PlanRows } from "#core/plan";
import { AudioError, audioType } from "#formats/audio";
import { ArchiveError, voiceFile } from "#formats/archive";
import { Stopped } from "#pool";
import {
  createPlan,
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
import { threadClient, ThreadEnded } from "../threads";
import type { ArchiveContents } from "./packArchive";
import { withArchive, type UnpackedArchive } from "./readArchive";
import type { Packer } from "./workers/packer";
import type { JobKind, JobTools } from "./tools";
import { dropOldFiles, dropUpload, uploadPath } from "./uploads";

/** Heap of the thread that packs, MB. */
const PACKER_HEAP_MB = 1500;

/**
 * The whole plan as one archive: rows as CSV and JSON, rasters as GeoTIFF, photographs as JPEG. Equal plans give equal
 * bytes. What was done on the bench and bought goes with it; the logbook, the named versions and all secrets stay behind.
 */
export async function archivePlan(store: Store, planId: string, tools: JobTools): Promise<Uint8Array> {
  const rows = await readPlan(store.db, planId);
  if (!rows) throw new Error(`there is no plan "${planId}"`);
  const beside = {
    staging: await readStaging(store.db, planId),
    stock: await readStock(store.db, planId),
    fieldNotes: await readFieldNotes(store.db, planId),
  };
  const contents: ArchiveContents = { rows, beside, tiles: new Map(), photos: new Map(), voices: new Map() };
  for (const [index, { id, name }] of rows.layers.entries()) {
    tools.check();
    tools.progress((0.5 * index) / rows.layers.length, `Fetching ${name}`);
    contents.tiles.set(id, await readTiles(store.db, planId, id));
  }
  for (const { id } of rows.photos) {
    const data = await readPhoto(store.db, planId, id);
    if (data) contents.photos.set(id, data);
  }
  for (const { id, kind } of beside.fieldNotes) {
    const voice = kind === "voice" && (await readVoice(store.db, planId, id));
    if (voice) contents.voices.set(id, voice.bytes);
  }
  tools.progress(0.5, "Packing");
  return packApart(contents, tools.signal);
}

const packers = threadClient<Packer>("packer", { heapMB: PACKER_HEAP_MB, idleMs: 0, isExclusive: true });

/** Has a thread of its own pack an archive. */
async function packApart(contents: ArchiveContents, signal: AbortSignal): Promise<Uint8Array> {
  try {
    return await packers.use(({ pack }) => pack(contents), { signal });
  } catch (error) {
    if (signal.aborted) throw new Stopped();
    throw error instanceof ThreadEnded ? new Error("Packing the archive was broken off.", { cause: error }) : error;
  }
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
  { rows, beside, tiles, files }: UnpackedArchive,
  author: Author,
  tools: Pick<JobTools, "progress" | "check">,
): Promise<void> {
  tools.check();
  const bytes: PlanBytes = { tiles, photos: [] };
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
