import type { Backhaul, BackhaulHop } from "../../capacity";
import { fullHopWays } from "../../expansion";
import { backboneOf, peopleBehindSite } from "../../outcome";
import type { World } from "../../plan";
import { counted, mbps } from "../../words";
import type { Check, PlanFault } from "./check";

export const unfed: Check = {
  id: "unfed",
  title: "No way to a feed",
  stage: "capacity",
  ofPlan: (world, _summaries, backhaul) => unfedFaults(world, backhaul),
};

export const fullHop: Check = {
  id: "fullHop",
  title: "Bridge too narrow",
  stage: "capacity",
  ofPlan: (world, _summaries, backhaul) => fullHopFaults(world, backhaul),
  remedies: (world, { linkId }, { profileBetween }) => (linkId ? fullHopWays(world, linkId, profileBetween) : []),
};

export const fullFeed: Check = {
  id: "fullFeed",
  title: "Feed too narrow",
  stage: "capacity",
  ofPlan: (world, _summaries, backhaul) => fullFeedFaults(world, backhaul),
};

export const ring: Check = {
  id: "ring",
  title: "Ring of bridges",
  stage: "capacity",
  ofPlan: (world, _summaries, backhaul) => ringFaults(world, backhaul),
};

const siteName = (world: World, id: string) => world.sites.get(id)?.name ?? "";

/** How a hop is called: from the feed's side outward. */
const hopName = (world: World, { fromSiteId, toSiteId }: BackhaulHop) =>
  `${siteName(world, fromSiteId)} – ${siteName(world, toSiteId)}`;

/** Bridges that carry less than those behind them ask for at the busy hour. */
function fullHopFaults(world: World, { hops }: Backhaul): PlanFault[] {
  return hops
    .filter(({ load }) => load > 1)
    .map((hop) => {
      const { linkId, demandDownMbps, demandUpMbps, downMbps, upMbps, load, people, customers } = hop;
      const when = hop.isFairWeather ? "in fair weather" : `${world.plan.availabilityPercent} % of the time`;
      const ways = [
        [demandDownMbps, downMbps, "outward"],
        [demandUpMbps, upMbps, "toward the feed"],
      ] as const;
      const short = ways.filter(([asked, carried]) => asked > carried);
      return {
        about: [{ kind: "links" as const, id: linkId }],
        linkId,
        radioId: null,
        where: hopName(world, hop),
        people,
        figure: { value: load, unit: "of what it carries" },
        what: `${short.map(([asked, carried, way]) => `${mbps(asked)} Mbit/s asked for ${way}, ${mbps(carried)} carried ${when}`).join("; ")}; ${counted(customers, "customer")} behind it`,
        why: "What the customers behind a bridge use together at the busy hour, against the rate that it keeps for the wanted availability. However good their own links are, they share what is left.",
        cause: null,
      };
    });
}

/** Feeds that carry less than everybody behind them asks for. */
function fullFeedFaults(world: World, { feeds, sites }: Backhaul): PlanFault[] {
  return feeds.flatMap(({ siteId, feedMbps, demandDownMbps, demandUpMbps, load }) => {
    if (load === null || load <= 1) return [];
    const behind = new Set(sites.filter(({ feedId }) => feedId === siteId).map((site) => site.siteId));
    return {
      about: [{ kind: "sites" as const, id: siteId }],
      linkId: null,
      radioId: null,
      where: siteName(world, siteId),
      people: [...behind].reduce((sum, id) => sum + peopleBehindSite(world, id), 0),
      figure: { value: load, unit: "of the feed" },
      what: `${mbps(Math.max(demandDownMbps, demandUpMbps))} Mbit/s asked for at the busy hour, the feed carries ${mbps(feedMbps)}`,
      why: "All traffic leaves here. A larger feed, a second one elsewhere, or slower tiers: no radio mends this.",
      cause: null,
    };
  });
}

/** Sites with customers, or with bridges, that no bridge joins to a feed. */
function unfedFaults(world: World, { unreached }: Backhaul): PlanFault[] {
  if (unreached.length === 0) return [];
  const wanted = new Set(unreached);
  const firstLink = new Map<string, string>();
  for (const { id, aRadioId, bRadioId } of world.links.values())
    for (const end of [aRadioId, bRadioId]) {
      const siteId = world.radios.get(end)?.siteId;
      if (siteId && wanted.has(siteId) && !firstLink.has(siteId)) firstLink.set(siteId, id);
    }
  const { peopleAt } = backboneOf(world);
  return unreached.map((siteId) => {
    return {
      about: [{ kind: "sites" as const, id: siteId }],
      linkId: firstLink.get(siteId) ?? null,
      radioId: null,
      where: siteName(world, siteId),
      people: peopleAt.get(siteId) ?? 0,
      figure: null,
      what: "No bridge that carries anything joins it to a feed",
      why: "Its customers may have good links to the mast, and still nothing comes through.",
      cause: null,
    };
  });
}

/** Bridges that close a ring. */
function ringFaults(world: World, { spare }: Backhaul): PlanFault[] {
  return spare.map((linkId) => {
    const link = world.links.get(linkId)!;
    const [a, b] = [link.aRadioId, link.bRadioId].map((id) => siteName(world, world.radios.get(id)?.siteId ?? ""));
    return {
      about: [{ kind: "links" as const, id: linkId }],
      linkId,
      radioId: null,
      where: `${a} – ${b}`,
      people: 0,
      figure: null,
      what: "Closes a ring: another way to the feed is shorter, and this one stands by",
      why: "Two ways are worth having when one breaks. Bridges that only switch frames send them round for ever: one of the two must be blocked by protocol or routed, and the plan counts no traffic on it.",
      cause: null,
    };
  });
}
