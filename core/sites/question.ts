import type { Site } from "../plan";
import type { SitesQuestion } from "./chooseSites";
import type { Hop, SiteReach } from "./reach";
import type { Wanted } from "./wanted";

/**
 * A choice of sites as a question: each with the price of the cheapest bridge that joins it, and as large a share of the people as the
 * candidates that can be joined to a feed reach at all. `reachable` says how many people those are.
 */
export function sitesQuestion(
  candidates: readonly Site[],
  { people, fedIds }: Pick<Wanted, "people" | "fedIds">,
  reaches: readonly SiteReach[],
  hops: readonly Hop[],
  { share, seconds }: { share: number; seconds: number },
): { question: SitesQuestion; reachable: number } {
  const feeds = candidates.flatMap(({ id }, i) => (fedIds.includes(id) ? [i] : []));
  const joined = new Set(feeds);
  for (const at of joined)
    for (const { i, j } of hops) {
      if (i === at) joined.add(j);
      if (j === at) joined.add(i);
    }
  const joiningEur = (site: number) => {
    const prices = hops.flatMap(({ i, j, costEur }) => (i === site || j === site ? [costEur] : []));
    return feeds.includes(site) || prices.length === 0 ? 0 : Math.min(...prices);
  };
  const question: SitesQuestion = {
    costsEur: reaches.map(({ costEur }, i) => costEur + joiningEur(i)),
    reaches: reaches.map(({ customers }, i) => (joined.has(i) ? [...customers] : [])),
    people,
    hops: hops.map(({ i, j }) => [i, j]),
    feeds,
    share,
    seconds,
  };
  const reachable = peopleReached(question, [...candidates.keys()]);
  const asked = people.reduce((sum, one) => sum + one, 0);
  return { question: { ...question, share: asked > 0 ? Math.min(share, reachable / asked) : 0 }, reachable };
}

/** People whom some of a question's candidates reach together. */
export function peopleReached({ reaches, people }: SitesQuestion, sites: readonly number[]): number {
  const customers = new Set(sites.flatMap((i) => reaches[i]!));
  return [...customers].reduce((sum, customer) => sum + people[customer]!, 0);
}
