import type { FileHandle } from "node:fs/promises";
import { RasterError } from "./error";
import { requireSize } from "./source";
import { checkBlocks, type EmptyBlock } from "./tiffBlocks";

/** Bytes of one value by TIFF field type. */
const TYPE_BYTES: Record<number, number> = {
  1: 1,
  2: 1,
  3: 2,
  4: 4,
  5: 8,
  6: 1,
  7: 1,
  8: 2,
  9: 4,
  10: 8,
  11: 4,
  12: 8,
  13: 4,
  16: 8,
  17: 8,
  18: 8,
};
const MOST_ENTRIES = 400;

/** Numbers of the fields that say where the cells lie. */
const FIELDS = {
  width: 256,
  height: 257,
  bits: 258,
  compression: 259,
  stripOffsets: 273,
  samples: 277,
  rowsPerStrip: 278,
  stripBytes: 279,
  planar: 284,
  tileWidth: 322,
  tileHeight: 323,
  tileOffsets: 324,
  tileBytes: 325,
} as const;
/** More blocks than this are in no raster that is taken. */
const MOST_BLOCKS = 20_000_000;

/** What the guard found out on its way. */
export interface GuardedTiff {
  isBigEndian: boolean;
  emptyBlocks: EmptyBlock[];
  blockWidth: number;
  blockHeight: number;
}

/**
 * Looks over the first directory of a TIFF before anything is allocated for it: every field's values and every block must lie
 * inside the file. A header that claims two gigabytes in a file of a hundred bytes, or a file that was cut off, is refused
 * here. Throws RasterError.
 */
export async function guardTiff(file: FileHandle, size: number): Promise<GuardedTiff> {
  const read = async (at: number, length: number, what: string) => {
    if (!(at >= 0 && at + length <= size)) throw new RasterError(`byte ${at}: the file ends before its ${what}`);
    const buffer = Buffer.alloc(length);
    await file.read(buffer, 0, length, at);
    return buffer;
  };
  const head = await read(0, 16, "header");
  const order = head.toString("latin1", 0, 2);
  if (order !== "II" && order !== "MM")
    throw new RasterError(`byte 0: a TIFF begins with II or MM, found ${JSON.stringify(order)}`);
  const little = order === "II";
  const u16 = (buffer: Buffer, at: number) => (little ? buffer.readUInt16LE(at) : buffer.readUInt16BE(at));
  const u32 = (buffer: Buffer, at: number) => (little ? buffer.readUInt32LE(at) : buffer.readUInt32BE(at));
  const u64 = (buffer: Buffer, at: number) => Number(little ? buffer.readBigUInt64LE(at) : buffer.readBigUInt64BE(at));
  const magic = u16(head, 2);
  if (magic !== 42 && magic !== 43) throw new RasterError(`byte 2: a TIFF has 42 or 43 here, found ${magic}`);
  const big = magic === 43;
  const at = big ? u64(head, 8) : u32(head, 4);
  const countBytes = big ? 8 : 2;
  const entryBytes = big ? 20 : 12;
  const countField = await read(at, countBytes, "directory");
  const count = big ? u64(countField, 0) : u16(countField, 0);
  if (count < 1 || count > MOST_ENTRIES)
    throw new RasterError(`byte ${at}: the directory claims ${count} fields; 1 to ${MOST_ENTRIES} were expected`);
  const entries = await read(at + countBytes, count * entryBytes, "directory's fields");
  const places = new Map<number, { type: number; values: number; at: number }>();
  for (let i = 0; i < count; i++) {
    const start = i * entryBytes;
    const tag = u16(entries, start);
    const type = u16(entries, start + 2);
    const values = big ? u64(entries, start + 4) : u32(entries, start + 4);
    const bytes = values * (TYPE_BYTES[type] ?? 1);
    const inline = big ? 8 : 4;
    const inEntry = at + countBytes + start + (big ? 12 : 8);
    if (bytes <= inline) {
      places.set(tag, { type, values, at: inEntry });
      continue;
    }
    const offset = big ? u64(entries, start + 12) : u32(entries, start + 8);
    if (offset + bytes > size)
      throw new RasterError(`field ${tag} claims ${bytes} bytes from byte ${offset} on; the file has ${size}`);
    places.set(tag, { type, values, at: offset });
  }

  const numbers = async (tag: number): Promise<number[]> => {
    const place = places.get(tag);
    if (!place) return [];
    const { type, values, at: from } = place;
    const bytes = TYPE_BYTES[type] ?? 1;
    if (![3, 4, 16].includes(type))
      throw new RasterError(`field ${tag} is of type ${type}; a whole number was expected`);
    if (values > MOST_BLOCKS)
      throw new RasterError(`field ${tag} claims ${values} values; at most ${MOST_BLOCKS} are taken`);
    const buffer = await read(from, values * bytes, `field ${tag}`);
    return Array.from({ length: values }, (_, i) =>
      type === 3 ? u16(buffer, i * bytes) : type === 4 ? u32(buffer, i * bytes) : u64(buffer, i * bytes),
    );
  };
  const one = async (tag: number, otherwise: number) => (await numbers(tag))[0] ?? otherwise;
  const width = await one(FIELDS.width, 0);
  const height = await one(FIELDS.height, 0);
  requireSize(width, height);
  const isTiled = places.has(FIELDS.tileOffsets);
  const blockWidth = isTiled ? await one(FIELDS.tileWidth, 0) : width;
  const blockHeight = isTiled
    ? await one(FIELDS.tileHeight, 0)
    : Math.min(height, await one(FIELDS.rowsPerStrip, height));
  if (!(blockWidth > 0 && blockHeight > 0))
    throw new RasterError(
      `the file's blocks measure ${blockWidth} × ${blockHeight} cells; at least 1 × 1 was expected`,
    );
  const emptyBlocks = checkBlocks(
    {
      width,
      height,
      isTiled,
      blockWidth,
      blockHeight,
      bitsPerSample: await one(FIELDS.bits, 1),
      samplesPerPixel: await one(FIELDS.samples, 1),
      compression: await one(FIELDS.compression, 1),
      isPlanar: (await one(FIELDS.planar, 1)) === 2,
      offsets: await numbers(isTiled ? FIELDS.tileOffsets : FIELDS.stripOffsets),
      byteCounts: await numbers(isTiled ? FIELDS.tileBytes : FIELDS.stripBytes),
    },
    size,
  );
  return { isBigEndian: !little, emptyBlocks, blockWidth, blockHeight };
}
