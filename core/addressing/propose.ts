import { setPatch, type Patch, type World } from "../plan";
import { accessPoints, addressFaults, homeSiteOf, takenAddresses } from "./plan";
import { freeAddresses } from "./subnets";

/**
 * An address for every radio that has none or a wrong one, from the network of its site, in the order of the plan; those whose site has no
 * network, or a full one, are left as they are.
 */
export function proposeAddresses(world: World): Patch[] {
  const wrong = new Set(addressFaults(world).map(({ radioId }) => radioId));
  const apOf = accessPoints(world);
  const taken = takenAddresses(world);
  const free = new Map<string, Iterator<string>>();
  return [...world.radios.values()].flatMap((radio): Patch[] => {
    if (radio.address !== "" && !wrong.has(radio.id)) return [];
    const subnet = world.sites.get(homeSiteOf(world, radio, apOf) ?? "")?.subnet ?? "";
    if (subnet === "") return [];
    const next = free.get(subnet) ?? freeAddresses(subnet, taken);
    free.set(subnet, next);
    const found = next.next();
    if (found.done) return [];
    taken.add(found.value);
    return [setPatch("radios", radio.id, { address: found.value })];
  });
}
