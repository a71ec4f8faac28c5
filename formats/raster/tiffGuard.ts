import type { FileHandle } from "node:fs/promises";
import { RasterError } from "./error";

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

/**
 * Looks over the first directory of a TIFF before anything is allocated for it: every field's values must lie inside the
 * file. A header that claims two gigabytes in a file of a hundred bytes is refused here. Throws RasterError.
 */
export async function guardTiff(file: FileHandle, size: number): Promise<void> {
  const read = async (at: number, length: number, what: string) => {
    if (!(at >= 0 && at + length <= size)) throw new RasterError(`byte ${at}: the file ends before its ${what}`);
    const buffer = Buffer.alloc(length);
    await file.read(buffer, 0, length, at);
    return buffer;
  };
  const head = await read(0, 16, "header");
  const order = head.toString("latin1", 0, 2);
  if (order !== "II" && order !== "MM") throw new RasterError("byte 0: the file is no TIFF");
  const little = order === "II";
  const u16 = (buffer: Buffer, at: number) => (little ? buffer.readUInt16LE(at) : buffer.readUInt16BE(at));
  const u32 = (buffer: Buffer, at: number) => (little ? buffer.readUInt32LE(at) : buffer.readUInt32BE(at));
  const u64 = (buffer: Buffer, at: number) => Number(little ? buffer.readBigUInt64LE(at) : buffer.readBigUInt64BE(at));
  const magic = u16(head, 2);
  if (magic !== 42 && magic !== 43) throw new RasterError(`byte 2: ${magic} marks no TIFF`);
  const big = magic === 43;
  const at = big ? u64(head, 8) : u32(head, 4);
  const countBytes = big ? 8 : 2;
  const entryBytes = big ? 20 : 12;
  const countField = await read(at, countBytes, "directory");
  const count = big ? u64(countField, 0) : u16(countField, 0);
  if (count < 1 || count > MOST_ENTRIES) throw new RasterError(`byte ${at}: the directory claims ${count} fields`);
  const entries = await read(at + countBytes, count * entryBytes, "directory's fields");
  for (let i = 0; i < count; i++) {
    const start = i * entryBytes;
    const tag = u16(entries, start);
    const type = u16(entries, start + 2);
    const values = big ? u64(entries, start + 4) : u32(entries, start + 4);
    const bytes = values * (TYPE_BYTES[type] ?? 1);
    const inline = big ? 8 : 4;
    if (bytes <= inline) continue;
    const offset = big ? u64(entries, start + 12) : u32(entries, start + 8);
    if (offset + bytes > size)
      throw new RasterError(`field ${tag} claims ${bytes} bytes from byte ${offset} on; the file has ${size}`);
  }
}
