import { setPatch, withPatches, type Patch, type Radio, type Site, type World } from "../plan";
import { accessPoints, homeSiteOf, networkFor, takenAddresses } from "./plan";
import { giveAddresses } from "./propose";
import {
  firstAddress,
  isInSubnet,
  notHostWords,
  parsedAddress,
  parsedSubnet,
  sameText,
  subnetProblem,
} from "./subnets";

/** One radio that changes its address, or the gateway last of all. */
export interface RenumberStep {
  /** Null for the gateway. */
  radioId: string | null;
  name: string;
  from: string;
  to: string;
  /** What hangs behind it and is out of reach if it goes wrong. */
  why: string;
}

/** A site's move to another network: the change of plan, and the order in which it is done on a live network. */
export interface Renumbering {
  patches: Patch[];
  steps: RenumberStep[];
  /** Radios that the new network has no room for. */
  leftOut: number;
}

/** How far a radio stands from its site's mast: whoever is reached through another changes before that other. */
function depthOf({ role, siteId }: Radio, isFar: boolean): number {
  if (siteId === null || role === "subscriber") return 2;
  return isFar ? 1 : 0;
}
const WHY = [
  "the near end, through which the others were reached: last of the radios",
  "the far end of a bridge, while its near end still answers at the old address",
  "a customer, while his access point still answers at the old address",
] as const;

/** Whether a radio's address may stay in the networks of its site as they will be: it lies in its own, and is not that network's or its gateway's. */
function isFitIn(site: Site, radio: Radio): boolean {
  const { subnet, gateway } = networkFor(site, radio.role);
  const [network, address, way] = [parsedSubnet(subnet), parsedAddress(radio.address), parsedAddress(gateway)];
  if (!network || !address || !isInSubnet(address, network) || notHostWords(address, network)) return false;
  return !way || sameText(way) !== sameText(address);
}

/**
 * Moves all that takes addresses of a site to new networks. Whoever is reached through another changes first, so that nobody is lost on the way:
 * customers, far ends of bridges, then the mast, then the gateway, which answers in both networks until then. Throws RangeError for networks that
 * are none or do not fit each other.
 */
export function renumbering(world: World, siteId: string, to: Pick<Site, "subnet" | "clientSubnet">): Renumbering {
  const site = world.sites.get(siteId);
  if (!site) throw new RangeError(`site ${siteId} is not in the plan`);
  const gateway = firstAddress(to.subnet) ?? "";
  const problem = subnetProblem({ ...site, ...to, gateway });
  if (problem) throw new RangeError(problem);
  if (gateway === "") throw new RangeError(`"${to.subnet}" has no room for a gateway`);
  const apOf = accessPoints(world);
  const here = [...world.radios.values()].filter((radio) => homeSiteOf(world, radio, apOf) === siteId);
  const moved = withPatches(world, [setPatch("sites", siteId, { ...to, gateway })]);
  // Who has an address of its new network already keeps it. What nobody has is given first; then what those who moved left free.
  const stays = new Set(here.filter((radio) => isFitIn(moved.sites.get(siteId)!, radio)).map(({ id }) => id));
  const leaving = here.filter(({ id }) => !stays.has(id));
  const first = giveAddresses(moved, leaving, takenAddresses(moved));
  const left = withPatches(moved, first);
  const unplaced = new Set(leaving.map(({ id }) => id).filter((id) => !first.some((patch) => patch.id === id)));
  const second = giveAddresses(
    left,
    leaving.filter(({ id }) => unplaced.has(id)),
    takenAddresses(left, unplaced),
  );
  const patches = [...first, ...second];
  const given = new Set(patches.map(({ id }) => id));
  const isSecond = new Set(second.map(({ id }) => id));
  const then = withPatches(moved, patches);
  const far = new Set([...world.links.values()].flatMap(({ kind, bRadioId }) => (kind === "bridge" ? [bRadioId] : [])));
  const steps = here
    .filter(({ id }) => given.has(id))
    .map((radio) => ({ radio, depth: depthOf(radio, far.has(radio.id)) }))
    .sort((x, y) => Number(isSecond.has(x.radio.id)) - Number(isSecond.has(y.radio.id)) || y.depth - x.depth)
    .map(({ radio: { id, name, address }, depth }): RenumberStep => {
      return { radioId: id, name, from: address, to: then.radios.get(id)!.address, why: WHY[depth]! };
    });
  return {
    patches: [setPatch("sites", siteId, { ...to, gateway }), ...patches],
    steps: [
      ...steps,
      {
        ...{ radioId: null, name: `gateway of ${site.name}`, from: site.gateway, to: gateway },
        why: "it answers in both networks until everybody has moved; then the old one goes",
      },
    ],
    leftOut: leaving.length - given.size,
  };
}
