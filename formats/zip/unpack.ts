import { closeSync, mkdirSync, openSync, readSync, statSync, writeSync } from "node:fs";
import { join } from "node:path";
import { Unzip, UnzipInflate } from "fflate";
import { entryProblem, ZipRefused } from "./refused";

/** How much a file may unpack to. */
export interface UnpackBounds {
  totalBytes: number;
  entries: number;
  /** Times its own size, beyond the first `freeBytes`. */
  ratio: number;
  freeBytes: number;
}

/** Read and unpacked in pieces of this size: what one unpacks to is held at once, and that may be a thousand times as much. */
const CHUNK = 4 * 1024;

/**
 * Unpacks an archive file into a folder, piece by piece: neither the archive nor an entry is ever held whole. What is unpacked is counted as it
 * comes, whatever the headers claim. Entries are kept under numbers, so that no name reaches the disk. Gives the number of each name.
 * Throws ZipRefused.
 */
export function unpackTo(path: string, folder: string, bounds: UnpackBounds): Map<string, number> {
  const { size } = statSync(path);
  const most = Math.min(bounds.totalBytes, bounds.freeBytes + bounds.ratio * size);
  mkdirSync(folder, { recursive: true });
  const names = new Map<string, number>();
  const open = new Set<number>();
  let total = 0;
  let count = 0;
  let failure: Error | null = null;
  const fail = (message: string) => {
    failure ??= new ZipRefused(message);
    throw failure;
  };
  const unzip = new Unzip((file) => {
    if (++count > bounds.entries) fail(`the archive has more than ${bounds.entries} entries`);
    const problem = entryProblem(file.name);
    if (problem) fail(problem);
    if (file.name.endsWith("/")) return;
    if (names.has(file.name)) fail(`the archive holds "${file.name.slice(0, 120)}" twice`);
    const fd = openSync(join(folder, String(count)), "w");
    open.add(fd);
    names.set(file.name, count);
    file.ondata = (error, chunk, final) => {
      if (error) fail(`the archive's entry "${file.name.slice(0, 120)}" is damaged and cannot be unpacked`);
      total += chunk.length;
      if (total > most) fail(`the archive unpacks to more than ${most} bytes, which no plan of its size does`);
      writeSync(fd, chunk);
      if (!final) return;
      closeSync(fd);
      open.delete(fd);
    };
    file.start();
  });
  unzip.register(UnzipInflate);
  const source = openSync(path, "r");
  const listed = entriesListed(source, size);
  try {
    const buffer = new Uint8Array(CHUNK);
    let from = 0;
    for (let read = readSync(source, buffer, 0, CHUNK, 0); read > 0;) {
      // The unpacker keeps what it is given until it has used it up.
      unzip.push(buffer.slice(0, read), false);
      if (failure) break;
      from += read;
      read = readSync(source, buffer, 0, CHUNK, from);
    }
    if (!failure) unzip.push(new Uint8Array(0), true);
    if (listed !== count) fail("the archive is damaged or cut off: its list of entries is not what it holds");
  } catch (error) {
    throw failure ?? new ZipRefused("the archive is damaged, cut off, or none at all", { cause: error });
  } finally {
    closeSync(source);
    for (const fd of open) closeSync(fd);
  }
  if (failure) throw failure;
  if (count === 0) throw new ZipRefused("the archive holds no entries");
  return names;
}

/** The record that ends every archive, its length, and the longest remark that may follow it. */
const END = [0x50, 0x4b, 0x05, 0x06] as const;
const END_BYTES = 22;
const LONGEST_REMARK = 65_535;

/** How many entries the list at an archive's end names; null for an archive without that list, which was cut off or is none. */
function entriesListed(fd: number, size: number): number | null {
  const tail = new Uint8Array(Math.min(size, END_BYTES + LONGEST_REMARK));
  readSync(fd, tail, 0, tail.length, size - tail.length);
  for (let at = tail.length - END_BYTES; at >= 0; at--)
    if (END.every((byte, i) => tail[at + i] === byte)) return tail[at + 10]! | (tail[at + 11]! << 8);
  return null;
}
