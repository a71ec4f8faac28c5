// Searches for ways out of one bad link away from the thread that serves pages. Started by jobs/search.ts.
import { randomUUID } from "node:crypto";
import { parentPort, workerData } from "node:worker_threads";
import { withPatches, worldOf, type Patch, type PlanRows } from "#core/plan";
import { searchWaysOut, type SearchAsk, type SearchProgress, type SearchResult } from "#core/search";
import { profileScratch, sampleProfile, terrainOfCut, type TerrainCut } from "#core/terrain";

export interface SearchOrder {
  rows: PlanRows;
  patches: Patch[];
  cut: TerrainCut;
  ask: SearchAsk;
}
export type SearchMessage =
  | ({ kind: "progress" } & SearchProgress)
  | { kind: "found"; result: SearchResult }
  | { kind: "failed"; message: string };

/** Progress is told no oftener than this, ms. */
const TELL_MS = 100;
const port = parentPort!;
const { rows, patches, cut, ask } = (workerData as { given: SearchOrder }).given;

try {
  const terrain = terrainOfCut(cut);
  const scratch = profileScratch();
  const work = searchWaysOut(
    withPatches(worldOf(rows), patches),
    ask,
    terrain,
    (from, to) => sampleProfile(terrain, from, to, undefined, scratch),
    randomUUID,
  );
  let told = 0;
  for (;;) {
    const step = work.next();
    if (step.done) {
      port.postMessage({ kind: "found", result: step.value } satisfies SearchMessage);
      break;
    }
    if (performance.now() - told < TELL_MS) continue;
    told = performance.now();
    port.postMessage({ kind: "progress", ...step.value } satisfies SearchMessage);
  }
} catch (error) {
  port.postMessage({ kind: "failed", message: (error as Error).message } satisfies SearchMessage);
}
port.close();
