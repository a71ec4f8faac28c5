import { setPatch, type Patch, type Radio, type World } from "../plan";
import { accessPoints, addressFaults, homeSiteOf, networkFor, takenAddresses } from "./plan";
import { follows, freeAddresses, type AddressText, type Taken } from "./subnets";

/**
 * An address for every radio that has none or a wrong one, from the network of its site and role, in the order of the plan; the two ends of a
 * bridge that both need one take two that follow each other where their network is the same. Those whose site has no network, or a full one,
 * are left as they are.
 */
export function proposeAddresses(world: World): Patch[] {
  const wrong = new Set(addressFaults(world).map(({ radioId }) => radioId));
  const needs = ({ id, address }: Radio) => address === "" || wrong.has(id);
  return giveAddresses(world, [...world.radios.values()].filter(needs), takenAddresses(world));
}

/** Gives some radios addresses that nobody has. `taken` grows by what is given. */
export function giveAddresses(
  world: World,
  radios: readonly Radio[],
  taken: ReturnType<typeof takenAddresses>,
): Patch[] {
  const apOf = accessPoints(world);
  const subnetOf = (radio: Radio): string => {
    const site = world.sites.get(homeSiteOf(world, radio, apOf) ?? "");
    return site ? networkFor(site, radio.role).subnet : "";
  };
  const farEnds = new Map<string, string>();
  for (const { kind, aRadioId, bRadioId } of world.links.values())
    if (kind === "bridge") farEnds.set(aRadioId, bRadioId);
  const wanting = new Map(radios.map((radio) => [radio.id, radio]));
  const patches: Patch[] = [];
  const give = (radio: Radio, address: AddressText) => {
    taken.add(address);
    wanting.delete(radio.id);
    patches.push(setPatch("radios", radio.id, { address }));
  };
  const free = new Map<string, Iterator<AddressText>>();
  for (const radio of radios) {
    if (!wanting.has(radio.id)) continue;
    const subnet = subnetOf(radio);
    if (subnet === "") continue;
    const far = wanting.get(farEnds.get(radio.id) ?? "");
    const pair = far && subnetOf(far) === subnet ? freePair(subnet, taken) : null;
    if (far && pair) {
      give(radio, pair[0]);
      give(far, pair[1]);
      continue;
    }
    const next = free.get(subnet) ?? freeAddresses(subnet, taken);
    free.set(subnet, next);
    const found = next.next();
    if (!found.done) give(radio, found.value);
  }
  return patches;
}

/** The first two addresses of a network that follow each other and that nobody has; null where there are none. */
function freePair(subnet: string, taken: Taken): [AddressText, AddressText] | null {
  let last: AddressText | null = null;
  for (const address of freeAddresses(subnet, taken)) {
    if (last !== null && follows(last, address)) return [last, address];
    last = address;
  }
  return null;
}
