import { createHash } from "node:crypto";
import { layerSchema, putPatch, type Layer } from "#core/plan";
import type { Legend } from "#formats/raster";
import { toldOf } from "#formats/refused";
import { dropTiles, readGroundRows, recordChange, stageTiles, type Author, type Store } from "#store";
import { readApart } from "./reader";
import { isPaused, type JobKind, type JobResult, type JobTools } from "./tools";
import { dropUpload, uploadPath } from "./uploads";

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
      const layers = await readLayers(store, planId, order, ids, tools);
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
  const { epsg, legend, silenceMs } = order;
  const reading = {
    signal: tools.signal,
    place: `${files[0]!.name}: reading its header`,
    ...(silenceMs && { silenceMs }),
  };
  await readApart({ kind: "rasters", files, epsg, legend }, reading, async (found) => {
    const layer = layers[found.file]!;
    const share = (within: number) => (found.file + within) / files.length;
    if (found.kind === "opened") {
      Object.assign(layer, found.frame);
      const { columns, rows } = found.frame;
      tools.progress(share(0), `${layer.name}: ${found.found}, ${columns} × ${rows} cells`);
    } else if (found.kind === "tiles") {
      await stageTiles(store.db, planId, layer.id, found.tiles, found.overview);
      tools.progress(share(found.doneShare), `${layer.name}: ${Math.round(found.doneShare * 100)} % read`);
    } else layer.holeCount = found.holeCount;
  });
  return layers.map((layer) => layerSchema.parse(layer));
}
