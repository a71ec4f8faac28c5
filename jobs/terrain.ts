import { createHash } from "node:crypto";
import { layerSchema, putPatch, type Layer } from "#core/plan";
import { RasterError, type Legend } from "#formats/raster";
import { toldOf } from "#formats/refused";
import { dropTiles, readGroundRows, recordChange, stageTiles, type Author, type Store } from "#store";
import { startProcess } from "../threads";
import { isPaused, type JobKind, type JobResult, type JobTools } from "./tools";
import { dropUpload, uploadPath } from "./uploads";
import type { RasterMessage, RasterOrder } from "./workers/raster";

export interface TerrainImport {
  author: Author;
  kind: Layer["kind"];
  files: { uploadId: string; name: string }[];
  /** Coordinate system of files that do not name their own. */
  epsg: number | null;
  legend: Legend | null;
  /** How long its reader may say nothing, ms. */
  silenceMs?: number;
}

/** Heap that reading rasters may take, MB; the rows in hand lie outside of it. */
const READER_HEAP_MB = 700;
/** How long the reader may say nothing before it is ended, ms: a block that takes longer is damaged. */
const LONGEST_SILENCE_MS = 90_000;

/** Ids of the layers that an import makes: the same ones whenever it is begun. */
const layerIds = (jobId: string, { files }: TerrainImport) =>
  files.map((_, index) => createHash("sha256").update(`${jobId} ${index}`).digest("hex").slice(0, 32));

/**
 * Brings raster files into a plan, each as a layer of its own, in one change: read by a process of its own, kept tile by tile.
 * What is broken off or fails leaves the plan as it was.
 */
export const terrain: JobKind<TerrainImport> = {
  work: async (store, { id, planId, order }, tools) => {
    const ids = layerIds(id, order);
    // An earlier process may have died after it was kept.
    const kept = await keptLayers(store, planId, ids);
    if (kept.length > 0) return taken(store, order, kept);
    try {
      const layers = await readLayers(store, planId, order, ids, tools, order.silenceMs ?? LONGEST_SILENCE_MS);
      tools.check();
      await recordChange(store.db, {
        planId,
        ...order.author,
        // Kept once, should two processes be at it.
        op: `${id}-kept`,
        what: `Imported ${order.kind === "cover" ? "cover" : "terrain"}: ${layers.map(({ name }) => name).join(", ")}`.slice(
          0,
          300,
        ),
        patches: layers.map((row) => putPatch("layers", row)),
      });
      return taken(store, order, layers);
    } catch (error) {
      await dropUnkept(store, planId, ids);
      if (!isPaused(tools.signal)) dropFiles(store, order);
      throw new Error(`${toldOf(error)} The terrain stays as it was.`, { cause: error });
    }
  },
  clear: async (store, { id, planId, order }) => {
    await dropUnkept(store, planId, layerIds(id, order));
    dropFiles(store, order);
  },
};

/** Layers of an import that are part of the plan already: all of them, or none. */
async function keptLayers(store: Store, planId: string, ids: readonly string[]): Promise<Layer[]> {
  return (await readGroundRows(store.db, planId)).layers.filter(({ id }) => ids.includes(id));
}

/** Drops the tiles of an import that was not kept: its own alone, for another one of this plan may be under way. */
async function dropUnkept(store: Store, planId: string, ids: readonly string[]): Promise<void> {
  if ((await keptLayers(store, planId, ids)).length > 0) return;
  for (const layerId of ids) await dropTiles(store.db, planId, layerId);
}

/** What an import came to that is kept; its files have been used. */
function taken(store: Store, order: TerrainImport, layers: readonly Layer[]): JobResult {
  dropFiles(store, order);
  const cells = layers.reduce((sum, { columns, rows }) => sum + columns * rows, 0);
  const holes = layers.reduce((sum, { holeCount }) => sum + holeCount, 0);
  const holeText = holes > 0 ? `; ${holes} cells are holes, filled wherever a coarser raster knows the ground` : "";
  return { message: `Took ${layers.length} raster${layers.length > 1 ? "s" : ""} with ${cells} cells${holeText}.` };
}

function dropFiles(store: Store, { files }: TerrainImport): void {
  for (const { uploadId } of files) dropUpload(store, uploadId);
}

async function readLayers(
  store: Store,
  planId: string,
  order: TerrainImport,
  ids: string[],
  tools: JobTools,
  silenceMs: number,
): Promise<Layer[]> {
  const files = order.files.map(({ uploadId, name }) => {
    const path = uploadPath(store, uploadId);
    if (!path) throw new Error(`${name} did not arrive`);
    return { path, name };
  });
  const layers: Layer[] = files.map(({ name }, index) => ({
    id: ids[index]!,
    planId,
    name: name.slice(0, 120),
    kind: order.kind,
    westDeg: 0,
    northDeg: 0,
    cellLonDeg: 0,
    cellLatDeg: 0,
    columns: 0,
    rows: 0,
    holeCount: 0,
    addedAt: new Date().toISOString(),
  }));
  const reader = startProcess(
    "raster",
    { files, epsg: order.epsg, legend: order.legend } satisfies RasterOrder,
    READER_HEAP_MB,
  );
  let taking: Promise<void> = Promise.resolve();
  const halt = () => void reader.kill("SIGKILL");
  tools.signal.addEventListener("abort", halt);
  let at = { file: 0, rows: "its header" };
  const place = () => `${files[at.file]!.name}: reading ${at.rows}`;
  let silence: NodeJS.Timeout | undefined;
  try {
    await new Promise<void>((resolve, reject) => {
      /** A damaged block can keep its unpacking busy for ever: who says nothing for long is ended. */
      const listen = () => {
        clearTimeout(silence);
        silence = setTimeout(() => {
          reject(new RasterError(`${place()} took longer than ${silenceMs / 1000} s; the file is damaged there`));
          halt();
        }, silenceMs);
      };
      listen();
      const take = async (message: RasterMessage) => {
        if (message.kind === "reading") {
          at = message;
          return;
        }
        if (message.kind === "finished") return resolve();
        if (message.kind === "failed") return reject(new Error(message.message));
        const layer = layers[message.file]!;
        const share = (within: number) => (message.file + within) / files.length;
        if (message.kind === "opened") {
          Object.assign(layer, message.frame);
          tools.progress(
            share(0),
            `${layer.name}: ${message.found}, ${message.frame.columns} × ${message.frame.rows} cells`,
          );
        } else if (message.kind === "tiles") {
          await stageTiles(store.db, planId, layer.id, message.tiles, message.overview);
          tools.progress(share(message.doneShare), `${layer.name}: ${Math.round(message.doneShare * 100)} % read`);
        } else layer.holeCount = message.holeCount;
        if (reader.connected) reader.send("kept");
      };
      reader.on("message", (message: RasterMessage) => {
        listen();
        taking = taking.then(() => take(message));
        taking.catch(reject);
      });
      reader.on("error", reject);
      reader.on("exit", (code, signal) => {
        const why = tools.signal.aborted
          ? "the reading was stopped"
          : `${place()} ended the reader (${signal ?? `code ${code}`}): the file is damaged there, or needs more memory than there is`;
        // What it said last may still be on its way.
        void taking.finally(() => reject(new Error(why)));
      });
    });
  } finally {
    clearTimeout(silence);
    tools.signal.removeEventListener("abort", halt);
    // A batch on its way into the store arrives before anybody clears up.
    await taking.catch(() => undefined);
    halt();
  }
  return layers.map((layer) => layerSchema.parse(layer));
}
