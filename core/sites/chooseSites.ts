import loadHighs, { type CallbackData } from "highs";

/** Candidates for sites, whom each reaches, and which of them see each other. */
export interface SitesQuestion {
  /** What building each candidate costs. */
  costsEur: readonly number[];
  /** Customers that each candidate reaches, as places in `people`. */
  reaches: readonly (readonly number[])[];
  /** People behind each customer. */
  people: readonly number[];
  /** Pairs of candidates between which a bridge clears. */
  hops: readonly (readonly [number, number])[];
  /** Candidates that have a feed. */
  feeds: readonly number[];
  /** Share of the people to be reached, 0 to 1. */
  share: number;
  /** How long may be looked for better ones. */
  seconds: number;
}

export interface ChosenSites {
  /** Candidates to build, rising; empty where no set reaches the share. */
  chosen: number[];
  costEur: number;
  /** No set that reaches the share costs less; what is proven so far. */
  lowerBoundEur: number;
}

/**
 * The cheapest set of sites that reaches a share of the people, each joined to a chosen feed over chosen sites. Covering with
 * connectivity as a flow from the feeds, solved as a mixed-integer program; the bound is the solver's own, true whenever it stops.
 * A greedy set is at hand from the start, so that there is an answer however short the time; `onBetter` is told of it, and of every
 * better one as it comes. Throws RangeError for what is no question.
 */
export async function chooseSites(
  question: SitesQuestion,
  onBetter: (now: ChosenSites) => void = () => undefined,
): Promise<ChosenSites> {
  check(question);
  const { costsEur, seconds } = question;
  const quick = greedySites(question);
  const costOf = (sites: readonly number[]) => sites.reduce((sum, i) => sum + costsEur[i]!, 0);
  if (quick) onBetter({ chosen: quick, costEur: costOf(quick), lowerBoundEur: 0 });
  const chosenBy = (values: ArrayLike<number>) => costsEur.flatMap((_, i) => (values[i]! > 0.5 ? [i] : []));
  const highs = await loadHighs();
  return highs.withModel({ format: "lp", data: programOf(question) }, (model) => {
    model.options.set({ output_flag: false, time_limit: seconds, mip_rel_gap: 0, random_seed: 1 });
    let leastEur = quick ? costOf(quick) : Infinity;
    model.run({
      [highs.constants.callbackType.mipImprovingSolution]: ({ data }: { data: CallbackData }) => {
        const chosen = chosenBy(data.mip_solution ?? []);
        const costEur = costOf(chosen);
        if (chosen.length === 0 || costEur >= leastEur) return;
        leastEur = costEur;
        onBetter({ chosen, costEur, lowerBoundEur: Math.max(0, data.mip_dual_bound ?? 0) });
      },
    });
    const status = model.getModelStatus();
    if (status === highs.constants.modelStatus.infeasible) return { chosen: [], costEur: 0, lowerBoundEur: Infinity };
    const bound = Number(model.info.get("mip_dual_bound"));
    const lowerBoundEur = Number.isFinite(bound) ? Math.max(0, bound) : 0;
    const isFound = Number(model.info.get("primal_solution_status")) === highs.constants.solutionStatus.feasible;
    const values = isFound ? model.getSolution().colValue : null;
    const found = values && chosenBy(values);
    const best = !found || (quick && costOf(quick) < costOf(found)) ? quick : found;
    if (!best) return { chosen: [], costEur: 0, lowerBoundEur };
    return { chosen: best, costEur: costOf(best), lowerBoundEur: Math.min(lowerBoundEur, costOf(best)) };
  });
}

function check({ costsEur, reaches, people, hops, feeds, share }: SitesQuestion): void {
  const isSite = (i: number) => Number.isInteger(i) && i >= 0 && i < costsEur.length;
  if (reaches.length !== costsEur.length)
    throw new RangeError(`reaches names ${reaches.length} candidates; costsEur names ${costsEur.length}`);
  if (!(share >= 0 && share <= 1)) throw new RangeError(`share is ${share}; it must be from 0 to 1`);
  const bad = [...hops.flat(), ...feeds].find((i) => !isSite(i));
  if (bad !== undefined) throw new RangeError(`${bad} is no candidate; there are ${costsEur.length}`);
  const none = reaches.flat().find((c) => !(c >= 0 && c < people.length));
  if (none !== undefined) throw new RangeError(`${none} is no customer; there are ${people.length}`);
}

/** Customers whom the same candidates reach count as one: of ten thousand a few hundred kinds are left. */
function kindsOf({ costsEur, reaches, people }: SitesQuestion): { by: number[]; people: number }[] {
  const by: number[][] = people.map(() => []);
  costsEur.forEach((_, i) => new Set(reaches[i]).forEach((customer) => by[customer]!.push(i)));
  const kinds = new Map<string, { by: number[]; people: number }>();
  by.forEach((sites, customer) => {
    const kind = kinds.get(sites.join(" ")) ?? { by: sites, people: 0 };
    kind.people += people[customer]!;
    kinds.set(sites.join(" "), kind);
  });
  return [...kinds.values()].filter((kind) => kind.by.length > 0 && kind.people > 0);
}

/** The mixed-integer program in LP format: x a site, y a kind of customers, f a flow over a hop. */
function programOf(question: SitesQuestion): string {
  const { costsEur, people, hops, feeds, share } = question;
  const kinds = kindsOf(question);
  const wanted = share * people.reduce((sum, one) => sum + one, 0);
  const isFeed = new Set(feeds);
  const most = costsEur.length;
  const sum = (terms: string[]) => (terms.length > 0 ? terms.join(" + ") : "0 x0");
  const neighbours = costsEur.map(() => new Set<number>());
  for (const [i, j] of hops) {
    if (i === j) continue;
    neighbours[i]!.add(j);
    neighbours[j]!.add(i);
  }
  const ways = costsEur.flatMap((_, i) => [...neighbours[i]!].map((j) => [i, j] as const));
  const rows: string[] = [`people: ${sum(kinds.map((kind, k) => `${kind.people} y${k}`))} >= ${wanted - ROUNDING}`];
  kinds.forEach(({ by }, k) => rows.push(`c${k}: ${sum(by.map((i) => `x${i}`))} - y${k} >= 0`));
  for (const [i, j] of ways) {
    rows.push(`o${i}_${j}: f${i}_${j} - ${most} x${i} <= 0`, `t${i}_${j}: f${i}_${j} - ${most} x${j} <= 0`);
  }
  costsEur.forEach((_, i) => {
    if (isFeed.has(i)) return;
    const into = [...neighbours[i]!].map((j) => `f${j}_${i}`);
    const out = [...neighbours[i]!].map((j) => ` - f${i}_${j}`).join("");
    // Every site takes one unit of the flow; whoever has no neighbour can take none.
    rows.push(`b${i}: ${sum(into)}${out} - x${i} = 0`);
    rows.push(`n${i}: ${sum([...neighbours[i]!].map((j) => `x${j}`))} - x${i} >= 0`);
  });
  return [
    "Minimize",
    ` cost: ${sum(costsEur.map((cost, i) => `${cost} x${i}`))}`,
    "Subject To",
    ...rows.map((row) => ` ${row}`),
    "Bounds",
    ...kinds.map((_, k) => ` 0 <= y${k} <= 1`),
    ...ways.map(([i, j]) => ` 0 <= f${i}_${j} <= ${most}`),
    "Binary",
    ` ${costsEur.map((_, i) => `x${i}`).join(" ")}`,
    "End",
  ].join("\n");
}
/** What a sum of people may fall short by in rounding. */
const ROUNDING = 1e-6;

/**
 * A set built up by whatever reaches most people more for its cost, the sites on the way to a feed counted; sites that turn out to be
 * needed for nothing are left out again. Null where no set reaches the share.
 */
export function greedySites(question: SitesQuestion): number[] | null {
  const { costsEur, reaches, people, hops, feeds, share } = question;
  const wanted = share * people.reduce((sum, one) => sum + one, 0) - ROUNDING;
  const chosen = new Set<number>();
  const reachedBy = (sites: Iterable<number>) => {
    const customers = new Set<number>();
    for (const i of sites) for (const customer of reaches[i]!) customers.add(customer);
    return [...customers].reduce((sum, customer) => sum + people[customer]!, 0);
  };
  let now = 0;
  while (now < wanted) {
    const ways = cheapestWays(costsEur, hops, feeds, chosen);
    let best: { sites: number[]; reached: number; worth: number } | null = null;
    costsEur.forEach((_, i) => {
      const way = chosen.has(i) ? undefined : ways.get(i);
      if (!way) return;
      const reached = reachedBy([...chosen, ...way.sites]);
      const worth = (Math.min(reached, wanted) - now) / Math.max(1, way.costEur);
      if (reached > now && (!best || worth > best.worth)) best = { sites: way.sites, reached, worth };
    });
    const taken = best as { sites: number[]; reached: number } | null;
    if (!taken) return null;
    for (const i of taken.sites) chosen.add(i);
    now = taken.reached;
  }
  for (const i of [...chosen].sort((x, y) => costsEur[y]! - costsEur[x]!)) {
    const without = [...chosen].filter((one) => one !== i);
    if (reachedBy(without) >= wanted && isJoined(without, hops, feeds)) chosen.delete(i);
  }
  return [...chosen].sort((x, y) => x - y);
}

/** The cheapest way to join every candidate to what is chosen, or to a feed, with the sites that it adds. */
function cheapestWays(
  costsEur: readonly number[],
  hops: SitesQuestion["hops"],
  feeds: readonly number[],
  chosen: ReadonlySet<number>,
): Map<number, { sites: number[]; costEur: number }> {
  const ways = new Map<number, { sites: number[]; costEur: number }>();
  for (const i of chosen) ways.set(i, { sites: [], costEur: 0 });
  for (const i of feeds) if (!chosen.has(i)) ways.set(i, { sites: [i], costEur: costsEur[i]! });
  // Few hops and few candidates: relaxed until nothing is cheaper.
  for (let isBetter = true; isBetter;) {
    isBetter = false;
    for (const [one, other] of hops)
      for (const [from, to] of [
        [one, other],
        [other, one],
      ] as const) {
        const way = ways.get(from);
        if (!way || chosen.has(to)) continue;
        const costEur = way.costEur + costsEur[to]!;
        if (costEur < (ways.get(to)?.costEur ?? Infinity) - ROUNDING) {
          ways.set(to, { sites: [...way.sites, to], costEur });
          isBetter = true;
        }
      }
  }
  return ways;
}

/** Whether each of some sites is joined to a feed among them over them. */
export function isJoined(sites: readonly number[], hops: SitesQuestion["hops"], feeds: readonly number[]): boolean {
  const built = new Set(sites);
  const reached = new Set(feeds.filter((i) => built.has(i)));
  for (let count = -1; count !== reached.size;) {
    count = reached.size;
    for (const [i, j] of hops) {
      if (built.has(j) && reached.has(i)) reached.add(j);
      if (built.has(i) && reached.has(j)) reached.add(i);
    }
  }
  return reached.size === built.size;
}
