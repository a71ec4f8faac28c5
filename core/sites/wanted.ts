import { holds } from "../link";
import { answering, fedSites, isLinkServed, type ProfileSource } from "../outcome";
import { withLinks, type Site, type Subscriber, type World } from "../plan";

/** For whom sites are sought. */
export const WHOM = ["unserved", "everybody"] as const;
export type Whom = (typeof WHOM)[number];

/** Who is to be served by new sites, and where traffic can leave. */
export interface Wanted {
  subscriberIds: string[];
  /** People behind each of them, in their order. */
  people: number[];
  /** The plan's sites. */
  standing: Site[];
  /** Sites with a feed, or joined to one by bridges that work. */
  fedIds: string[];
  /** No site has a feed: every one of them counts as fed. */
  isWithoutFeed: boolean;
}

/** Customers who want service: those whom nothing serves yet, or everybody, as if nobody were linked. Whoever declined is left alone. */
export function wantedCustomers(world: World, whom: Whom, between: ProfileSource): Wanted {
  const answer = answering(world, between);
  const served = new Set<string>();
  const works = new Map<string, boolean>();
  for (const link of world.links.values()) {
    const subscriberId = world.radios.get(link.bRadioId)?.subscriberId;
    if (subscriberId && whom === "everybody") continue;
    const found = answer(link);
    const isServed = isLinkServed(world, link, found);
    if (!subscriberId) works.set(link.id, holds(world.plan, world.radios.get(link.aRadioId)!.frequencyMHz, found));
    if (subscriberId && isServed) served.add(subscriberId);
  }
  const wanted = [...world.subscribers.values()].filter(({ id, status }) => status !== "declined" && !served.has(id));
  return {
    subscriberIds: wanted.map(({ id }) => id),
    people: wanted.map(({ people }) => people),
    standing: [...world.sites.values()],
    isWithoutFeed: [...world.sites.values()].every(({ isFeed }) => !isFeed),
    fedIds: [...fedSites(world, ({ id }) => works.get(id) ?? false)],
  };
}

/** A plan in which some customers are linked to nobody: their radios are silent. */
export function withoutLinksOf(world: World, subscriberIds: Iterable<string>): World {
  const wanted = new Set(subscriberIds);
  const isTheirs = (radioId: string) => wanted.has(world.radios.get(radioId)?.subscriberId ?? "");
  return withLinks(world, new Map([...world.links].filter(([, { bRadioId }]) => !isTheirs(bRadioId))));
}

/** The customers of some ids that a plan still has. */
export const customersOf = (world: World, ids: readonly string[]): Subscriber[] =>
  ids.flatMap((id) => world.subscribers.get(id) ?? []);
