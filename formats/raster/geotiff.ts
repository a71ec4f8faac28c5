import { open } from "node:fs/promises";
import { fromFile, type GeoTIFF, type GeoTIFFImage } from "geotiff";
import { RasterError } from "./error";
import { crsOfKeys } from "./fileCrs";
import { HIGHEST_M, LOWEST_M, requireSize, type RasterSource } from "./source";
import { markBigEndian } from "./tiffDecoders";
import { guardTiff, type GuardedTiff } from "./tiffGuard";
import { placeOf } from "./tiffPlace";
import { valueRuleOf } from "./tiffValues";

/** Bytes of one strip or tile, unpacked. */
const MOST_BLOCK_BYTES = 512 * 1024 * 1024;
/** Rows read together, at least. */
const LEAST_GROUP_ROWS = 64;

const PIXEL_IS_POINT = 2;
const FLOAT_PREDICTOR = 3;
/** In a directory's kind: it holds the mask of the main raster. */
const IS_MASK = 4;

/**
 * Opens a GeoTIFF: strips or tiles, uncompressed, deflate, LZW, PackBits or Zstandard, any predictor, either byte order, whole
 * numbers or floats, no-data, internal mask, scale and offset, metres or feet, north-up or south-up, any system that
 * `crsOfKeys` knows. Only the first band is read. What would be read wrong is refused by name. Throws RasterError.
 */
export async function openGeotiff(path: string, values: "heights" | "classes"): Promise<RasterSource> {
  const file = await open(path);
  let guarded: GuardedTiff;
  try {
    guarded = await guardTiff(file, (await file.stat()).size);
  } finally {
    await file.close();
  }
  try {
    return await openGuarded(path, values, guarded);
  } catch (error) {
    throw error instanceof RasterError ? error : new RasterError(brokenTiff(error), { cause: error });
  }
}

/** What is wrong with a GeoTIFF that the package which unpacks it cannot open. */
const brokenTiff = (error: unknown): string =>
  /compression/i.test(String(error))
    ? "the GeoTIFF is packed in a way that is not read here; deflate, LZW or no packing was expected"
    : "the GeoTIFF’s directory is damaged, cut off, or of a kind that is not read here; a plain one of one band was expected";

const numbersIn = (image: GeoTIFFImage, tag: string) =>
  image.fileDirectory.getValue(tag as never) as unknown as ArrayLike<number> | undefined;

/** The mask stored beside the first raster, in which 0 marks a cell without a value; null if the file has no mask. */
async function maskOf(tiff: GeoTIFF, columns: number, rows: number): Promise<GeoTIFFImage | null> {
  const count = await tiff.getImageCount();
  for (let i = 1; i < count; i++) {
    const image = await tiff.getImage(i);
    const kind = (image.fileDirectory.getValue("NewSubfileType" as never) as unknown as number | undefined) ?? 0;
    if ((kind & IS_MASK) !== 0 && image.getWidth() === columns && image.getHeight() === rows) return image;
  }
  return null;
}

async function openGuarded(
  path: string,
  values: "heights" | "classes",
  { isBigEndian, emptyBlocks, blockWidth, blockHeight }: GuardedTiff,
): Promise<RasterSource> {
  const tiff = await fromFile(path);
  const image = await tiff.getImage(0);
  const columns = image.getWidth();
  const rows = image.getHeight();
  requireSize(columns, rows);
  const blockBytes = image.getTileWidth() * image.getTileHeight() * image.getBytesPerPixel();
  if (!(blockBytes > 0 && blockBytes <= MOST_BLOCK_BYTES))
    throw new RasterError(`the GeoTIFF's blocks hold ${blockBytes} bytes; at most ${MOST_BLOCK_BYTES} are taken`, {
      todo: "Write it anew in tiles of 256 or 512 cells.",
    });
  if (isBigEndian) markBigEndian(image.fileDirectory);
  if (isBigEndian && ((await image.fileDirectory.loadValue("Predictor")) as unknown) === FLOAT_PREDICTOR)
    throw new RasterError("the GeoTIFF is big-endian with the floating-point predictor, which writers disagree about", {
      todo: "Convert it to little-endian and bring it again.",
    });
  const keys = (image.getGeoKeys() ?? {}) as Record<string, unknown>;
  const tags: Parameters<typeof placeOf>[0] = {};
  for (const [name, tag] of [
    ["tiepoint", "ModelTiepoint"],
    ["scale", "ModelPixelScale"],
    ["transformation", "ModelTransformation"],
  ] as const) {
    const found = numbersIn(image, tag);
    if (found) tags[name] = found;
  }
  const place = placeOf(tags, { rows, isPoint: keys.GTRasterTypeGeoKey === PIXEL_IS_POINT });
  const crs = crsOfKeys(keys);
  const noData = image.getGDALNoData();
  const metadata = image.fileDirectory.hasTag("GDAL_METADATA")
    ? String(await image.fileDirectory.loadValue("GDAL_METADATA"))
    : "";
  const rule = valueRuleOf(metadata, keys, values);
  const mask = await maskOf(tiff, columns, rows);
  if (mask && isBigEndian) markBigEndian(mask.fileDirectory);
  // Blocks are unpacked once, however the rows asked for cut through them.
  const blockRows = image.getTileHeight();
  const groupRows = Math.max(1, Math.ceil(LEAST_GROUP_ROWS / blockRows)) * blockRows;
  const unpacked = new Map<number, Float32Array>();
  const bandOf = async (from: GeoTIFFImage, first: number, count: number): Promise<ArrayLike<number>> => {
    const window = [0, first, columns, first + count];
    const [band] = (await from.readRasters({ window, samples: [0] })) as unknown as [ArrayLike<number>];
    return band;
  };
  /** Rows as they stand in the file. */
  const readGroup = async (first: number, count: number): Promise<Float32Array> => {
    let band: ArrayLike<number>;
    let masked: ArrayLike<number> | null;
    try {
      band = await bandOf(image, first, count);
      masked = mask && (await bandOf(mask, first, count));
    } catch (error) {
      throw new RasterError(
        `rows ${first + 1} to ${first + count} cannot be unpacked: they are damaged, cut off, or packed in a way that is not read here`,
        { cause: error },
      );
    }
    const cells = new Float32Array(columns * count);
    const isHeight = values === "heights";
    for (let i = 0; i < cells.length; i++) {
      const stored = band[i]!;
      const value = stored * rule.scale + rule.offset;
      const missing =
        stored === noData || masked?.[i] === 0 || (isHeight && !(value >= LOWEST_M && value <= HIGHEST_M));
      cells[i] = missing ? NaN : value;
    }
    for (const [blockColumn, blockRow] of emptyBlocks) {
      const top = Math.max(first, blockRow * blockHeight);
      const bottom = Math.min(first + count, (blockRow + 1) * blockHeight);
      for (let row = top; row < bottom; row++)
        cells.fill(
          NaN,
          (row - first) * columns + blockColumn * blockWidth,
          (row - first) * columns + Math.min(columns, (blockColumn + 1) * blockWidth),
        );
    }
    return cells;
  };
  const kind = ["", "whole numbers", "signed whole numbers", "floats"][image.getSampleFormat() as number] ?? "numbers";
  const said = [
    ...(place.isSouthUp ? ["south-up"] : []),
    ...(rule.scale !== 1 || rule.offset !== 0 ? [`heights × ${rule.scale.toPrecision(6)} + ${rule.offset} m`] : []),
    ...(mask ? ["with a mask"] : []),
  ];
  /** Copies rows of the file, wherever its blocks cut, the groups that lie behind dropped. */
  const fileRows = async (first: number, count: number): Promise<Float32Array> => {
    const out = new Float32Array(columns * count);
    const groups = new Set<number>();
    for (let group = Math.floor(first / groupRows); group * groupRows < first + count; group++) {
      const start = group * groupRows;
      const cells = unpacked.get(group) ?? (await readGroup(start, Math.min(groupRows, rows - start)));
      unpacked.set(group, cells);
      groups.add(group);
      const from = Math.max(first, start);
      const to = Math.min(first + count, start + groupRows, rows);
      out.set(cells.subarray((from - start) * columns, (to - start) * columns), (from - first) * columns);
    }
    // Readers go on in one direction: what lies beside the rows in hand may be asked for again, nothing farther off.
    const [least, most] = [Math.min(...groups) - 1, Math.max(...groups) + 1];
    for (const group of unpacked.keys()) if (group < least || group > most) unpacked.delete(group);
    return out;
  };
  return {
    found: [`GeoTIFF, ${image.getBitsPerSample() as number}-bit ${kind}, ${crs.name}`, ...said].join(", "),
    columns,
    rows,
    west: place.west,
    north: place.north,
    cellX: place.cellX,
    cellY: place.cellY,
    crs,
    async readRows(first, count) {
      if (!place.isSouthUp) return fileRows(first, count);
      const upside = await fileRows(rows - first - count, count);
      const out = new Float32Array(upside.length);
      for (let row = 0; row < count; row++)
        out.set(upside.subarray((count - 1 - row) * columns, (count - row) * columns), row * columns);
      return out;
    },
    close: async () => {
      await tiff.close();
    },
  };
}
