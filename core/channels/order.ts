import type { Backhaul } from "../capacity";
import { channelsMeet } from "../spectrum";
import { linksOn, type World } from "../plan";
import type { ChannelMove } from "./plan";

/** One step of a change of channels on a live network. */
interface ChangeStep {
  move: ChannelMove;
  /** Its radios, the farthest from the feed first: customers', then those at sites, whichever end the plan writes first. */
  radioIds: string[];
  /** Who is without service from the first radio's change to the last's. */
  customersDown: number;
  peopleDown: number;
  /** Groups that still stand on a channel that meets the new one, and move later. */
  meanwhileMeets: string[];
}

/**
 * The order in which groups move on a live network: what stands farthest from the feed first, so that no way to what is still to be
 * changed is at stake; among those equally far, whoever frees a channel before whoever takes it. Within a group the radios come
 * farthest first too: once the end nearer the feed has gone, nobody reaches those behind it any more.
 */
export function changeOrder(world: World, moves: readonly ChannelMove[], { sites, hops }: Backhaul): ChangeStep[] {
  const farFromFeed = new Map(sites.map(({ siteId, way }) => [siteId, way.length]));
  const hopOf = new Map(hops.map((hop) => [hop.linkId, hop]));
  const isCustomers = (radioId: string) => linksOn(world, radioId).every(({ kind }) => kind === "access");
  // A sector stands behind every bridge that ends at its site.
  const depthOf = ({ radioId }: ChannelMove) => {
    const ends = linksOn(world, radioId).flatMap(({ id }) => hopOf.get(id) ?? []);
    if (ends.length > 0) return Math.max(...ends.map(({ toSiteId }) => farFromFeed.get(toSiteId) ?? 0));
    return (farFromFeed.get(world.radios.get(radioId)?.siteId ?? "") ?? 0) + (isCustomers(radioId) ? SECTOR_BEHIND : 0);
  };
  const siteDepth = (radioId: string) => {
    const siteId = world.radios.get(radioId)?.siteId;
    return siteId ? (farFromFeed.get(siteId) ?? 0) : Infinity;
  };
  const meets = (move: ChannelMove, other: ChannelMove) => {
    const [one, two] = [world.radios.get(move.radioId)!, world.radios.get(other.radioId)!];
    return channelsMeet(
      { frequencyMHz: move.toMHz, widthMHz: one.widthMHz },
      { frequencyMHz: other.fromMHz, widthMHz: two.widthMHz },
    );
  };
  const left = [...moves];
  const steps: ChangeStep[] = [];
  while (left.length > 0) {
    const deepest = Math.max(...left.map(depthOf));
    const next = left.filter((move) => depthOf(move) === deepest);
    const inTheWay = (move: ChannelMove) => left.filter((other) => other !== move && meets(move, other));
    const move = next.reduce((best, one) => (inTheWay(one).length < inTheWay(best).length ? one : best));
    const radioIds = groupRadios(world, move.radioId).sort((x, y) => siteDepth(y) - siteDepth(x) || (x < y ? -1 : 1));
    steps.push({
      move,
      radioIds,
      ...downWith(world, move, hopOf),
      meanwhileMeets: inTheWay(move).map(({ name }) => name),
    });
    left.splice(left.indexOf(move), 1);
  }
  return steps;
}
const SECTOR_BEHIND = 0.5;

/** An access point or bridge end with all that talk to it. */
export const groupRadios = (world: World, radioId: string): string[] => [
  radioId,
  ...linksOn(world, radioId).map(({ bRadioId }) => bRadioId),
];

/** Who is down while a group changes: its customers, or all behind its bridge. */
function downWith(
  world: World,
  { radioId }: ChannelMove,
  hopOf: ReadonlyMap<string, Backhaul["hops"][number]>,
): Pick<ChangeStep, "customersDown" | "peopleDown"> {
  let [customersDown, peopleDown] = [0, 0];
  for (const { id, aRadioId, bRadioId } of world.links.values()) {
    if (aRadioId !== radioId) continue;
    const customer = world.subscribers.get(world.radios.get(bRadioId)?.subscriberId ?? "");
    const hop = hopOf.get(id);
    customersDown += hop ? hop.customers : customer ? 1 : 0;
    peopleDown += hop ? hop.people : (customer?.people ?? 0);
  }
  return { customersDown, peopleDown };
}
