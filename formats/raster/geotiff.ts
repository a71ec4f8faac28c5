import { open } from "node:fs/promises";
import { inflateSync } from "node:zlib";
import { addDecoder, BaseDecoder, fromFile, type GeoTIFFImage } from "geotiff";
import { crsOf } from "./crs";
import { RasterError } from "./error";
import { HIGHEST_M, LOWEST_M, requireSize, type RasterSource } from "./source";
import { guardTiff } from "./tiffGuard";

/** Bytes of one strip or tile, unpacked. */
const MOST_BLOCK_BYTES = 512 * 1024 * 1024;

/** Inflates a block to what the header says it holds and not a byte beyond, so that a bomb ends there. */
class BoundedDeflate extends BaseDecoder {
  override decodeBlock(buffer: ArrayBuffer): ArrayBuffer {
    const { tileWidth, tileHeight, bitsPerSample } = this.parameters;
    const bits = typeof bitsPerSample === "number" ? [bitsPerSample] : Array.from(bitsPerSample as ArrayLike<number>);
    const bytes = (tileWidth * tileHeight * bits.reduce((sum, one) => sum + one, 0)) / 8;
    const out = inflateSync(new Uint8Array(buffer), { maxOutputLength: Math.max(64, Math.ceil(bytes)) });
    return out.buffer.slice(out.byteOffset, out.byteOffset + out.byteLength) as ArrayBuffer;
  }
}
addDecoder([8, 32946], () => Promise.resolve(BoundedDeflate), undefined, false);

/** Rows read together, at least. */
const LEAST_GROUP_ROWS = 64;

const PIXEL_IS_POINT = 2;

function codeOf(image: GeoTIFFImage): number {
  const keys = image.getGeoKeys() as Record<string, unknown> | null;
  const code = keys?.ProjectedCSTypeGeoKey ?? keys?.GeographicTypeGeoKey;
  if (typeof code === "number" && code > 0 && code < 32767) return code;
  throw new RasterError("the GeoTIFF does not name its coordinate system by an EPSG code");
}

/**
 * Opens a GeoTIFF: strips or tiles, uncompressed, deflate, LZW or PackBits, any predictor, whole numbers or floats, no-data, any
 * system that `crsOf` knows. Only the first band is read. Throws RasterError.
 */
export async function openGeotiff(path: string, values: "heights" | "classes"): Promise<RasterSource> {
  const file = await open(path);
  try {
    await guardTiff(file, (await file.stat()).size);
  } finally {
    await file.close();
  }
  try {
    return await openGuarded(path, values);
  } catch (error) {
    throw error instanceof RasterError
      ? error
      : new RasterError(`the GeoTIFF cannot be read: ${(error as Error).message}`);
  }
}

async function openGuarded(path: string, values: "heights" | "classes"): Promise<RasterSource> {
  const tiff = await fromFile(path);
  const image = await tiff.getImage(0);
  const columns = image.getWidth();
  const rows = image.getHeight();
  requireSize(columns, rows);
  const blockBytes = image.getTileWidth() * image.getTileHeight() * image.getBytesPerPixel();
  if (!(blockBytes > 0 && blockBytes <= MOST_BLOCK_BYTES))
    throw new RasterError(`the GeoTIFF's blocks hold ${blockBytes} bytes; at most ${MOST_BLOCK_BYTES} are taken`);
  const [x, y] = image.getOrigin() as [number, number];
  const [stepX, stepY] = image.getResolution() as [number, number];
  if (!(stepX > 0 && stepY < 0))
    throw new RasterError(`the GeoTIFF's cells measure ${stepX} by ${stepY}; rotated or south-up rasters are not read`);
  const isPoint = (image.getGeoKeys() as { GTRasterTypeGeoKey?: number } | null)?.GTRasterTypeGeoKey === PIXEL_IS_POINT;
  const crs = crsOf(codeOf(image));
  const noData = image.getGDALNoData();
  // Blocks are unpacked once, however the rows asked for cut through them.
  const blockRows = image.getTileHeight();
  const groupRows = Math.max(1, Math.ceil(LEAST_GROUP_ROWS / blockRows)) * blockRows;
  const unpacked = new Map<number, Float32Array>();
  const readGroup = async (first: number, count: number): Promise<Float32Array> => {
    let band: ArrayLike<number>;
    try {
      const window = [0, first, columns, first + count];
      [band] = (await image.readRasters({ window, samples: [0] })) as unknown as [ArrayLike<number>];
    } catch (error) {
      throw new RasterError(`rows ${first + 1} to ${first + count} cannot be read: ${(error as Error).message}`, {
        cause: error,
      });
    }
    const cells = new Float32Array(columns * count);
    const isHeight = values === "heights";
    for (let i = 0; i < cells.length; i++) {
      const value = band[i]!;
      const missing = value === noData || (isHeight && !(value >= LOWEST_M && value <= HIGHEST_M));
      cells[i] = missing ? NaN : value;
    }
    return cells;
  };
  const kind = ["", "whole numbers", "signed whole numbers", "floats"][image.getSampleFormat() as number] ?? "numbers";
  return {
    found: `GeoTIFF, ${image.getBitsPerSample() as number}-bit ${kind}, ${crs.name}`,
    columns,
    rows,
    west: isPoint ? x - stepX / 2 : x,
    north: isPoint ? y - stepY / 2 : y,
    cellX: stepX,
    cellY: -stepY,
    crs,
    async readRows(first, count) {
      const out = new Float32Array(columns * count);
      for (let group = Math.floor(first / groupRows); group * groupRows < first + count; group++) {
        const start = group * groupRows;
        const cells = unpacked.get(group) ?? (await readGroup(start, Math.min(groupRows, rows - start)));
        unpacked.set(group, cells);
        const from = Math.max(first, start);
        const to = Math.min(first + count, start + groupRows, rows);
        out.set(cells.subarray((from - start) * columns, (to - start) * columns), (from - first) * columns);
      }
      // Readers go from north to south: what lies well above is not asked for again.
      for (const group of unpacked.keys()) if ((group + 2) * groupRows <= first) unpacked.delete(group);
      return out;
    },
    close: async () => {
      await tiff.close();
    },
  };
}
