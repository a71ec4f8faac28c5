import { statfsSync } from "node:fs";
import { NoRoom } from "./db";

/** Under this much free space nothing new is taken: the database's log grows by whole segments of 16 MB. */
const FLOOR_BYTES = 96 * 1024 * 1024;

/** Free bytes where a directory lies. */
export type FreeSpace = (directory: string) => number;

const freeBytes: FreeSpace = (directory) => {
  const { bavail, bsize } = statfsSync(directory);
  return bavail * bsize;
};

/** Throws NoRoom while there is too little; what is freed counts at once. */
export function requireRoom(directory: string, free: FreeSpace = freeBytes, floorBytes = FLOOR_BYTES): void {
  const bytes = free(directory);
  if (bytes < floorBytes) throw new NoRoom(bytes, floorBytes);
}

/** What `requireRoom` would throw, in words; null while there is room. */
export function roomProblem(directory: string, free?: FreeSpace): string | null {
  try {
    requireRoom(directory, free);
    return null;
  } catch (error) {
    return (error as Error).message;
  }
}
