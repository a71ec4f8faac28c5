import { randomUUID } from "node:crypto";
import type { Site } from "#core/plan";
import {
  buildSites,
  chooseSites,
  clearHops,
  customersOf,
  siteReach,
  terrainCandidates,
  wantedCustomers,
  withoutLinksOf,
  type BuiltSites,
  type ChosenSites,
  type Hop,
  type SiteReach,
  type SitesQuestion,
  type SiteStyle,
  type Wanted,
  type Whom,
} from "#core/sites";
import { heightOver, type Bench, type Part } from "./bench";

/** Steps of the search for where to build. */
export type SiteTaskAsk =
  | { kind: "siteWanted"; whom: Whom }
  | { kind: "siteCandidates"; subscriberIds: string[]; style: SiteStyle; powerM: number | null }
  | { kind: "siteReach"; site: Site; subscriberIds: string[]; style: SiteStyle }
  | { kind: "siteHops"; sites: Site[]; joinKm: number; part: Part }
  | { kind: "siteChoice"; question: SitesQuestion }
  | {
      kind: "siteBuild";
      chosen: Site[];
      fedIds: string[];
      reaches: SiteReach[];
      hops: Hop[];
      style: SiteStyle;
    };
export interface SiteTaskAnswers {
  siteWanted: Wanted;
  siteCandidates: Site[];
  siteReach: SiteReach;
  siteHops: Hop[];
  siteChoice: ChosenSites;
  siteBuild: BuiltSites | null;
}

/** How each step is answered. */
export const SITE_TASKS: {
  [K in SiteTaskAsk["kind"]]: (
    bench: Bench,
    ask: Extract<SiteTaskAsk, { kind: K }>,
  ) => SiteTaskAnswers[K] | Promise<SiteTaskAnswers[K]>;
} = {
  siteWanted: ({ world, between }, { whom }) => wantedCustomers(world, whom, between),
  siteCandidates: ({ world, ground, between }, { subscriberIds, style, powerM }) =>
    terrainCandidates(world, customersOf(world, subscriberIds), style, powerM, heightOver(ground), between, randomUUID),
  siteReach: ({ world, between }, { site, subscriberIds, style }) =>
    siteReach(withoutLinksOf(world, subscriberIds), site, subscriberIds, style, between, randomUUID),
  siteHops: ({ world, between }, { sites, joinKm, part }) => clearHops(world, sites, joinKm, part, between, randomUUID),
  siteChoice: ({ found }, { question }) => chooseSites(question, found),
  siteBuild: ({ world, between }, { chosen, fedIds, reaches, hops, style }) =>
    buildSites(world, chosen, fedIds, reaches, hops, style, between, randomUUID),
};
