import { randomUUID } from "node:crypto";
import { existsSync, readFileSync, rmSync } from "node:fs";
import { join } from "node:path";
import PQueue from "p-queue";
import type { PlanRows } from "#core/plan";
import { ArchiveError, type ArchiveFiles, type Beside } from "#formats/archive";
import { FileRefused } from "#formats/refused";
import { overviewId, type PlanBytes, type Store } from "#store";
import { readApart } from "./reader";
import type { JobTools } from "./tools";

/**
 * What an archive may unpack to: text packs to a tenth or a twentieth, rasters and pictures not at all, so forty times its own size and 64 MiB
 * more is what no plan reaches.
 */
const BOUNDS = { totalBytes: 6e9, entries: 20_000, ratio: 40, freeBytes: 64 * 2 ** 20 } as const;

/** Archives are read one after another: three bombs at once would take every core and thrice the memory. */
const reading = new PQueue({ concurrency: 1 });

/** An archive that was read beside the serving thread. */
export interface UnpackedArchive {
  rows: PlanRows;
  beside: Beside;
  tiles: PlanBytes["tiles"];
  /** Its other files, read from the disk as they are asked for. */
  files: ArchiveFiles;
}

/** Has an archive read apart for as long as `use` takes, then puts away what it left. Throws ArchiveError for what is none. */
export async function withArchive<T>(
  store: Store,
  path: string,
  planId: string,
  tools: Pick<JobTools, "signal" | "progress">,
  use: (archive: UnpackedArchive) => Promise<T>,
): Promise<T> {
  const folder = join(store.directory, "exports", `unpacked-${randomUUID()}`);
  try {
    const read = await reading.add(() => readRows(path, folder, planId, tools), { signal: tools.signal });
    const { names, rows, beside, tiles } = read;
    const get = (name: string) => {
      const file = join(folder, String(names.get(name)));
      return names.has(name) && existsSync(file) ? new Uint8Array(readFileSync(file)) : undefined;
    };
    return await use({ rows, beside, tiles, files: { get, has: (name) => names.has(name) } });
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

interface ReadRows extends Omit<UnpackedArchive, "files"> {
  names: ReadonlyMap<string, number>;
}

async function readRows(
  path: string,
  folder: string,
  planId: string,
  { signal, progress }: Pick<JobTools, "signal" | "progress">,
): Promise<ReadRows> {
  let read: ReadRows | null = null;
  const order = { kind: "archive", path, folder, planId, bounds: BOUNDS } as const;
  try {
    await readApart(order, { signal, place: "The archive: unpacking it" }, (found) => {
      if (found.kind === "rows") {
        const { names, rows, beside } = found;
        read = { names, rows, beside, tiles: [] };
        return;
      }
      const { rows, tiles } = read!;
      const at = rows.layers.findIndex(({ id }) => id === found.layerId);
      const layerId = found.isOverview ? overviewId(found.layerId) : found.layerId;
      for (const tile of found.tiles) tiles.push({ layerId, ...tile });
      progress((at + found.doneShare) / rows.layers.length, `Reading ${rows.layers[at]!.name}`);
    });
  } catch (error) {
    if (!(error instanceof FileRefused)) throw error;
    throw new ArchiveError(error.message, { ...(error.todo && { todo: error.todo }), cause: error });
  }
  return read!;
}
