// Reads rasters in a process of its own: whatever a damaged file does ends here. Started by jobs/terrain.ts.
import { overviewFactor, overviewGatherer, type GridFrame } from "#core/terrain";
import {
  coverWriter,
  heightWriter,
  layerFrame,
  layerTiles,
  openRaster,
  RasterError,
  type Legend,
  type RasterSource,
} from "#formats/raster";
import { encodeTile } from "#ground";
import { goBehindServing } from "../../threads";

export interface RasterOrder {
  files: { path: string; name: string }[];
  epsg: number | null;
  /** Classes of a cover raster; null for heights. */
  legend: Legend | null;
}
export type RasterMessage =
  /** Sent before rows are unpacked, so that whoever waits in vain can say for which. */
  | { kind: "reading"; file: number; rows: string }
  | { kind: "opened"; file: number; found: string; frame: GridFrame }
  | { kind: "tiles"; file: number; overview: boolean; tiles: { index: number; data: Uint8Array }[]; doneShare: number }
  | { kind: "closed"; file: number; holeCount: number; tileCount: number }
  | { kind: "finished" }
  | { kind: "failed"; message: string };

goBehindServing();
const BATCH = 32;
/** Memory beyond which the reading gives up, bytes: blocks unpack outside of the heap. */
const MOST_BYTES = 1_400 * 1024 * 1024;

const tell = (message: RasterMessage) =>
  new Promise<void>((resolve, reject) =>
    process.send!(message, undefined, {}, (error) => (error ? reject(error) : resolve())),
  );

/** Sends tiles and waits until they are kept, so that they never pile up. */
async function send(message: RasterMessage): Promise<void> {
  const heard = new Promise<void>((resolve) => process.once("message", () => resolve()));
  await tell(message);
  await heard;
}

/** The same source, telling which rows it is about to unpack. */
function announced(source: RasterSource, file: number): RasterSource {
  return {
    ...source,
    async readRows(first, count) {
      await tell({ kind: "reading", file, rows: `rows ${first + 1} to ${first + count} of ${source.rows}` });
      const { rss } = process.memoryUsage();
      if (rss > MOST_BYTES)
        throw new Error(
          `rows ${first + 1} to ${first + count} need more memory than the ${MOST_BYTES >> 20} MB there are`,
        );
      return source.readRows(first, count);
    },
  };
}

async function readFile({ files, epsg, legend }: RasterOrder, file: number): Promise<void> {
  const { path, name } = files[file]!;
  await tell({ kind: "reading", file, rows: "its header" });
  const source = announced(await openRaster(path, name, { epsg, values: legend ? "classes" : "heights" }), file);
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

async function work(order: RasterOrder): Promise<void> {
  try {
    for (let file = 0; file < order.files.length; file++) {
      try {
        await readFile(order, file);
      } catch (error) {
        const why =
          error instanceof RasterError ? error.told : "its data are damaged or of a kind that is not read here";
        throw new Error(`${order.files[file]!.name}: ${why}`, { cause: error });
      }
    }
    await tell({ kind: "finished" });
  } catch (error) {
    await tell({ kind: "failed", message: (error as Error).message });
  }
  process.disconnect();
}

process.once("message", (order: RasterOrder) => void work(order));
// Nobody is left to read for.
process.once("disconnect", () => process.exit());
