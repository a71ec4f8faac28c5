import { sectorHeardKm } from "../coverage";
import { costOf } from "../bill";
import { holds } from "../link";
import { fedSites, type ProfileSource } from "../outcome";
import { putPatch, setPatch, withPatches, type Patch, type Site, type World } from "../plan";
import { attachTo, bestSector, choosingIn, proposeBridge } from "../propose";
import { trySchool } from "../schools";
import { gainTable } from "../sectors";
import { median } from "../statistics";
import { trialOf, type Trial } from "../trial";
import type { SiteStyle } from "./highGround";
import type { Hop, SiteReach } from "./reach";
import { customersOf, type Wanted } from "./wanted";

/** One site of a plan that was built for trial. */
export interface BuiltSite {
  siteId: string;
  name: string;
  isNew: boolean;
  /** What it gets its traffic over; null for one that is fed already. */
  joinedTo: string | null;
  /** Sectors put up, and customers linked to the site. */
  sectors: number;
  customers: number;
}

/** A choice of sites, built in full on a trial plan: every figure from full answers, in the noise that it then makes. */
export interface BuiltSites {
  sites: BuiltSite[];
  patches: Patch[];
  /** Whether sectors and customers were built too, and not sites and bridges alone: only then anybody is served. */
  isLinked: boolean;
  /** Kit of what was built, and the masts. */
  costEur: number;
  customersServed: number;
  peopleServed: number;
  /** Middle of the rates toward those served; null where nobody is. */
  medianMbps: number | null;
  /** Of those served, customers whose weaker way runs at 4 bit/s for each hertz or more. */
  fastCustomers: number;
  /** How far the sector heard farthest is heard by a customer's antenna in free sight, km; null without one. */
  heardKm: number | null;
}

/** Customers who are linked on the trial plan; of more, only sites and bridges are built. */
export const MOST_LINKED = 500;
const FAST_BITS_PER_HZ = 4;

/**
 * Builds chosen candidates: masts, a bridge along each hop from what is fed, sectors where their customers are, turned down to what
 * these need, and a link for every customer to the site that serves him fastest. Null where the library lacks the kit.
 */
export function buildSites(
  world: World,
  chosen: readonly Site[],
  { fedIds, subscriberIds }: Pick<Wanted, "fedIds" | "subscriberIds">,
  reaches: readonly SiteReach[],
  hops: readonly Hop[],
  { mastEur }: SiteStyle,
  between: ProfileSource,
  makeId: () => string,
): BuiltSites | null {
  let planned = world;
  const patches: Patch[] = [];
  const put = (more: readonly Patch[]) => {
    patches.push(...more);
    planned = withPatches(planned, more);
  };
  const isNew = (site: Site) => !world.sites.has(site.id);
  put(chosen.filter(isNew).map((site) => putPatch("sites", site)));
  const joinedTo = new Map<string, string>();
  for (const { from, to } of treeOf(chosen, fedIds, hops)) {
    const bridge = proposeBridge(planned, from, to, makeId);
    if (!bridge) return null;
    joinedTo.set(to.id, from.name);
    put(bridge);
  }
  const byServer = assigned(chosen, reaches, subscriberIds);
  const isLinked = [...byServer.values()].reduce((sum, ids) => sum + ids.length, 0) <= MOST_LINKED;
  const newSectors: string[] = [];
  if (isLinked)
    for (const site of chosen) {
      const known = new Set(planned.radios.keys());
      const customers = customersOf(planned, byServer.get(site.id) ?? []);
      const choosing = choosingIn(planned);
      const sectors = customers.map((one) => bestSector(planned, site, one, choosing));
      for (const [i, one] of customers.entries())
        if (sectors[i]) put(attachTo(planned, sectors[i], one, makeId)?.patches ?? []);
      const others = customers.filter((_, i) => !sectors[i]);
      const added = trySchool(planned, site, "customers", others, between, makeId)?.patches ?? [];
      // Whatever stands already stays, in use or not.
      put(added.filter(({ remove, id }) => !remove || !world.radios.has(id)));
      const fresh = [...planned.radios.values()].filter(({ id, role }) => !known.has(id) && role === "sector");
      for (const sector of fresh) {
        newSectors.push(sector.id);
        const now = gainTable(planned, sector.id, between).find(
          ({ antennaModelId }) => antennaModelId === sector.antennaModelId,
        );
        if (now) put([setPatch("radios", sector.id, { txPowerDbm: Math.min(sector.txPowerDbm, now.txPowerDbm) })]);
      }
    }
  return { ...service(trialOf(planned, between), byServer), ...told() };

  function told() {
    const linked = [...planned.links.values()];
    const siteOf = (radioId: string) => planned.radios.get(radioId)?.siteId;
    const wanted = new Set([...byServer.values()].flat());
    const sites = chosen.map((site): BuiltSite => ({
      siteId: site.id,
      name: site.name,
      isNew: isNew(site),
      joinedTo: joinedTo.get(site.id) ?? null,
      sectors: newSectors.filter((id) => siteOf(id) === site.id).length,
      customers: isLinked
        ? linked.filter(
            ({ aRadioId, bRadioId }) =>
              siteOf(aRadioId) === site.id && wanted.has(planned.radios.get(bRadioId)?.subscriberId ?? ""),
          ).length
        : (byServer.get(site.id)?.length ?? 0),
    }));
    const heard = newSectors.flatMap((id) => sectorHeardKm(planned, planned.radios.get(id)!) ?? []);
    return {
      sites,
      patches,
      isLinked,
      costEur: costOf(planned) - costOf(world) + chosen.filter(isNew).length * mastEur,
      heardKm: heard.length > 0 ? Math.max(...heard) : null,
    };
  }
}

/** Bridges that join every chosen site to what is fed, nearest to the feeds first. */
function treeOf(chosen: readonly Site[], fedIds: readonly string[], hops: readonly Hop[]): { from: Site; to: Site }[] {
  const reached = new Set(chosen.flatMap(({ id }, i) => (fedIds.includes(id) ? [i] : [])));
  const tree: { from: Site; to: Site }[] = [];
  for (const at of reached)
    for (const { i, j } of hops) {
      const next = i === at ? j : j === at ? i : null;
      if (next === null || reached.has(next)) continue;
      reached.add(next);
      tree.push({ from: chosen[at]!, to: chosen[next]! });
    }
  return tree;
}

/** Customers by the chosen site that serves each fastest, the weaker way counting. */
function assigned(
  chosen: readonly Site[],
  reaches: readonly SiteReach[],
  subscriberIds: readonly string[],
): Map<string, string[]> {
  const best = new Map<number, { siteId: string; mbps: number }>();
  for (const { siteId, customers, mbps } of reaches)
    customers.forEach((customer, i) => {
      if (mbps[i]! > (best.get(customer)?.mbps ?? 0)) best.set(customer, { siteId, mbps: mbps[i]! });
    });
  const bySite = new Map(chosen.map(({ id }) => [id, [] as string[]]));
  for (const [customer, { siteId }] of best) bySite.get(siteId)?.push(subscriberIds[customer]!);
  return bySite;
}

/** Who of those wanted is served, and how fast. */
function service(
  { world: planned, answer, isServed }: Trial,
  byServer: ReadonlyMap<string, readonly string[]>,
): Pick<BuiltSites, "customersServed" | "peopleServed" | "medianMbps" | "fastCustomers"> {
  const wanted = new Set([...byServer.values()].flat());
  const customerOf = (radioId: string) => planned.subscribers.get(planned.radios.get(radioId)?.subscriberId ?? "");
  const links = [...planned.links.values()];
  const bridges = new Map(
    links.flatMap((link) =>
      customerOf(link.bRadioId)
        ? []
        : [[link.id, holds(planned.plan, planned.radios.get(link.aRadioId)!.frequencyMHz, answer(link.id))] as const],
    ),
  );
  const fed = fedSites(planned, ({ id }) => bridges.get(id) ?? false);
  const rates: number[] = [];
  let [people, fast] = [0, 0];
  for (const link of links) {
    const customer = customerOf(link.bRadioId);
    if (!customer || !wanted.has(customer.id)) continue;
    if (!fed.has(planned.radios.get(link.aRadioId)?.siteId ?? "")) continue;
    const { path } = answer(link.id);
    if (!path || !isServed(link.id)) continue;
    const { aToB, bToA } = path;
    people += customer.people;
    rates.push(aToB.rateMbps);
    if (Math.min(aToB.modulation!.bitsPerHz, bToA.modulation!.bitsPerHz) >= FAST_BITS_PER_HZ) fast++;
  }
  return {
    customersServed: rates.length,
    peopleServed: people,
    medianMbps: median(rates),
    fastCustomers: fast,
  };
}
