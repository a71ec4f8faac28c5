// Unpacks a plan's archive and reads its rows beside the serving thread: whatever it unpacks to, pages are served meanwhile. Started by
// jobs/readArchive.ts.
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { parentPort, workerData } from "node:worker_threads";
import { readBesideFiles, readRowFiles, type Beside } from "#formats/archive";
import type { PlanRows } from "#core/plan";
import { FileRefused } from "#formats/refused";
import { unpackTo, type UnpackBounds } from "#formats/zip";
import { goBehindServing } from "../../threads";

export interface ArchiveOrder {
  path: string;
  folder: string;
  planId: string;
  bounds: UnpackBounds;
}
export type ArchiveMessage =
  | { kind: "read"; names: Map<string, number>; rows: PlanRows; beside: Beside }
  | { kind: "refused"; message: string; todo: string };

goBehindServing();
const { path, folder, planId, bounds } = workerData as ArchiveOrder;

function read(): ArchiveMessage {
  try {
    const names = unpackTo(path, folder, bounds);
    const get = (name: string) => {
      const number = names.get(name);
      return number === undefined ? undefined : new Uint8Array(readFileSync(join(folder, String(number))));
    };
    const files = { get, has: (name: string) => names.has(name) };
    return { kind: "read", names, rows: readRowFiles(files, planId), beside: readBesideFiles(files) };
  } catch (error) {
    if (error instanceof FileRefused) return { kind: "refused", message: error.message, todo: error.todo };
    throw error;
  }
}
parentPort!.postMessage(read());
