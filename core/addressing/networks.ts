import type { Site, World } from "../plan";
import { accessPoints, homeSiteOf, networkFor } from "./plan";
import { hostCount, isInSubnet, parsedAddress, parsedSubnet } from "./subnets";

/** Something wrong with a site's network beside those of others, or with its size. */
interface NetworkFault {
  siteId: string;
  what: string;
  /** The gateway that others of the same network have; null where the fault is another. */
  gateway: string | null;
}

interface Own {
  site: Site;
  subnet: string;
  gateway: string;
  network: NonNullable<ReturnType<typeof parsedSubnet>>;
}

/** The networks of each site: its own, and its customers' where they have one. */
function networksOf(world: World): Own[] {
  return [...world.sites.values()].flatMap((site) =>
    [...new Set([site.subnet, site.clientSubnet])].flatMap((subnet) => {
      const network = parsedSubnet(subnet);
      const gateway = subnet === site.subnet ? site.gateway : networkFor(site, "subscriber").gateway;
      const way = parsedAddress(gateway);
      // A gateway outside its own network is told by itself: beside others' it counts as none.
      const isOwn = network !== null && way !== null && isInSubnet(way, network);
      return network ? [{ site, subnet, gateway: isOwn ? gateway : "", network }] : [];
    }),
  );
}

/** Why two networks of different sites cannot both be; null where they can. One network with one gateway is one flat network, which is a choice. */
function clash(one: Own, other: Own): string | null {
  if (!isInSubnet(one.network.base, other.network) && !isInSubnet(other.network.base, one.network)) return null;
  if (one.network.length !== other.network.length)
    return `${one.subnet} and ${other.subnet} of ${other.site.name} hold the same addresses`;
  return one.gateway === other.gateway || one.gateway === "" || other.gateway === ""
    ? null
    : `${one.subnet} is the network of ${other.site.name} too, with another gateway: ${one.gateway} here, ${other.gateway} there`;
}

/**
 * What is wrong with the networks of a plan: those that overlap or have two gateways, and those with too few addresses. A site is told of one
 * fault at a time.
 */
export function networkFaults(world: World): NetworkFault[] {
  const networks = networksOf(world);
  const faults = networks.flatMap((one, i): NetworkFault[] => {
    for (const other of networks.slice(0, i)) {
      const what = other.site === one.site ? null : clash(one, other);
      const isSame = one.network.length === other.network.length && isInSubnet(one.network.base, other.network);
      if (what) return [{ siteId: one.site.id, what, gateway: isSame ? other.gateway : null }];
    }
    return [];
  });
  const apOf = accessPoints(world);
  const radios = new Map<string, number>();
  for (const radio of world.radios.values()) {
    const site = world.sites.get(homeSiteOf(world, radio, apOf) ?? "");
    const subnet = site && networkFor(site, radio.role).subnet;
    if (subnet) radios.set(subnet, (radios.get(subnet) ?? 0) + 1);
  }
  const told = new Set<string>();
  for (const { site, subnet, gateway, network } of networks) {
    const wanted = radios.get(subnet) ?? 0;
    const room = hostCount(network) - (gateway === "" ? 0 : 1);
    if (wanted <= room || told.has(subnet) || faults.some(({ siteId }) => siteId === site.id)) continue;
    told.add(subnet);
    faults.push({
      ...{ siteId: site.id, gateway: null },
      what: `${subnet} has room for ${room} radios${gateway === "" ? "" : " beside its gateway"}, ${wanted} belong to it`,
    });
  }
  return faults;
}
