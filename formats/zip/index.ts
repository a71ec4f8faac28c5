import { Unzip, UnzipInflate, zipSync, type Zippable } from "fflate";
import { entryProblem, ZipRefused } from "./refused";

export { ZipRefused } from "./refused";
export { unpackTo, type UnpackBounds } from "./unpack";

interface ZipBounds {
  /** Bytes of all wanted entries together, unpacked. */
  totalBytes: number;
  entries: number;
  wanted?: (name: string) => boolean;
}

/**
 * Unpacks an archive held in memory, within bounds: what is unpacked is counted as it comes, whatever the headers
 * claim, so a bomb ends at the bound. Names that leave the archive are refused. Throws ZipRefused.
 */
export function unzipWithin(bytes: Uint8Array, { totalBytes, entries, wanted }: ZipBounds): Map<string, Uint8Array> {
  const files = new Map<string, Uint8Array>();
  let total = 0;
  let count = 0;
  let failure: Error | null = null;
  const fail = (message: string) => {
    failure ??= new ZipRefused(message);
    throw failure;
  };
  const unzip = new Unzip((file) => {
    if (++count > entries) fail(`the archive has more than ${entries} entries`);
    const { name } = file;
    const problem = entryProblem(name);
    if (problem) fail(problem);
    if (name.endsWith("/") || (wanted && !wanted(name))) return;
    const parts: Uint8Array[] = [];
    file.ondata = (error, chunk, final) => {
      if (error) fail(`the archive's entry "${name.slice(0, 120)}" is damaged and cannot be unpacked`);
      total += chunk.length;
      if (total > totalBytes) fail(`the archive unpacks to more than ${totalBytes} bytes`);
      parts.push(chunk);
      if (!final) return;
      const whole = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
      let at = 0;
      for (const part of parts) {
        whole.set(part, at);
        at += part.length;
      }
      files.set(name, whole);
    };
    file.start();
  });
  unzip.register(UnzipInflate);
  try {
    for (let at = 0; at < bytes.length; at += CHUNK) {
      unzip.push(bytes.subarray(at, at + CHUNK), at + CHUNK >= bytes.length);
      if (failure) break;
    }
  } catch (error) {
    throw failure ?? new ZipRefused("the archive is damaged, cut off, or none at all", { cause: error });
  }
  if (failure) throw failure;
  if (count === 0) throw new ZipRefused("the archive holds no entries");
  return files;
}

/** Fed in pieces, so that a bomb cannot unpack far past its bound before it is noticed. */
const CHUNK = 64 * 1024;

/** Any moment serves, as long as it is the same: equal contents make equal archives. */
const ZIP_TIME = new Date(1980, 0, 1);

/** An archive of files in the order of their names; equal files give equal bytes. Packed data (`stored`) is not packed again. */
export function zipFiles(files: ReadonlyMap<string, Uint8Array>, stored: (name: string) => boolean): Uint8Array {
  const entries: Zippable = {};
  for (const name of [...files.keys()].sort()) {
    entries[name] = [files.get(name)!, { level: stored(name) ? 0 : 6, mtime: ZIP_TIME }];
  }
  return zipSync(entries);
}
