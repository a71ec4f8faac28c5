import { randomUUID } from "node:crypto";
import { createWriteStream, existsSync, mkdirSync, readdirSync, rmSync, statSync } from "node:fs";
import { join } from "node:path";
import type { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import type { Store } from "#store";

/** Bytes taken at most in one file. */
export const UPLOAD_LIMIT_BYTES = 8 * 1024 ** 3;

const folderOf = (store: Store) => join(store.directory, "uploads");

/** Streams a file into the data directory and gives the name under which a job finds it. Throws when it is cut short. */
export async function receiveUpload(store: Store, body: Readable): Promise<string> {
  const folder = folderOf(store);
  mkdirSync(folder, { recursive: true });
  const id = randomUUID();
  const path = join(folder, id);
  let bytes = 0;
  body.on("data", (chunk: Buffer) => {
    bytes += chunk.length;
    if (bytes > UPLOAD_LIMIT_BYTES) body.destroy(new Error(`the file has more than ${UPLOAD_LIMIT_BYTES} bytes`));
  });
  try {
    await pipeline(body, createWriteStream(path));
  } catch (error) {
    rmSync(path, { force: true });
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
  if (path) rmSync(path, { force: true });
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
