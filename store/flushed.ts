import { closeSync, fsyncSync, linkSync, openSync, rmSync, writeFileSync } from "node:fs";
import { dirname } from "node:path";
import { randomUUID } from "node:crypto";

/** Puts the entries of a folder on the disk. */
export function flushFolder(folder: string): void {
  const fd = openSync(folder, "r");
  try {
    fsyncSync(fd);
  } finally {
    closeSync(fd);
  }
}

/**
 * Makes a file that is whole or not there, also after a power cut: written and flushed under another name, given its own, and the folder
 * flushed. Throws EEXIST where there is one of that name.
 */
export function makeFlushed(path: string, data: string, mode: number): void {
  const part = `${path}.${randomUUID()}.part`;
  try {
    writeFileSync(part, data, { mode, flag: "wx", flush: true });
    linkSync(part, path);
  } finally {
    rmSync(part, { force: true });
  }
  flushFolder(dirname(path));
}
