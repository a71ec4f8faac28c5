import { availableParallelism } from "node:os";
import type { AskOf } from "./searchAsk";
import type { Patch, World } from "#core/plan";
import { type BuiltSites, type ChosenSites, type SiteStyle, type Wanted } from "#core/sites";
import { counted, figure } from "#core/words";
import { planContext, type PlanContext } from "#engine";
import { askPool, type TaskAnswers, type SiteChoice, type TaskAsk } from "#pool";
import type { JobKind, JobTools } from "./tools";

/** Where to build: for whom, how many of them, and in which ways. */
export type SitesAsk = AskOf<"sites">;
export interface SitesOrder {
  patches: Patch[];
  ask: SitesAsk;
}

/** The best choice of sites found for one way to build. */
export interface SitesOfStyle extends Omit<SiteChoice, "choice"> {
  style: SiteStyle;
  candidates: number;
  newMasts: number;
  /** Prices of the choice as they were compared: sectors, masts and joining bridges. */
  costEur: number;
  lowerBoundEur: number;
  built: BuiltSites | null;
}
export interface SitesResult {
  styles: SitesOfStyle[];
  /** No site of the plan has a feed: every present site was taken as fed. */
  isWithoutFeed: boolean;
}

/** Chooses where to build, and builds the choice on trial. */
export const sites: JobKind<SitesOrder> = {
  work: async (store, { id, planId, order }, tools) => {
    const context = await planContext(store, planId);
    if (!context) throw new Error("The plan is gone.");
    const { ask, patches } = order;
    const asking = askingOf(context, patches, tools);
    tools.progress(0, "Who is to be served");
    const wanted = await asking({ kind: "siteWanted", whom: ask.whom });
    const styles: SitesOfStyle[] = [];
    for (const [i, style] of ask.styles.entries()) {
      const progress = (share: number, message: string) =>
        tools.progress((i + share) / ask.styles.length, `Reach of ${figure(style.reachKm)} km: ${message}`);
      styles.push(await ofStyle(asking, ask, style, wanted, progress));
    }
    const [first] = styles;
    return {
      message: first?.built
        ? styles.map(({ built }) => counted(built?.sites.length ?? 0, "site")).join(" against ")
        : "Nothing that can be built reaches anybody",
      resultUrl: `/plans/${planId}/searches/${id}`,
      result: { styles, isWithoutFeed: wanted.isWithoutFeed } satisfies SitesResult,
    };
  },
};

type Asking = <A extends TaskAsk>(ask: A, found?: (something: unknown) => void) => Promise<TaskAnswers[A["kind"]]>;

const askingOf =
  (context: PlanContext, patches: Patch[], { signal }: JobTools): Asking =>
  async (ask, found) =>
    (await askPool(context, patches, ask, { signal, ...(found ? { found } : {}) })).answer;

async function ofStyle(
  asking: Asking,
  ask: SitesAsk,
  style: SiteStyle,
  wanted: Wanted,
  progress: (share: number, message: string) => void,
): Promise<SitesOfStyle> {
  const { subscriberIds, people, fedIds, standing } = wanted;
  progress(0, "looking for high ground");
  const masts = ask.withNewMasts
    ? await asking({ kind: "siteCandidates", subscriberIds, style, powerM: ask.powerM })
    : [];
  const candidates = [...standing, ...masts];
  let done = 0;
  const told = async <T>(work: Promise<T>): Promise<T> => {
    const answer = await work;
    progress(0.1 + (0.5 * ++done) / candidates.length, `${done} of ${candidates.length} candidates looked from`);
    return answer;
  };
  const of = availableParallelism();
  const [reaches, hops] = await Promise.all([
    eachOf(candidates, 2 * of, (site) => told(asking({ kind: "siteReach", site, subscriberIds, style }))),
    Promise.all(
      Array.from({ length: of }, (_, index) =>
        asking({ kind: "siteHops", sites: candidates, joinKm: ask.joinKm, part: { index, of } }),
      ),
    ).then((parts) => parts.flat()),
  ]);
  progress(0.6, "choosing sites");
  const question = { candidates, wanted: { people, fedIds }, reaches, hops, share: ask.share, seconds: ask.seconds };
  const { choice, ...reach } = await asking({ kind: "siteChoice", ...question }, (better) => {
    const { chosen, costEur, lowerBoundEur } = better as ChosenSites;
    progress(
      0.7,
      `${counted(chosen.length, "site")} for ${figure(costEur, 0)} €; no choice costs less than ${figure(lowerBoundEur, 0)} €`,
    );
  });
  progress(0.9, "building the choice on trial");
  const chosen = choice.chosen.map((i) => candidates[i]!);
  const place = new Map(choice.chosen.map((i, at) => [i, at]));
  const built =
    chosen.length === 0
      ? null
      : await asking({
          kind: "siteBuild",
          chosen,
          wanted: { subscriberIds, fedIds },
          reaches: choice.chosen.map((i) => reaches[i]!),
          hops: hops.flatMap(({ i, j, costEur }) =>
            place.has(i) && place.has(j) ? [{ i: place.get(i)!, j: place.get(j)!, costEur }] : [],
          ),
          style,
        });
  return {
    style,
    ...{ candidates: candidates.length, newMasts: masts.length, built },
    ...reach,
    ...{ costEur: choice.costEur, lowerBoundEur: choice.lowerBoundEur },
  };
}

/** Works on some things, so many at a time: asked all at once they would hold up whoever serves pages meanwhile. */
async function eachOf<T, R>(things: readonly T[], atOnce: number, work: (thing: T) => Promise<R>): Promise<R[]> {
  const results: R[] = [];
  let next = 0;
  const hand = async () => {
    while (next < things.length) {
      const at = next++;
      results[at] = await work(things[at]!);
    }
  };
  await Promise.all(Array.from({ length: Math.min(atOnce, things.length) }, hand));
  return results;
}

/** What such work is called. */
export const sitesTitle = (world: World): string => `Where to build: ${world.plan.name}`;
