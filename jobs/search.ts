import { linkEnds, withPatches, type Patch, type World } from "#core/plan";
import type { SearchAsk } from "#core/search";
import { counted } from "#core/words";
import { planContext } from "#engine";
import { askPool } from "#pool";
import { jobResult, type Store } from "#store";
import type { JobKind } from "./tools";

export interface SearchOrder {
  patches: Patch[];
  ask: SearchAsk;
}

/** Searches for ways out of a link of a plan under some patches; what it finds is kept with the plan. */
export const search: JobKind<SearchOrder> = {
  work: async (store, { id, planId, order }, tools) => {
    const context = await planContext(store, planId);
    if (!context) throw new Error("The plan is gone.");
    const { answer: result } = await askPool(
      context,
      order.patches,
      { kind: "search", ask: order.ask },
      { signal: tools.signal, progress: ({ doneShare, message }) => tools.progress(doneShare, message) },
    );
    return {
      message: `${result.triedCount} changes tried; ${counted(result.ways.length, "way")} out`,
      resultUrl: `/plans/${planId}/searches/${id}`,
      result,
    };
  },
};

/** What a search is called; RangeError where the plan under the patches has no such link. */
export function searchTitle(world: World, { patches, ask }: SearchOrder): string {
  const tried = withPatches(world, patches);
  const link = tried.links.get(ask.linkId);
  if (!link) throw new RangeError(`There is no link "${ask.linkId}" in the plan.`);
  const { a, b } = linkEnds(tried, link);
  return `Ways out: ${a.placeName} – ${b.placeName}`;
}

/** What a search of any kind found; null once it is forgotten. */
export function searchResult(store: Store, planId: string, id: string): Promise<unknown> {
  return jobResult(store.db, planId, id);
}
