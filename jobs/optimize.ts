import { tradeCurve, type OptimizeAsk, type TradePoint } from "#core/optimize";
import type { Patch, World } from "#core/plan";
import { counted } from "#core/words";
import { planContext } from "#engine";
import { askPool, Stopped } from "#pool";
import { isPaused, type JobKind } from "./tools";

export interface OptimizeOrder {
  patches: Patch[];
  ask: OptimizeAsk;
}

/** Where the sectors began, and the points of the trade, most people first. */
export interface OptimizeResult {
  before: TradePoint;
  points: TradePoint[];
}

/** Betters the sectors of some sites. Whoever stops it is given the best so far. */
export const optimize: JobKind<OptimizeOrder> = {
  work: async (store, { id, planId, order }, { signal, progress }) => {
    const context = await planContext(store, planId);
    if (!context) throw new Error("The plan is gone.");
    const points: TradePoint[] = [];
    let isWhole = true;
    try {
      await askPool(
        context,
        order.patches,
        { kind: "optimize", ask: order.ask },
        {
          signal,
          progress: ({ doneShare, message }) => progress(doneShare, message),
          found: (point) => points.push(point as TradePoint),
        },
      );
    } catch (error) {
      if (!(error instanceof Stopped) || isPaused(signal) || points.length === 0) throw error;
      isWhole = false;
    }
    const result: OptimizeResult = { before: points[0]!, points: tradeCurve(points) };
    return {
      message: `${isWhole ? "" : "Stopped with the best so far: "}${counted(result.points.length, "choice")} of ${counted(points.length, "step")}`,
      resultUrl: `/plans/${planId}/searches/${id}`,
      result,
    };
  },
};

/** What such work is called; RangeError where the plan has none of the sites. */
export function optimizeTitle(world: World, { ask }: OptimizeOrder): string {
  const [first, ...others] = ask.siteIds.map((id) => {
    const site = world.sites.get(id);
    if (!site) throw new RangeError(`There is no site "${id}" in the plan.`);
    return site.name;
  });
  if (first === undefined) throw new RangeError("No site was chosen.");
  return `Sectors of ${first}${others.length > 0 ? ` and ${others.length} more` : ""}`;
}
