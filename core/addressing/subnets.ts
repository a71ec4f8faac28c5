import ipaddr from "ipaddr.js";
import type { Site } from "../plan";

export type Address = ipaddr.IPv4 | ipaddr.IPv6;

/** Reads an IPv4 or IPv6 address; null for text that is no address. */
export function parsedAddress(text: string): Address | null {
  const trimmed = text.trim();
  // Four parts in full: "10.1" is an address to some programs, and a slip of the finger to a person.
  if (!trimmed.includes(":") && !ipaddr.IPv4.isValidFourPartDecimal(trimmed)) return null;
  return ipaddr.isValid(trimmed) ? ipaddr.parse(trimmed) : null;
}

/** Reads a network with its prefix length, such as 10.44.3.0/24; null for text that is no network. */
export function parsedSubnet(text: string): { base: Address; length: number } | null {
  const [address, bits] = text.trim().split("/");
  const base = parsedAddress(address ?? "");
  const length = Number(bits);
  const longest = base?.kind() === "ipv6" ? 128 : 32;
  if (!base || bits === undefined || !/^\d+$/.test(bits) || length > longest) return null;
  return { base, length };
}

/** Whether an address lies in a network. */
export function isInSubnet(address: Address, { base, length }: { base: Address; length: number }): boolean {
  if (address.kind() !== base.kind()) return false;
  return base.kind() === "ipv4"
    ? (address as ipaddr.IPv4).match(base as ipaddr.IPv4, length)
    : (address as ipaddr.IPv6).match(base as ipaddr.IPv6, length);
}

/** Which of the two addresses an IPv4 network keeps for itself this is, in words; null for those that a device may have. */
export function notHostWords(address: Address, { base, length }: { base: Address; length: number }): string | null {
  if (base.kind() !== "ipv4" || length > 30) return null;
  const size = 1n << BigInt(32 - length);
  const offset = addressNumber(address) % size;
  if (offset === 0n) return "the address of the network itself, which no device may have";
  return offset === size - 1n ? "the broadcast address of its network, which no device may have" : null;
}

/** Addresses that devices of a network may have; those of IPv6 as many as a number holds. */
export function hostCount({ base, length }: { base: Address; length: number }): number {
  const size = 2 ** ((base.kind() === "ipv4" ? 32 : 128) - length);
  return size > 2 ? size - (base.kind() === "ipv4" ? 2 : 1) : size;
}

/** An address as one number: the next one is one more. */
export const addressNumber = (address: Address): bigint =>
  address.toByteArray().reduce((sum, byte) => (sum << 8n) | BigInt(byte), 0n);

function asText(value: bigint, family: "ipv4" | "ipv6"): string {
  const bytes = family === "ipv4" ? 4 : 16;
  const list = Array.from({ length: bytes }, (_, i) => Number((value >> BigInt(8 * (bytes - 1 - i))) & 255n));
  return ipaddr.fromByteArray(list).toString();
}

/** An address as `sameText` writes it. */
export type AddressText = string;

/** Whether one address is the next after another. */
export function follows(before: AddressText, after: AddressText): boolean {
  const [first, second] = [parsedAddress(before), parsedAddress(after)];
  return first !== null && second !== null && addressNumber(second) === addressNumber(first) + 1n;
}

/** The same address written the same way, however it was typed. */
export const sameText = (address: Address): string => address.toString();

/** Tells of an address, written as `sameText` does, whether somebody has it. */
export interface Taken {
  has: (address: AddressText) => boolean;
}

/** So many addresses of a large network are looked through for a free one. */
const MOST_LOOKED_THROUGH = 70_000;

/**
 * The addresses of a network that nobody has, from its first: not the network's own, not the last of an IPv4 one, which is for all. None for
 * what is no network. Asks `taken` anew at each step.
 */
export function* freeAddresses(subnet: string, taken: Taken): Generator<string, void> {
  const network = parsedSubnet(subnet);
  if (!network) return;
  const family = network.base.kind();
  const bits = family === "ipv4" ? 32 : 128;
  const size = 1n << BigInt(bits - network.length);
  const first = (addressNumber(network.base) / size) * size;
  const last = first + size - (family === "ipv4" && size > 2n ? 2n : 1n);
  let looked = 0;
  for (let at = size > 2n ? first + 1n : first; at <= last && looked < MOST_LOOKED_THROUGH; at++, looked++) {
    const text = asText(at, family);
    if (!taken.has(text)) yield text;
  }
}

/** The first address of a network that a device may have; null for what is no network. */
export const firstAddress = (subnet: string): string | null => freeAddress(subnet, new Set());

/** The first free address of a network; null where the network is full or cannot be read. */
export function freeAddress(subnet: string, taken: Taken): string | null {
  const found = freeAddresses(subnet, taken).next();
  return found.done ? null : found.value;
}

/** What is wrong with a site's own network and gateway, in words; null where nothing is, or nothing is planned. */
export function subnetProblem(
  site: Pick<Site, "subnet" | "gateway"> & Partial<Pick<Site, "clientSubnet" | "vlan" | "clientVlan">>,
): string | null {
  return ownProblem(site) ?? clientProblem(site);
}

/** What is wrong with the customers' own network beside the site's. */
function clientProblem({
  subnet,
  clientSubnet = "",
  vlan = 0,
  clientVlan = 0,
}: Parameters<typeof subnetProblem>[0]): string | null {
  if (clientSubnet === "") return null;
  const [own, clients] = [parsedSubnet(subnet), parsedSubnet(clientSubnet)];
  if (!clients) return `"${clientSubnet}" is no network: write it like 10.45.3.0/24`;
  if (own && (isInSubnet(own.base, clients) || isInSubnet(clients.base, own)))
    return `the customers' network ${clientSubnet} and ${subnet} hold the same addresses`;
  return own && vlan === clientVlan && vlan !== 0 ? `tag ${vlan} bears both of its networks` : null;
}

function ownProblem({ subnet, gateway }: Pick<Site, "subnet" | "gateway">): string | null {
  if (subnet === "") return gateway === "" ? null : `the gateway ${gateway} has no network around it`;
  const network = parsedSubnet(subnet);
  if (!network) return `"${subnet}" is no network: write it like 10.44.3.0/24`;
  if (gateway === "") return null;
  const way = parsedAddress(gateway);
  if (!way) return `"${gateway}" is no address`;
  if (!isInSubnet(way, network)) return `the gateway ${gateway} lies outside ${subnet}`;
  const own = notHostWords(way, network);
  return own && `the gateway ${gateway} is ${own}`;
}
