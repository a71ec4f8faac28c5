import { overviewFactor, overviewGatherer, type GridFrame } from "#core/terrain";
import { coverWriter, heightWriter, layerFrame, layerTiles, openRaster, type Legend } from "#formats/raster";
import { FileRefused } from "#formats/refused";
import { encodeTile } from "#ground";
import { announced, refusalOf, send } from "./tell";

/** Raster files that are to become layers. */
export interface RasterOrder {
  kind: "rasters";
  files: { path: string; name: string }[];
  epsg: number | null;
  /** Classes of a cover raster; null for heights. */
  legend: Legend | null;
}
export interface PackedTile {
  index: number;
  data: Uint8Array;
}
export type RasterMessage =
  | { kind: "opened"; file: number; found: string; frame: GridFrame }
  | { kind: "tiles"; file: number; overview: boolean; tiles: PackedTile[]; doneShare: number }
  | { kind: "closed"; file: number; holeCount: number; tileCount: number };

/** Tiles sent at once. */
export const TILES_AT_ONCE = 32;

async function readFile({ files, epsg, legend }: RasterOrder, file: number): Promise<void> {
  const { path, name } = files[file]!;
  const tell = (message: RasterMessage) => send(message);
  const source = await announced(name, () => openRaster(path, name, { epsg, values: legend ? "classes" : "heights" }));
  try {
    const frame = layerFrame(source);
    const writer = legend ? coverWriter(legend) : heightWriter;
    await tell({ kind: "opened", file, found: source.found, frame });
    const overview = overviewFactor(frame) > 1 ? overviewGatherer(frame, writer.empty) : null;
    let batch: PackedTile[] = [];
    let [holeCount, tileCount, share] = [0, 0, 0];
    const flush = async (isOverview: boolean) => {
      if (batch.length > 0) await tell({ kind: "tiles", file, overview: isOverview, tiles: batch, doneShare: share });
      batch = [];
    };
    for await (const { index, tile, holes, doneShare } of layerTiles(source, frame, writer)) {
      holeCount += holes;
      tileCount++;
      share = doneShare;
      overview?.add(index, tile);
      batch.push({ index, data: encodeTile(tile) });
      if (batch.length >= TILES_AT_ONCE) await flush(false);
    }
    await flush(false);
    for (const [index, tile] of overview?.tiles ?? []) batch.push({ index, data: encodeTile(tile) });
    await flush(true);
    await tell({ kind: "closed", file, holeCount, tileCount });
  } finally {
    await source.close();
  }
}

/** Reads rasters one after the other, and sends their tiles. Throws FileRefused by the name of the one that cannot be read. */
export async function readRasters(order: RasterOrder): Promise<void> {
  for (const [file, { name }] of order.files.entries()) {
    try {
      await readFile(order, file);
    } catch (error) {
      const { message, todo } = refusalOf(name, error);
      throw new FileRefused(message, { todo, cause: error });
    }
  }
}
