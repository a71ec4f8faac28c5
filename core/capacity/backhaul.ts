import type { LinkSummary } from "../outcome";
import { busyOf, customerOf, type Link, type World } from "../plan";
import { yearsUntilFull } from "./busy";

/** A bridge on the way from a feed, seen from the feed: "down" is away from it. */
export interface BackhaulHop {
  linkId: string;
  fromSiteId: string;
  toSiteId: string;
  /** What it keeps for the plan's availability, Mbit/s; in fair weather where nothing can be promised for that. */
  downMbps: number;
  upMbps: number;
  isFairWeather: boolean;
  /** What all customers behind it use together at the busy hour. */
  demandDownMbps: number;
  demandUpMbps: number;
  /** Of the fuller direction; infinite where it carries nothing of what is asked for. */
  load: number;
  customers: number;
  people: number;
  fullInYears: number | null;
}

/** A site as the feed sees it. */
export interface BackhaulSite {
  siteId: string;
  /** From its feed outward; empty at the feed. */
  way: string[];
  feedId: string;
  /** What all customers of the site and of those behind it use together. */
  demandDownMbps: number;
  demandUpMbps: number;
  customers: number;
  /** The fullest hop on the way, if there is one. */
  narrowest: string | null;
}

/** A feed and what hangs on it. */
export interface BackhaulFeed {
  siteId: string;
  /** 0 where nobody said what it carries. */
  feedMbps: number;
  demandDownMbps: number;
  demandUpMbps: number;
  /** Null where the feed's rate is not known. */
  load: number | null;
  fullInYears: number | null;
}

/** The bridges of a plan as a tree that hangs on its feeds. */
export interface Backhaul {
  feeds: BackhaulFeed[];
  /** Nearest to the feeds first. */
  hops: BackhaulHop[];
  sites: BackhaulSite[];
  /** Sites that serve customers, or stand in for others, and have no way to a feed over bridges that carry anything. */
  unreached: string[];
  /** Bridges that carry nothing because another way is shorter: each closes a ring. */
  spare: string[];
}

interface Bridge {
  link: Link;
  a: string;
  b: string;
  rates: { down: number; up: number };
  isFairWeather: boolean;
}

function bridgesOf(world: World, summaries: ReadonlyMap<string, LinkSummary>): Bridge[] {
  const bridges: Bridge[] = [];
  for (const link of world.links.values()) {
    const a = world.radios.get(link.aRadioId)?.siteId;
    const b = world.radios.get(link.bRadioId)?.siteId;
    const summary = summaries.get(link.id);
    if (!a || !b || a === b || !summary) continue;
    const { steadyDownMbps, steadyUpMbps, downMbps, upMbps } = summary;
    const isFairWeather = steadyDownMbps === null || steadyUpMbps === null;
    const rates = isFairWeather ? { down: downMbps, up: upMbps } : { down: steadyDownMbps, up: steadyUpMbps };
    bridges.push({ link, a, b, rates, isFairWeather });
  }
  return bridges;
}

/** Demands of the customers of each site, by the access point that serves them. */
function customersBySite(world: World) {
  const bySite = new Map<string, { downMbps: number; upMbps: number; people: number }[]>();
  for (const link of world.links.values()) {
    const siteId = world.radios.get(link.aRadioId)?.siteId;
    const customer = customerOf(world, link);
    if (!siteId || !customer) continue;
    const one = { downMbps: customer.demandMbps, upMbps: customer.demandUpMbps, people: customer.people };
    const known = bySite.get(siteId);
    if (known) known.push(one);
    else bySite.set(siteId, [one]);
  }
  return bySite;
}

/**
 * The backhaul of a plan: every site joined to a feed by the fewest hops, of several such ways over the one whose narrowest hop carries
 * most; demand summed along the tree. A plan without a feed has no tree: everything in it is empty.
 */
export function backhaulOf(world: World, summaries: ReadonlyMap<string, LinkSummary>): Backhaul {
  const feeds = [...world.sites.values()].filter(({ isFeed }) => isFeed);
  if (feeds.length === 0) return { feeds: [], hops: [], sites: [], unreached: [], spare: [] };
  const bridges = bridgesOf(world, summaries).filter(({ rates }) => rates.down > 0 && rates.up > 0);
  const bySite = new Map<string, Bridge[]>();
  for (const bridge of bridges)
    for (const end of [bridge.a, bridge.b]) bySite.set(end, [...(bySite.get(end) ?? []), bridge]);
  const cameOver = wayFrom(
    feeds.map(({ id }) => id),
    bySite,
  );

  const customers = customersBySite(world);
  const behind = new Map([...cameOver.keys()].map((id) => [id, [...(customers.get(id) ?? [])]]));
  // Farthest first: each site hands what hangs on it to the one before it.
  const outward = [...cameOver.keys()];
  for (const siteId of [...outward].reverse()) {
    const before = cameOver.get(siteId);
    if (before) behind.get(before.fromSiteId)!.push(...behind.get(siteId)!);
  }
  const { oversubscription, growthPercent } = world.plan;
  const demandAt = (siteId: string) => {
    const those = behind.get(siteId)!;
    const of = (way: "downMbps" | "upMbps") =>
      busyOf(
        those.map((one) => one[way]),
        oversubscription,
      );
    return { demandDownMbps: of("downMbps"), demandUpMbps: of("upMbps") };
  };

  const hops: BackhaulHop[] = [];
  const ways = new Map<string, string[]>();
  const loads = new Map<string, number>();
  for (const siteId of outward) {
    const over = cameOver.get(siteId);
    ways.set(siteId, over ? [...ways.get(over.fromSiteId)!, over.bridge.link.id] : []);
    if (!over) continue;
    const { bridge, fromSiteId } = over;
    const { down, up } = bridge.rates;
    const [downMbps, upMbps] = bridge.a === fromSiteId ? [down, up] : [up, down];
    const demand = demandAt(siteId);
    const load = Math.max(demand.demandDownMbps / downMbps, demand.demandUpMbps / upMbps);
    loads.set(bridge.link.id, load);
    const those = behind.get(siteId)!;
    hops.push({
      linkId: bridge.link.id,
      fromSiteId,
      toSiteId: siteId,
      downMbps,
      upMbps,
      load,
      ...demand,
      isFairWeather: bridge.isFairWeather,
      customers: those.length,
      people: those.reduce((sum, { people }) => sum + people, 0),
      fullInYears: yearsUntilFull(load, growthPercent),
    });
  }
  const sites = outward.map((siteId): BackhaulSite => {
    const way = ways.get(siteId)!;
    let feedId = siteId;
    for (let over = cameOver.get(feedId); over; over = cameOver.get(feedId)) feedId = over.fromSiteId;
    const narrowest = way.reduce<string | null>(
      (worst, id) => (worst === null || loads.get(id)! > loads.get(worst)! ? id : worst),
      null,
    );
    return { siteId, way, feedId, narrowest, ...demandAt(siteId), customers: behind.get(siteId)!.length };
  });
  const inTree = new Set(hops.map(({ linkId }) => linkId));
  const hasBridge = new Set(bridgesOf(world, summaries).flatMap(({ a, b }) => [a, b]));
  return {
    feeds: feeds.map(({ id, feedMbps }): BackhaulFeed => {
      const demand = demandAt(id);
      const load = feedMbps > 0 ? Math.max(demand.demandDownMbps, demand.demandUpMbps) / feedMbps : null;
      const fullInYears = load === null ? null : yearsUntilFull(load, growthPercent);
      return { siteId: id, feedMbps, ...demand, load, fullInYears };
    }),
    hops,
    sites,
    unreached: [...world.sites.keys()].filter((id) => !cameOver.has(id) && (customers.has(id) || hasBridge.has(id))),
    spare: bridges
      .filter(({ link, a, b }) => !inTree.has(link.id) && cameOver.has(a) && cameOver.has(b))
      .map(({ link }) => link.id),
  };
}

interface CameOver {
  bridge: Bridge;
  fromSiteId: string;
}

/** Every site that feeds reach, nearest first, with the bridge that it is reached over; null at a feed. */
function wayFrom(
  feedIds: readonly string[],
  bySite: ReadonlyMap<string, readonly Bridge[]>,
): Map<string, CameOver | null> {
  const cameOver = new Map<string, CameOver | null>(feedIds.map((id) => [id, null]));
  const width = new Map<string, number>(feedIds.map((id) => [id, Infinity]));
  for (let ring = [...feedIds]; ring.length > 0;) {
    const next = new Map<string, CameOver>();
    for (const fromSiteId of ring)
      for (const bridge of bySite.get(fromSiteId) ?? []) {
        const to = bridge.a === fromSiteId ? bridge.b : bridge.a;
        if (cameOver.has(to)) continue;
        const wide = Math.min(width.get(fromSiteId)!, bridge.rates.down, bridge.rates.up);
        if (next.has(to) && width.get(to)! >= wide) continue;
        next.set(to, { bridge, fromSiteId });
        width.set(to, wide);
      }
    for (const [to, over] of next) cameOver.set(to, over);
    ring = [...next.keys()];
  }
  return cameOver;
}
