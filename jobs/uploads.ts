import { createHash, randomUUID } from "node:crypto";
import {
  createWriteStream,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statfsSync,
  statSync,
  writeFileSync,
} from "node:fs";
import { join } from "node:path";
import type { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import { flushFolder, type Store } from "#store";

/** Bytes taken at most in one file. */
export const UPLOAD_LIMIT_BYTES = 8 * 1024 ** 3;

const folderOf = (store: Store) => join(store.directory, "uploads");

/** Files that wait to be used may have so many bytes together, so many of one asker, and leave so many free on their disk. */
const WAITING_LIMIT_BYTES = 16 * 1024 ** 3;
const ASKER_LIMIT_BYTES = 8 * 1024 ** 3;
const LEFT_FREE_BYTES = 1024 ** 3;

/** Beside each file stands who sent it, as a fingerprint. */
const sender = (path: string): string => `${path}.by`;
const fingerprint = (asker: string): string => createHash("sha256").update(asker).digest("hex");

/** Why a file of so many bytes is not taken now from an asker, in words; null where it is. */
export function noRoomFor(
  store: Store,
  asker: string,
  bytes: number,
  { waitingBytes = WAITING_LIMIT_BYTES, askerBytes = ASKER_LIMIT_BYTES, leftFreeBytes = LEFT_FREE_BYTES } = {},
): string | null {
  const folder = folderOf(store);
  mkdirSync(folder, { recursive: true });
  let [waiting, own] = [0, 0];
  for (const name of readdirSync(folder)) {
    const path = join(folder, name);
    const size = statOf(path)?.size ?? 0;
    waiting += size;
    if (existsSync(sender(path)) && readFileSync(sender(path), "utf8") === fingerprint(asker)) own += size;
  }
  const gigabytes = (count: number) => `${(count / 1e9).toFixed(1)} GB`;
  const tooMuch = (whose: string, most: number, already: number) =>
    `${whose} of ${gigabytes(already)} wait to be used already, and at most ${gigabytes(most)} may; this one has ${gigabytes(bytes)}. Use or leave some first: what nobody uses is dropped after a week.`;
  if (own + bytes > askerBytes) return tooMuch("Files of yours", askerBytes, own);
  if (waiting + bytes > waitingBytes) return tooMuch("Files", waitingBytes, waiting);
  const { bavail, bsize } = statfsSync(folder);
  return bavail * bsize - bytes < leftFreeBytes
    ? `The disk has ${gigabytes(bavail * bsize)} left, and ${gigabytes(leftFreeBytes)} of it must stay free; this file has ${gigabytes(bytes)}.`
    : null;
}

/** A file that may be gone meanwhile. */
const statOf = (path: string) => statSync(path, { throwIfNoEntry: false });

/** Streams a file into the data directory, flushed to the disk, and gives the name under which a job finds it. Throws when it is cut short. */
export async function receiveUpload(store: Store, asker: string, body: Readable): Promise<string> {
  const folder = folderOf(store);
  mkdirSync(folder, { recursive: true });
  const id = randomUUID();
  const path = join(folder, id);
  let bytes = 0;
  body.on("data", (chunk: Buffer) => {
    bytes += chunk.length;
    if (bytes > UPLOAD_LIMIT_BYTES) body.destroy(new Error(`the file has more than ${UPLOAD_LIMIT_BYTES} bytes`));
  });
  // Under another name until it is whole and on the disk: after a power cut no work must find half of it.
  const part = `${path}.part`;
  try {
    writeFileSync(sender(path), fingerprint(asker));
    await pipeline(body, createWriteStream(part, { flush: true }));
    renameSync(part, path);
    flushFolder(folder);
  } catch (error) {
    rmSync(part, { force: true });
    rmSync(sender(path), { force: true });
    throw error;
  }
  return id;
}

/** Path of a received file, or null when there is none of that id. */
export function uploadPath(store: Store, id: string): string | null {
  if (!/^[0-9a-f-]{36}$/.test(id)) return null;
  const path = join(folderOf(store), id);
  return existsSync(path) ? path : null;
}

export function dropUpload(store: Store, id: string): void {
  const path = uploadPath(store, id);
  if (!path) return;
  rmSync(path, { force: true });
  rmSync(sender(path), { force: true });
}

/** Files that nobody has used for so long are dropped, ms: work that waits for them has long been given up. */
const OLD_MS = 7 * 24 * 3600 * 1000;

/** Drops files of a folder that nobody has used for a week. */
export function dropOldFiles(folder: string): void {
  if (!existsSync(folder)) return;
  for (const name of readdirSync(folder)) {
    const path = join(folder, name);
    if (Date.now() - statSync(path).mtimeMs > OLD_MS) rmSync(path, { force: true });
  }
}

/** Drops received files that were never used. */
export const dropOldUploads = (store: Store): void => dropOldFiles(folderOf(store));
