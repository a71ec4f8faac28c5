import {
  accessPoints,
  addressFaults,
  freeAddress,
  homeSiteOf,
  networkFaults,
  networkFor,
  subnetProblem,
  takenAddresses,
} from "../../addressing";
import { peopleBehindSite } from "../../outcome";
import { setPatch, type World } from "../../plan";
import { mending, placedFaults } from "../kit/radios";
import type { Check, PlanFault } from "./check";

export const address: Check = {
  id: "address",
  title: "Address collides",
  stage: "kit",
  ofPlan: (world) =>
    placedFaults(
      world,
      addressFaults(world).map(({ radioId, kind, what, otherId }) => ({
        radio: world.radios.get(radioId)!,
        fault: {
          what,
          why:
            kind === "twice"
              ? `Two with one address answer in turn: neither is reached for sure${otherId === null ? "" : ", and a change meant for one may go to the other"}.`
              : kind === "none"
                ? "The radio takes no such address."
                : kind === "factory"
                  ? "The next one out of its box answers there too until it is set up: the two then answer in turn."
                  : kind === "notHost"
                    ? "Devices refuse it, or answer for all at once."
                    : kind === "reserved"
                      ? "Somebody else has it, or will: neither of both is reached for sure then."
                      : "Nothing beyond its own network is reached from it, nor it from there.",
          figure: null,
        },
      })),
    ),
  remedies: (world, { radioId }) => {
    const radio = world.radios.get(radioId!)!;
    const site = world.sites.get(homeSiteOf(world, radio, accessPoints(world)) ?? "");
    const network = (site && networkFor(site, radio.role).subnet) || usualNetwork(radio.address);
    const free = network && freeAddress(network, takenAddresses(world));
    if (!free) return [];
    return mending(
      world,
      [
        {
          label: `Give it ${free}`,
          effect: `the next free address of ${network}`,
          patches: [setPatch("radios", radio.id, { address: free })],
        },
      ],
      (then) => addressFaults(then).some((fault) => fault.radioId === radio.id),
    );
  },
};

/** The network of 256 around an IPv4 address, where its site has none planned. */
const usualNetwork = (text: string): string | null =>
  /^\d+\.\d+\.\d+\.\d+$/.test(text) ? `${text.split(".").slice(0, 3).join(".")}.0/24` : null;

function subnetFaults(world: World): PlanFault[] {
  return [...world.sites.values()].flatMap((site): PlanFault[] => {
    const problem = subnetProblem(site);
    if (!problem) return [];
    return [
      {
        about: [{ kind: "sites", id: site.id }],
        ...{ radioId: null, where: site.name, what: problem, figure: null, cause: null, linkId: null },
        why: "What stands at this site answers nobody from elsewhere until its network and gateway fit.",
        people: peopleBehindSite(world, site.id),
      },
    ];
  });
}

export const gateway: Check = {
  id: "gateway",
  title: "Gateway out of its network",
  stage: "kit",
  ofPlan: subnetFaults,
  remedies: (world, { about }) => {
    const site = world.sites.get(about?.[0]?.id ?? "");
    // Sites that share one network share its gateway.
    const shared = [...world.sites.values()].find(
      (other) => other !== site && other.subnet === site?.subnet && other.gateway !== "" && !subnetProblem(other),
    )?.gateway;
    const free = site && (shared ?? freeAddress(site.subnet, takenAddresses(world)));
    if (!site || !free) return [];
    return mending(
      world,
      [
        {
          label: `Make ${free} its gateway`,
          effect: shared ? "as the other sites of its network have it" : `the first free address of ${site.subnet}`,
          patches: [setPatch("sites", site.id, { gateway: free })],
        },
      ],
      (then) => subnetProblem(then.sites.get(site.id)!) !== null,
    );
  },
};

export const network: Check = {
  id: "network",
  title: "Networks collide",
  stage: "kit",
  ofPlan: (world) =>
    networkFaults(world).map(({ siteId, what }): PlanFault => ({
      about: [{ kind: "sites", id: siteId }],
      ...{ radioId: null, where: world.sites.get(siteId)!.name, what, figure: null, cause: null, linkId: null },
      why: "What stands in one of them is not reached from the other, or has no address. Sites may share one network with one gateway, or each have its own.",
      people: peopleBehindSite(world, siteId),
    })),
  remedies: (world, { about }) => {
    const siteId = about?.[0]?.id ?? "";
    const { gateway: way } = networkFaults(world).find((fault) => fault.siteId === siteId) ?? {};
    if (!way) return [];
    return mending(
      world,
      [
        {
          label: `Make ${way} its gateway`,
          effect: "as the other sites of its network have it",
          patches: [setPatch("sites", siteId, { gateway: way })],
        },
      ],
      (then) => networkFaults(then).some((fault) => fault.siteId === siteId),
    );
  },
};
