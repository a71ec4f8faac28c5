import { randomUUID } from "node:crypto";
import { inverseGeodesic } from "#core/geodesy";
import { linkEnds, withPatches, type Patch } from "#core/plan";
import type { SearchAsk, SearchResult } from "#core/search";
import { boundsOf } from "#core/terrain";
import { counted } from "#core/words";
import { cutGently } from "./cut";
import type { PlanContext } from "#engine";
import { startJob, Stopped, type JobView } from "./registry";
import { startWorker } from "./startWorker";
import type { SearchMessage, SearchOrder } from "./workers/search";

const WORKER_HEAP_MB = 700;
/** Ground about the searched path beyond what moves and relays can reach, m. */
const MARGIN_M = 500;
/** Sites farther from a path than this many times its length are no relays for it. */
const RELAY_REACH = 0.75;

const results = new Map<string, { planId: string; result: SearchResult }>();
const KEPT_RESULTS = 40;

/** What a search found, under the id that its job's address ends with; null once it is forgotten. */
export function searchResult(planId: string, id: string): SearchResult | null {
  const found = results.get(id);
  return found && found.planId === planId ? found.result : null;
}

/** Searches for ways out of a link of a plan under `patches` in a worker of its own; the job's address is where the result lies. */
export function startSearch(context: PlanContext, patches: Patch[], ask: SearchAsk): JobView {
  const world = withPatches(context.world, patches);
  const link = world.links.get(ask.linkId);
  if (!link) throw new RangeError(`There is no link "${ask.linkId}" in the plan.`);
  const { a, b } = linkEnds(world, link);
  const planId = context.rows.plan.id;
  return startJob(planId, `Ways out: ${a.placeName} – ${b.placeName}`, async (tools) => {
    const { distanceM } = inverseGeodesic(a.place, b.place);
    const reachM = Math.max(distanceM * RELAY_REACH, ask.moveAM, ask.moveBM);
    const near = [...world.sites.values()].filter(
      (site) => Math.min(...[a, b].map((end) => inverseGeodesic(end.place, site).distanceM)) <= reachM,
    );
    const cut = await cutGently(context.terrain, boundsOf([a.place, b.place, ...near], reachM / 2 + MARGIN_M));
    tools.check();
    const worker = startWorker(
      "search.ts",
      { rows: { ...context.rows, photos: [], overlays: [] }, patches, cut, ask } satisfies SearchOrder,
      WORKER_HEAP_MB,
    );
    const halt = () => void worker.terminate();
    tools.signal.addEventListener("abort", halt);
    try {
      const result = await new Promise<SearchResult>((resolve, reject) => {
        worker.on("message", (message: SearchMessage) => {
          if (message.kind === "progress") tools.progress(message.doneShare, message.message);
          else if (message.kind === "found") resolve(message.result);
          else reject(new Error(message.message));
        });
        worker.on("error", reject);
        worker.on("exit", () => reject(new Stopped()));
      });
      const id = randomUUID();
      if (results.size >= KEPT_RESULTS) results.delete(results.keys().next().value!);
      results.set(id, { planId, result });
      const coarse = cut.isCoarser ? `, on ground of ${cut.cellM.toFixed(0)} m cells` : "";
      return {
        message: `${result.triedCount} changes tried${coarse}; ${counted(result.ways.length, "way")} out`,
        resultUrl: `/plans/${planId}/searches/${id}`,
      };
    } finally {
      tools.signal.removeEventListener("abort", halt);
      await worker.terminate();
    }
  });
}
