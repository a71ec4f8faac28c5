import type { Radio, Site, World } from "../plan";
import { reservedBy, reservedOf } from "./reserved";
import {
  firstAddress,
  isInSubnet,
  notHostWords,
  parsedAddress,
  parsedSubnet,
  sameText,
  type AddressText,
  type Taken,
} from "./subnets";

/** The site whose network a radio belongs to: its own, or for a customer that of his access point. */
export function homeSiteOf(world: World, radio: Radio, apOf: ReadonlyMap<string, string>): string | null {
  if (radio.siteId !== null) return radio.siteId;
  return world.radios.get(apOf.get(radio.id) ?? "")?.siteId ?? null;
}

/** The network, gateway and tag on the wire that a radio of a site takes by its role. */
interface RoleNetwork {
  subnet: string;
  gateway: string;
  /** 0 where it is not tagged. */
  vlan: number;
}

/** Networks of a site by role: customers have their own where the site has one for them, its first address their gateway. */
export function networkFor(site: Site, role: Radio["role"]): RoleNetwork {
  if (role !== "subscriber" || site.clientSubnet === "")
    return { subnet: site.subnet, gateway: site.gateway, vlan: site.vlan };
  return { subnet: site.clientSubnet, gateway: firstAddress(site.clientSubnet) ?? "", vlan: site.clientVlan };
}

/** The radio that serves each customer's, whatever kind of link brings him. */
export function accessPoints(world: World): Map<string, string> {
  const found = new Map<string, string>();
  for (const { aRadioId, bRadioId } of world.links.values())
    if (world.radios.get(bRadioId)?.subscriberId != null) found.set(bRadioId, aRadioId);
  return found;
}

/**
 * All addresses of a plan that somebody has, gateways and reserved ones with them; `add` takes one more. Those of `leaving` radios count as
 * free.
 */
export function takenAddresses(
  world: World,
  leaving: ReadonlySet<string> = new Set(),
): Taken & { add: (address: AddressText) => void } {
  const taken = new Set<AddressText>();
  const { reserved } = reservedOf(world.plan.reservedAddresses);
  const take = (text: string) => {
    const address = parsedAddress(text);
    if (address) taken.add(sameText(address));
  };
  for (const { id, address } of world.radios.values()) if (!leaving.has(id)) take(address);
  for (const site of world.sites.values()) {
    take(site.gateway);
    if (site.clientSubnet !== "") take(firstAddress(site.clientSubnet) ?? "");
  }
  const isReserved = (text: AddressText) => {
    const address = reserved.length > 0 ? parsedAddress(text) : null;
    return address !== null && reservedBy(reserved, address) !== undefined;
  };
  return {
    has: (address) => taken.has(address) || isReserved(address),
    add: (address) => void taken.add(address),
  };
}

/** Something wrong with one radio's address. */
interface AddressFault {
  radioId: string;
  kind: "twice" | "none" | "outside" | "reserved" | "notHost" | "factory";
  what: string;
  /** Who else has it. */
  otherId: string | null;
}

/**
 * What is wrong with the addresses of a plan: two with one address, what is no address, what is reserved for others, what lies outside its site's
 * network, the network's own first and last address, and those at which devices answer as they leave their box.
 */
export function addressFaults(world: World): AddressFault[] {
  const first = new Map<string, string>();
  const { reserved } = reservedOf(world.plan.reservedAddresses);
  const apOf = accessPoints(world);
  const gateways = new Map<string, string>();
  const delivered = deliveredAddresses(world);
  const networks = new Map<string, NonNullable<ReturnType<typeof parsedSubnet>>>();
  for (const site of world.sites.values())
    for (const role of ROLES) {
      const { subnet, gateway } = networkFor(site, role);
      const network = parsedSubnet(subnet);
      if (network) networks.set(`${site.id} ${role}`, network);
      const way = parsedAddress(gateway);
      if (way) gateways.set(sameText(way), site.name);
    }
  return [...world.radios.values()].flatMap((radio): AddressFault[] => {
    if (radio.address === "") return [];
    const address = parsedAddress(radio.address);
    const fault = (kind: AddressFault["kind"], what: string, otherId: string | null = null) => [
      { radioId: radio.id, kind, what, otherId },
    ];
    if (!address) return fault("none", `"${radio.address}" is no address`);
    const text = sameText(address);
    const other = first.get(text);
    if (other !== undefined)
      return fault("twice", `${text} belongs to ${world.radios.get(other)!.name} already`, other);
    first.set(text, radio.id);
    const gateway = gateways.get(text);
    if (gateway !== undefined) return fault("twice", `${text} is the gateway of ${gateway}`);
    const factory = delivered.get(text);
    if (factory !== undefined) return fault("factory", `${text} is where ${factory} answers as it leaves its box`);
    const kept = reservedBy(reserved, address);
    if (kept) return fault("reserved", `${text} is reserved: ${kept.whose || kept.text}`);
    const siteId = homeSiteOf(world, radio, apOf);
    const network = networks.get(`${siteId ?? ""} ${radio.role}`);
    if (network && !isInSubnet(address, network)) {
      const site = world.sites.get(siteId!)!;
      return fault("outside", `${text} lies outside ${networkFor(site, radio.role).subnet} of ${site.name}`);
    }
    const own = network && notHostWords(address, network);
    if (own) return fault("notHost", `${text} is ${own}`);
    return [];
  });
}

/** Addresses at which the models of a plan answer as they leave their box, each with its model. */
function deliveredAddresses(world: World): Map<string, string> {
  const found = new Map<string, string>();
  for (const id of new Set([...world.radios.values()].map(({ radioModelId }) => radioModelId))) {
    const model = world.radioModels.get(id);
    const network = model && parsedSubnet(model.boxAddress);
    if (network) found.set(sameText(network.base), model.model);
  }
  return found;
}

const ROLES = ["sector", "bridge", "subscriber"] as const;
