import { randomUUID } from "node:crypto";
import { layerSchema, putPatch, type Layer } from "#core/plan";
import type { Legend } from "#formats/raster";
import { dropTiles, recordChange, stageTiles, type Author, type Store } from "#store";
import { startJob, type JobTools, type JobView } from "./registry";
import { startProcess } from "./startProcess";
import { dropUpload, uploadPath } from "./uploads";
import type { RasterMessage, RasterOrder } from "./workers/raster";

export interface TerrainImport {
  planId: string;
  author: Author;
  kind: Layer["kind"];
  files: { uploadId: string; name: string }[];
  /** Coordinate system of files that do not name their own. */
  epsg: number | null;
  legend: Legend | null;
}

/** Heap that reading rasters may take, MB; the rows in hand lie outside of it. */
const READER_HEAP_MB = 700;
/** How long the reader may say nothing before it is ended, ms: a block that takes longer is damaged. */
const LONGEST_SILENCE_MS = 90_000;

/**
 * Brings raster files into a plan, each as a layer of its own, in one change: read by a worker, kept tile by tile. What is
 * broken off or fails leaves the plan as it was.
 */
export function importTerrain(store: Store, order: TerrainImport, silenceMs = LONGEST_SILENCE_MS): JobView {
  return startJob(order.planId, `Terrain: ${order.files.map(({ name }) => name).join(", ")}`, async (tools) => {
    const ids = order.files.map(() => randomUUID());
    try {
      const layers = await readLayers(store, order, ids, tools, silenceMs);
      tools.check();
      await recordChange(store.db, {
        planId: order.planId,
        ...order.author,
        what: `Imported ${order.kind === "cover" ? "cover" : "terrain"}: ${layers.map(({ name }) => name).join(", ")}`.slice(
          0,
          300,
        ),
        patches: layers.map((row) => putPatch("layers", row)),
      });
      const cells = layers.reduce((sum, { columns, rows }) => sum + columns * rows, 0);
      const holes = layers.reduce((sum, { holeCount }) => sum + holeCount, 0);
      const holeText = holes > 0 ? `; ${holes} cells are holes, filled wherever a coarser raster knows the ground` : "";
      return { message: `Took ${layers.length} raster${layers.length > 1 ? "s" : ""} with ${cells} cells${holeText}.` };
    } catch (error) {
      // Its own tiles alone: another import of this plan may be under way.
      for (const id of ids) await dropTiles(store.db, order.planId, id);
      throw new Error(`${(error as Error).message}. The terrain stays as it was.`, { cause: error });
    } finally {
      for (const { uploadId } of order.files) dropUpload(store, uploadId);
    }
  });
}

async function readLayers(
  store: Store,
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
    planId: order.planId,
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
    "raster.ts",
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
          reject(new Error(`${place()} took longer than ${silenceMs / 1000} s; the file is damaged there`));
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
          await stageTiles(store.db, order.planId, layer.id, message.tiles, message.overview);
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
