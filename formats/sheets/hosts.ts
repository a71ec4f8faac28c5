import { parsedAddress } from "#core/addressing";
import type { World } from "#core/plan";
import { networkName } from "#core/staging";

/** Addresses with a name for each that every resolver takes: small letters, digits and hyphens, no two alike. */
function named(world: World): { host: string; address: string; isV6: boolean }[] {
  const taken = new Set<string>();
  return [...world.radios.values()].flatMap(({ name, address }) => {
    const parsed = parsedAddress(address);
    if (!parsed) return [];
    const plain = networkName(name).toLowerCase();
    let host = plain;
    for (let i = 2; taken.has(host); i++) host = `${plain}-${i}`;
    taken.add(host);
    return [{ host, address: parsed.toString(), isV6: parsed.kind() === "ipv6" }];
  });
}

/** Every radio that has an address, as a hosts file (RFC 952 names). */
export function writeHosts(world: World): string {
  return named(world)
    .map(({ host, address }) => `${address}\t${host}\n`)
    .join("");
}

/** The same as records of a zone (RFC 1035), to be included under an origin of one's own. */
export function writeZone(world: World): string {
  return named(world)
    .map(({ host, address, isV6 }) => `${host}\tIN\t${isV6 ? "AAAA" : "A"}\t${address}\n`)
    .join("");
}
