import { randomUUID } from "node:crypto";
import { existsSync, readFileSync, rmSync } from "node:fs";
import { join } from "node:path";
import PQueue from "p-queue";
import type { PlanRows } from "#core/plan";
import { ArchiveError, type ArchiveFiles, type Beside } from "#formats/archive";
import type { Store } from "#store";
import { startThread } from "../threads";
import type { JobTools } from "./tools";
import type { ArchiveMessage, ArchiveOrder } from "./workers/archive";

/**
 * What an archive may unpack to: text packs to a tenth or a twentieth, rasters and pictures not at all, so forty times its own size and 64 MiB
 * more is what no plan reaches.
 */
const BOUNDS = { totalBytes: 6e9, entries: 20_000, ratio: 40, freeBytes: 64 * 2 ** 20 } as const;
/** Heap of the worker that reads it, MB. */
const HEAP_MB = 1500;

/** Archives are unpacked one after another: three bombs at once would take every core and thrice the memory. */
const unpacking = new PQueue({ concurrency: 1 });

/** An archive that was unpacked beside the serving thread. */
export interface UnpackedArchive {
  rows: PlanRows;
  beside: Beside;
  /** Its other files, read from the disk as they are asked for. */
  files: ArchiveFiles;
}

/** Unpacks and reads an archive in a worker for as long as `use` takes, then puts away what it left. Throws ArchiveError for what is none. */
export async function withArchive<T>(
  store: Store,
  path: string,
  planId: string,
  { signal }: Pick<JobTools, "signal">,
  use: (archive: UnpackedArchive) => Promise<T>,
): Promise<T> {
  const folder = join(store.directory, "exports", `unpacked-${randomUUID()}`);
  try {
    const order = { path, folder, planId, bounds: BOUNDS };
    const message = await unpacking.add(() => readApart(order, signal), { signal });
    if (message.kind === "refused") throw new ArchiveError(message.message, { todo: message.todo });
    const { names, rows, beside } = message;
    const get = (name: string) => {
      const file = join(folder, String(names.get(name)));
      return names.has(name) && existsSync(file) ? new Uint8Array(readFileSync(file)) : undefined;
    };
    return await use({ rows, beside, files: { get, has: (name) => names.has(name) } });
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Has a worker of its own read an archive. */
function readApart(order: ArchiveOrder, signal: AbortSignal): Promise<ArchiveMessage> {
  return new Promise((resolve, reject) => {
    const worker = startThread("archive", HEAP_MB, order);
    const stop = () => void worker.terminate();
    signal.addEventListener("abort", stop, { once: true });
    worker.once("message", (message: ArchiveMessage) => resolve(message));
    worker.once("error", reject);
    worker.once("exit", () => {
      signal.removeEventListener("abort", stop);
      reject(new ArchiveError("reading the archive was broken off"));
    });
  });
}
