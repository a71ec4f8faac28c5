import { compareBands } from "../search/bands";
import { backhaulOf, type Backhaul, type BackhaulHop } from "../capacity";
import { inverseGeodesic } from "../geodesy";
import type { LinkSummary, ProfileSource } from "../outcome";
import { linkEnds, removePatch, type Link, type Patch, type World } from "../plan";
import { groupOn, proposeBridge, quietChannelsMHz } from "../propose";
import { addedEur, slowedCount, trialOf, type Change, type Remedy } from "../trial";
import { costChangeText, counted, figure, mbps } from "../words";

/** A way to relieve a hop, tried on the whole way to the feed. */
export interface HopWay extends Remedy {
  /** Of the hop that then carries its customers. */
  downMbps: number;
  upMbps: number;
  load: number;
  /** The fullest hop of the whole way to the feed. */
  fullestOnWay: number;
  costEur: number;
  /** Other links that run slower in the noise that it makes. */
  slowed: number;
}

/** Sites from which another way is looked for, nearest first, and how far it may reach, km. */
const ROUTES_TRIED = 6;
const FARTHEST_ROUTE_KM = 40;

/**
 * What would relieve a bridge: the best use of every band between its ends, wider channels among them, and a bridge from another site
 * in its place. Each is answered in full and put into the tree; what is enough first, then what slows
 * fewest others, then the smaller change and the cheaper. Empty for a bridge that no feed reaches.
 */
export function hopWays(world: World, linkId: string, between: ProfileSource): HopWay[] {
  const link = world.links.get(linkId);
  if (!link) throw new RangeError(`There is no link "${linkId}" in the plan.`);
  const before = trialOf(world, between);
  const summaries = new Map<string, LinkSummary>();
  for (const { id, kind } of world.links.values()) if (kind === "bridge") summaries.set(id, before.summary(id));
  const now = backhaulOf(world, summaries);
  const hop = now.hops.find((one) => one.linkId === linkId);
  if (!hop) return [];
  const tried: Tried = (label, patches) => {
    const after = before.after(patches);
    const bridges = [...after.world.links.values()].filter(({ kind }) => kind === "bridge");
    // What stays is taken as it was: how far the change disturbs it is counted below.
    const known = (id: string) => (id === linkId ? undefined : summaries.get(id));
    const tree = backhaulOf(after.world, new Map(bridges.map(({ id }) => [id, known(id) ?? after.summary(id)])));
    const way = tree.sites.find(({ siteId }) => siteId === hop.toSiteId)?.way ?? [];
    const hops = way.map((id) => tree.hops.find((one) => one.linkId === id)!);
    const last = hops.at(-1);
    if (!last || tree.unreached.length > now.unreached.length) return null;
    const costEur = addedEur(before, after);
    const fullestOnWay = Math.max(...hops.map(({ load }) => load));
    const { downMbps, upMbps, load } = last;
    const slowed = slowedCount(before, after, patches, new Set([linkId]));
    const harm = slowed > 0 ? `; ${counted(slowed, "other link")} slower in its noise` : "";
    return {
      ...{ label, patches, downMbps, upMbps, load, fullestOnWay, costEur, slowed, visit: false },
      effect: `${mbps(downMbps)}/${mbps(upMbps)} Mbit/s kept outward/inward, ${figure(load * 100, 0)} % of it asked for; fullest hop to the feed ${figure(fullestOnWay * 100, 0)} %${costChangeText(costEur)}${harm}`,
    };
  };
  const all = [
    ...widerWays(world, link, tried),
    ...bandWays(world, link, hop, between, tried),
    ...routes(world, link, hop, now).map(({ label, patches }) => tried(label, patches)),
  ];
  return all.filter((way): way is HopWay => way !== null && way.load < hop.load).sort(byWorth);
}

type Tried = (label: string, patches: Patch[]) => HopWay | null;

function byWorth(x: HopWay, y: HopWay): number {
  return (
    Number(x.load > 1) - Number(y.load > 1) ||
    x.slowed - y.slowed ||
    x.patches.length - y.patches.length ||
    x.costEur - y.costEur ||
    // Of two that are enough the narrower channel leaves more for others.
    (x.load > 1 ? x.load - y.load : y.load - x.load)
  );
}

/** The best use of every band between the ends of a hop. */
function bandWays(world: World, link: Link, hop: BackhaulHop, between: ProfileSource, tried: Tried): (HopWay | null)[] {
  const asked = isFrom(world, link, hop.fromSiteId) ? hop.demandDownMbps : hop.demandUpMbps;
  const makeId = () => `${link.aRadioId}-2`.slice(-64);
  return compareBands(world, link, asked, between, makeId).flatMap(({ result, patches }) => {
    if (!result?.served) return [];
    const { aRadio, aAntenna, widthMHz, frequencyMHz } = result;
    return [tried(`${aRadio} with ${aAntenna}, ${widthMHz} MHz wide at ${frequencyMHz} MHz`, patches)];
  });
}

/** Every wider channel that both ends know, with the kit that is planned. */
function widerWays(world: World, link: Link, tried: Tried): (HopWay | null)[] {
  const { a } = linkEnds(world, link);
  return a.model.widthsMHz
    .filter((widthMHz) => widthMHz > a.radio.widthMHz)
    .map((widthMHz) => {
      // From how far masts stand one cannot tell what customers hear: the first quiet channel that slows nobody is taken.
      const ways = widened(world, link, widthMHz).flatMap(({ label, patches }) => tried(label, patches) ?? []);
      return ways.find(({ slowed }) => slowed === 0) ?? ways[0] ?? null;
    });
}

/** Quiet channels that are tried for each width. */
const CHANNELS_TRIED = 4;

/** A bridge on a wider channel, on one quiet channel after another; none where the far end does not know that width. */
function widened(world: World, link: Link, widthMHz: number): Change[] {
  const { a, b } = linkEnds(world, link);
  if (!b.model.widthsMHz.includes(widthMHz)) return [];
  // What the bridge sends itself is no reason to avoid a channel.
  const others: World = { ...world, radios: new Map(world.radios) };
  for (const { radio } of [a, b]) others.radios.delete(radio.id);
  return quietChannelsMHz(others, [a.place, b.place], a, widthMHz, a.radio.frequencyMHz, "ptp")
    .slice(0, CHANNELS_TRIED)
    .map((frequencyMHz) => ({
      label: `Widen the channel from ${a.radio.widthMHz} to ${widthMHz} MHz, at ${frequencyMHz} MHz`,
      patches: groupOn(world, a.radio.id, frequencyMHz, widthMHz),
    }));
}

const isFrom = (world: World, link: Link, siteId: string) => world.radios.get(link.aRadioId)?.siteId === siteId;

/** Bridges to a hop's far site from other sites that feeds reach without it, each in the place of the hop. */
function routes(world: World, link: Link, hop: BackhaulHop, { sites }: Backhaul): Change[] {
  const to = world.sites.get(hop.toSiteId)!;
  const others = sites
    .filter(({ siteId, way }) => siteId !== hop.fromSiteId && siteId !== to.id && !way.includes(link.id))
    .map(({ siteId }) => world.sites.get(siteId)!)
    .map((from) => ({ from, distanceM: inverseGeodesic(from, to).distanceM }))
    .filter(({ distanceM }) => distanceM > 1 && distanceM <= FARTHEST_ROUTE_KM * 1000)
    .sort((x, y) => x.distanceM - y.distanceM)
    .slice(0, ROUTES_TRIED);
  const shared = new Set(
    [...world.links.values()].flatMap(({ id, aRadioId, bRadioId }) => (id === link.id ? [] : [aRadioId, bRadioId])),
  );
  const removed = [
    removePatch("links", link.id),
    ...[link.aRadioId, link.bRadioId].filter((id) => !shared.has(id)).map((id) => removePatch("radios", id)),
  ];
  return others.flatMap(({ from }) => {
    let count = 0;
    const makeId = () => `${link.id}-by-${from.id}-${count++}`.slice(-64);
    const bridge = proposeBridge(world, from, to, makeId);
    return bridge ? [{ label: `Another way: from ${from.name} instead`, patches: [...removed, ...bridge] }] : [];
  });
}

/** Ways that leave a full hop with room; at most so many are offered with a finding. */
const MOST_REMEDIES = 4;
export const fullHopWays = (world: World, linkId: string, between: ProfileSource): Remedy[] =>
  hopWays(world, linkId, between)
    .filter(({ fullestOnWay }) => fullestOnWay <= 1)
    .slice(0, MOST_REMEDIES)
    .map(({ label, effect, patches, visit }) => ({ label, effect, patches, visit }));
