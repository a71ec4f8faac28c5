import { randomUUID } from "node:crypto";
import { layerSchema, type Edit, type Layer } from "#core/plan";
import type { Legend } from "#formats/raster";
import { applyChange, dropTiles, overviewId, writeTiles, type Store } from "#store";
import { startJob, type JobTools, type JobView } from "./registry";
import { startWorker } from "./startWorker";
import { dropUpload, uploadPath } from "./uploads";
import type { RasterMessage, RasterOrder } from "./workers/raster";

export interface TerrainImport {
  planId: string;
  who: string;
  kind: Layer["kind"];
  files: { uploadId: string; name: string }[];
  /** Coordinate system of files that do not name their own. */
  epsg: number | null;
  legend: Legend | null;
}

/** Heap that reading rasters may take, MB; the rows in hand lie outside of it. */
const WORKER_HEAP_MB = 700;

/**
 * Brings raster files into a plan, each as a layer of its own, in one change: read by a worker, kept tile by tile. What is
 * broken off or fails leaves the plan as it was.
 */
export function importTerrain(store: Store, order: TerrainImport): JobView {
  return startJob(order.planId, `Terrain: ${order.files.map(({ name }) => name).join(", ")}`, async (tools) => {
    const ids = order.files.map(() => randomUUID());
    try {
      const layers = await readLayers(store, order, ids, tools);
      tools.check();
      await applyChange(store.db, {
        planId: order.planId,
        who: order.who,
        what: `Imported ${order.kind === "cover" ? "cover" : "terrain"}: ${layers.map(({ name }) => name).join(", ")}`.slice(
          0,
          300,
        ),
        edits: layers.map((row): Edit => ({ kind: "layers", id: row.id, row })),
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

async function readLayers(store: Store, order: TerrainImport, ids: string[], tools: JobTools): Promise<Layer[]> {
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
  const worker = startWorker(
    "raster.ts",
    { files, epsg: order.epsg, legend: order.legend } satisfies RasterOrder,
    WORKER_HEAP_MB,
  );
  let taking: Promise<void> = Promise.resolve();
  const halt = () => void worker.terminate();
  tools.signal.addEventListener("abort", halt);
  try {
    await new Promise<void>((resolve, reject) => {
      const take = async (message: RasterMessage) => {
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
          await writeTiles(store.db, order.planId, message.overview ? overviewId(layer.id) : layer.id, message.tiles);
          tools.progress(share(message.doneShare), `${layer.name}: ${Math.round(message.doneShare * 100)} % read`);
        } else layer.holeCount = message.holeCount;
        worker.postMessage("kept");
      };
      worker.on("message", (message: RasterMessage) => {
        taking = take(message);
        taking.catch(reject);
      });
      worker.on("error", reject);
      worker.on("exit", () => reject(new Error("the reading was stopped")));
    });
  } finally {
    tools.signal.removeEventListener("abort", halt);
    // A batch on its way into the store arrives before anybody clears up.
    await taking.catch(() => undefined);
    await worker.terminate();
  }
  return layers.map((layer) => layerSchema.parse(layer));
}
