import { randomUUID } from "node:crypto";
import type { Site } from "#core/plan";
import {
  buildSites,
  chooseSites,
  clearHops,
  customersOf,
  peopleReached,
  siteReach,
  sitesQuestion,
  terrainCandidates,
  wantedCustomers,
  withoutLinksOf,
  type BuiltSites,
  type ChosenSites,
  type Hop,
  type SiteReach,
  type SiteStyle,
  type Wanted,
  type Whom,
} from "#core/sites";
import { heightOver, type TaskGround, type Part } from "./taskGround";

/** Steps of the search for where to build. */
export type SiteTaskAsk =
  | { kind: "siteWanted"; whom: Whom }
  | { kind: "siteCandidates"; subscriberIds: string[]; style: SiteStyle; powerM: number | null }
  | { kind: "siteReach"; site: Site; subscriberIds: string[]; style: SiteStyle }
  | { kind: "siteHops"; sites: Site[]; joinKm: number; part: Part }
  | {
      kind: "siteChoice";
      candidates: Site[];
      wanted: Pick<Wanted, "people" | "fedIds">;
      reaches: SiteReach[];
      hops: Hop[];
      share: number;
      seconds: number;
    }
  | {
      kind: "siteBuild";
      chosen: Site[];
      wanted: Pick<Wanted, "subscriberIds" | "fedIds">;
      reaches: SiteReach[];
      hops: Hop[];
      style: SiteStyle;
    };
/** Which sites to build, and for how many people that is. */
export interface SiteChoice {
  choice: ChosenSites;
  peopleAsked: number;
  /** People whom all candidates that can be joined to a feed reach together. */
  peopleReachable: number;
  /** People to be reached: those wanted, or all who can be. */
  peopleWanted: number;
  peopleReached: number;
}
export interface SiteTaskAnswers {
  siteWanted: Wanted;
  siteCandidates: Site[];
  siteReach: SiteReach;
  siteHops: Hop[];
  siteChoice: SiteChoice;
  siteBuild: BuiltSites | null;
}

/** How each step is answered. */
export const SITE_TASKS: {
  [K in SiteTaskAsk["kind"]]: (
    given: TaskGround,
    ask: Extract<SiteTaskAsk, { kind: K }>,
  ) => SiteTaskAnswers[K] | Promise<SiteTaskAnswers[K]>;
} = {
  siteWanted: ({ world, between }, { whom }) => wantedCustomers(world, whom, between),
  siteCandidates: ({ world, ground, between }, { subscriberIds, style, powerM }) =>
    terrainCandidates(world, customersOf(world, subscriberIds), style, powerM, heightOver(ground), between, randomUUID),
  siteReach: ({ world, between }, { site, subscriberIds, style }) =>
    siteReach(withoutLinksOf(world, subscriberIds), site, subscriberIds, style, between, randomUUID),
  siteHops: ({ world, between }, { sites, joinKm, part }) => clearHops(world, sites, joinKm, part, between, randomUUID),
  siteChoice: async ({ found }, { candidates, wanted, reaches, hops, share, seconds }) => {
    const { question, reachable } = sitesQuestion(candidates, wanted, reaches, hops, { share, seconds });
    const choice = await chooseSites(question, found);
    const peopleAsked = question.people.reduce((sum, one) => sum + one, 0);
    return {
      ...{ choice, peopleAsked, peopleReachable: reachable },
      peopleWanted: Math.round(question.share * peopleAsked),
      peopleReached: peopleReached(question, choice.chosen),
    };
  },
  siteBuild: ({ world, between }, { chosen, wanted, reaches, hops, style }) =>
    buildSites(world, chosen, wanted, reaches, hops, style, between, randomUUID),
};
