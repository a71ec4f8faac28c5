import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { Worker } from "node:worker_threads";

/** Starts one of the scripts in jobs/workers. They are source, no part of the bundle: boot.mjs reads them as they stand. */
export function startWorker(script: string, given: object, heapMB: number): Worker {
  const folder = join(process.cwd(), "jobs", "workers");
  return new Worker(join(folder, "boot.mjs"), {
    workerData: { script: pathToFileURL(join(folder, script)).href, given },
    resourceLimits: { maxOldGenerationSizeMb: heapMB },
  });
}
