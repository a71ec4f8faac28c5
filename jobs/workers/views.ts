// Answers many paths at once away from the thread that serves pages. Stays alive between questions; started by jobs/views.ts.
import { randomUUID } from "node:crypto";
import { parentPort } from "node:worker_threads";
import { withPatches, worldOf, type Patch, type PlanRows, type World } from "#core/plan";
import { compareBands, viewFromSite, viewFromSubscriber, type BandRow, type ViewRow } from "#core/search";
import { profileScratch, sampleProfile, terrainOfCut, type Terrain, type TerrainCut } from "#core/terrain";

export type ViewAsk =
  | { kind: "fromSite"; siteId: string; of: "subscribers" | "sites" }
  | { kind: "fromSubscriber"; subscriberId: string }
  | { kind: "bands"; linkId: string; demandMbps: number };
export interface ViewOrder {
  id: number;
  /** Left out when the last question brought the same ones. */
  rows?: PlanRows;
  cut?: TerrainCut;
  patches: Patch[];
  ask: ViewAsk;
}
export interface ViewAnswers {
  rows: ViewRow[] | BandRow[];
  /** Time that the answering took, ms. */
  tookMs: number;
  /** Cells of the ground, m, where it had to be thinned for so wide a view; null where it is as it is. */
  coarseM: number | null;
}
export type ViewMessage = { id: number; answers: ViewAnswers } | { id: number; failed: string };

const port = parentPort!;
const scratch = profileScratch();
let kept: World | null = null;
let terrain: Terrain | null = null;
let coarseM: number | null = null;

function answer({ patches, ask }: ViewOrder): ViewRow[] | BandRow[] {
  const world = withPatches(kept!, patches);
  const over = terrain!;
  const between: Parameters<typeof viewFromSubscriber>[2] = (from, to) =>
    sampleProfile(over, from, to, undefined, scratch);
  const required = <T>(row: T | undefined, what: string): T => {
    if (!row) throw new RangeError(`There is no ${what} in the plan.`);
    return row;
  };
  if (ask.kind === "fromSite")
    return viewFromSite(
      world,
      required(world.sites.get(ask.siteId), `site "${ask.siteId}"`),
      ask.of,
      between,
      randomUUID,
    );
  if (ask.kind === "fromSubscriber")
    return viewFromSubscriber(
      world,
      required(world.subscribers.get(ask.subscriberId), `subscriber "${ask.subscriberId}"`),
      between,
      randomUUID,
    );
  return compareBands(
    world,
    required(world.links.get(ask.linkId), `link "${ask.linkId}"`),
    ask.demandMbps,
    between,
    randomUUID,
  );
}

port.on("message", (order: ViewOrder) => {
  const start = performance.now();
  try {
    if (order.rows) kept = worldOf(order.rows);
    if (order.cut) {
      terrain = terrainOfCut(order.cut);
      coarseM = order.cut.isCoarser ? order.cut.cellM : null;
    }
    const rows = answer(order);
    port.postMessage({
      id: order.id,
      answers: { rows, tookMs: performance.now() - start, coarseM },
    } satisfies ViewMessage);
  } catch (error) {
    port.postMessage({ id: order.id, failed: (error as Error).message } satisfies ViewMessage);
  }
});
