// Reads rasters away from the thread that serves pages. Started by jobs/terrain.ts.
import { parentPort, workerData } from "node:worker_threads";
import { overviewFactor, overviewGatherer, type GridFrame } from "#core/terrain";
import { coverWriter, heightWriter, layerFrame, layerTiles, openRaster, type Legend } from "#formats/raster";
import { encodeTile } from "#store";

export interface RasterOrder {
  files: { path: string; name: string }[];
  epsg: number | null;
  /** Classes of a cover raster; null for heights. */
  legend: Legend | null;
}
export type RasterMessage =
  | { kind: "opened"; file: number; found: string; frame: GridFrame }
  | { kind: "tiles"; file: number; overview: boolean; tiles: { index: number; data: Uint8Array }[]; doneShare: number }
  | { kind: "closed"; file: number; holeCount: number; tileCount: number }
  | { kind: "finished" }
  | { kind: "failed"; message: string };

const BATCH = 32;
const port = parentPort!;
const { files, epsg, legend } = (workerData as { given: RasterOrder }).given;

/** Sends tiles and waits until they are kept, so that they never pile up. */
async function send(message: RasterMessage): Promise<void> {
  const heard = new Promise<void>((resolve) => port.once("message", () => resolve()));
  port.postMessage(message);
  await heard;
}

async function readFile(file: number): Promise<void> {
  const { path, name } = files[file]!;
  const source = await openRaster(path, name, { epsg, values: legend ? "classes" : "heights" });
  try {
    const frame = layerFrame(source);
    const writer = legend ? coverWriter(legend) : heightWriter;
    await send({ kind: "opened", file, found: source.found, frame });
    const overview = overviewFactor(frame) > 1 ? overviewGatherer(frame, writer.empty) : null;
    let batch: { index: number; data: Uint8Array }[] = [];
    let holeCount = 0;
    let tileCount = 0;
    let share = 0;
    const flush = async (isOverview: boolean) => {
      if (batch.length > 0) await send({ kind: "tiles", file, overview: isOverview, tiles: batch, doneShare: share });
      batch = [];
    };
    for await (const { index, tile, holes, doneShare } of layerTiles(source, frame, writer)) {
      holeCount += holes;
      tileCount++;
      share = doneShare;
      overview?.add(index, tile);
      batch.push({ index, data: encodeTile(tile) });
      if (batch.length >= BATCH) await flush(false);
    }
    await flush(false);
    for (const [index, tile] of overview?.tiles ?? []) batch.push({ index, data: encodeTile(tile) });
    await flush(true);
    await send({ kind: "closed", file, holeCount, tileCount });
  } finally {
    await source.close();
  }
}

try {
  for (let file = 0; file < files.length; file++) {
    try {
      await readFile(file);
    } catch (error) {
      throw new Error(`${files[file]!.name}: ${(error as Error).message}`, { cause: error });
    }
  }
  port.postMessage({ kind: "finished" } satisfies RasterMessage);
} catch (error) {
  port.postMessage({ kind: "failed", message: (error as Error).message } satisfies RasterMessage);
}
port.close();
