import { earsOf, listeningIn, type Air } from "../interference";
import {
  answerLink,
  isServed,
  steadyMbps,
  wantedMarginDb,
  weakestMarginDb,
  type LinkAnswer,
  type PathState,
} from "../link";
import { billOf } from "../bill";
import { linkEnds, type Link, type World } from "../plan";
import type { Profile } from "../terrain";
import type { Geodesic, Place } from "../geodesy";
import { finished, type Steps } from "../steps";
import { noiseMadeSteps } from "./noiseMade";

/**
 * Gives the sampled profile between two places; whoever asks twice may be handed the same one. `line` is the geodesic between them
 * where it is known.
 */
export type ProfileSource = (from: Place, to: Place, line?: Geodesic) => Profile;

/** What a plan's tables and totals need of one answered link. */
export interface LinkSummary {
  linkId: string;
  state: PathState;
  served: boolean;
  distanceM: number;
  marginLeftDb: number | null;
  downMbps: number;
  upMbps: number;
  /** Predicted level on each chain at either end, dBm. */
  levelADbm: number | null;
  levelBDbm: number | null;
  /** Of a bridge, the rates that it keeps for the plan's availability; null elsewhere, and where nothing can be promised. */
  steadyDownMbps: number | null;
  steadyUpMbps: number | null;
}

/** Answers one link of a plan, with what its ends hear of the plan's other transmitters unless that is known already. */
export function answerOf(
  world: World,
  link: Link,
  profileBetween: ProfileSource,
  heard = earsOf(listeningIn(world), profileBetween)(link),
  line?: Geodesic,
): LinkAnswer {
  const { a, b } = linkEnds(world, link);
  return answerLink({
    plan: world.plan,
    kind: link.kind,
    foliageDepthM: link.foliageDepthM,
    a,
    b,
    heard,
    // Asked after what is heard: a source may hand out one and the same profile again.
    profile: profileBetween(a.place, b.place, line),
  });
}

/** Answers links of one world over one ground: what is on its air is gathered once for all of them, where it is not known yet. */
export function answering(
  world: World,
  profileBetween: ProfileSource,
  air: Air | null = null,
): (link: Link, line?: Geodesic) => LinkAnswer {
  const hears = earsOf(listeningIn(world, air), profileBetween);
  return (link, line) => answerOf(world, link, profileBetween, hears(link), line);
}

/** Whether a link of a plan holds and carries what its customer asks for. */
export function isLinkServed(world: World, link: Link, answer: LinkAnswer): boolean {
  return isServed(world.plan, linkEnds(world, link), answer);
}

export function summarize(world: World, link: Link, answer: LinkAnswer): LinkSummary {
  const steady = link.kind === "bridge" ? steadyMbps(world.plan, linkEnds(world, link), answer) : null;
  return {
    linkId: link.id,
    state: answer.state,
    served: isLinkServed(world, link, answer),
    distanceM: answer.distanceM,
    marginLeftDb: weakestMarginDb(answer),
    downMbps: answer.path?.aToB.rateMbps ?? 0,
    upMbps: answer.path?.bToA.rateMbps ?? 0,
    levelADbm: answer.path?.bToA.chainLevelDbm ?? null,
    levelBDbm: answer.path?.aToB.chainLevelDbm ?? null,
    steadyDownMbps: steady?.down ?? null,
    steadyUpMbps: steady?.up ?? null,
  };
}

/** Sites that traffic can reach from a feed over bridges for which `works` holds; all of them in a plan without a feed. */
export function fedSites(world: World, works: (link: Link) => boolean): Set<string> {
  return fedOver(world, bridgesOf(world), works);
}

/** A link between two sites. */
interface Bridge {
  link: Link;
  a: string;
  b: string;
}

function bridgesOf(world: World): Bridge[] {
  const bridges: Bridge[] = [];
  for (const link of world.links.values()) {
    const a = world.radios.get(link.aRadioId)?.siteId;
    const b = world.radios.get(link.bRadioId)?.siteId;
    if (a && b) bridges.push({ link, a, b });
  }
  return bridges;
}

function fedOver(world: World, bridges: readonly Bridge[], works: (link: Link) => boolean): Set<string> {
  const feeds = [...world.sites.values()].filter((site) => site.isFeed).map((site) => site.id);
  if (feeds.length === 0) return new Set(world.sites.keys());
  const neighbours = new Map<string, string[]>();
  for (const { link, a, b } of bridges) {
    if (!works(link)) continue;
    neighbours.set(a, [...(neighbours.get(a) ?? []), b]);
    neighbours.set(b, [...(neighbours.get(b) ?? []), a]);
  }
  const reached = new Set(feeds);
  const queue = [...feeds];
  for (let at = queue.pop(); at !== undefined; at = queue.pop()) {
    for (const next of neighbours.get(at) ?? []) {
      if (reached.has(next)) continue;
      reached.add(next);
      queue.push(next);
    }
  }
  return reached;
}

/** Who stands behind what in a plan, for asking about many links of it. */
export interface Backbone {
  bridges: readonly Bridge[];
  /** People of the customers whom each site serves itself. */
  peopleAt: ReadonlyMap<string, number>;
}

export function backboneOf(world: World): Backbone {
  const peopleAt = new Map<string, number>();
  for (const { aRadioId, bRadioId } of world.links.values()) {
    const siteId = world.radios.get(aRadioId)?.siteId;
    const subscriber = world.subscribers.get(world.radios.get(bRadioId)?.subscriberId ?? "");
    if (siteId && subscriber) peopleAt.set(siteId, (peopleAt.get(siteId) ?? 0) + subscriber.people);
  }
  return { bridges: bridgesOf(world), peopleAt };
}

/** People behind a link: those of its subscriber, or all whose only way to a feed runs over the bridge. */
export function peopleBehind(world: World, link: Link, backbone = () => backboneOf(world)): number {
  const ownSubscriber = world.subscribers.get(world.radios.get(link.bRadioId)?.subscriberId ?? "");
  if (ownSubscriber) return ownSubscriber.people;
  const { bridges, peopleAt } = backbone();
  const without = fedOver(world, bridges, (other) => other.id !== link.id);
  let people = 0;
  for (const siteId of fedOver(world, bridges, () => true))
    if (!without.has(siteId)) people += peopleAt.get(siteId) ?? 0;
  return people;
}

/** People of the customers whom some access points serve themselves. */
function peopleServedBy(world: World, isOne: (radioId: string) => boolean): number {
  let people = 0;
  for (const { aRadioId, bRadioId } of world.links.values())
    if (isOne(aRadioId)) people += world.subscribers.get(world.radios.get(bRadioId)?.subscriberId ?? "")?.people ?? 0;
  return people;
}

/** People of the customers whom a site serves itself, and whom one of its radios does. */
export const peopleBehindSite = (world: World, siteId: string): number =>
  peopleServedBy(world, (id) => world.radios.get(id)?.siteId === siteId);
export const peopleBehindRadio = (world: World, radioId: string): number =>
  peopleServedBy(world, (id) => id === radioId);

/** A plan's outcome in the figures by which a change is judged. */
export interface Outcome {
  customersServed: number;
  peopleServed: number;
  weakestMarginDb: number | null;
  weakestLinkId: string | null;
  /** What the plan adds to everybody's noise, people·km², as `noiseMadePeopleKm2` says. */
  noiseMadePeopleKm2: number;
  costEur: number;
}

/** What a plan's links come to. `noiseMade` is what is known of its noise, which takes a while to gather in a large plan; null gathers it. */
export function* outcomeSteps(
  world: World,
  summaries: ReadonlyMap<string, LinkSummary>,
  noiseMade: number | null = null,
): Steps<Outcome> {
  const fed = fedSites(world, (link) => bringsFeed(world, link, summaries.get(link.id)));
  const served = new Set<string>();
  let people = 0;
  let weakest: LinkSummary | null = null;
  yield;
  for (const link of world.links.values()) {
    const summary = summaries.get(link.id);
    if (!summary) continue;
    if (summary.marginLeftDb !== null && (weakest === null || summary.marginLeftDb < weakest.marginLeftDb!))
      weakest = summary;
    const subscriber = world.subscribers.get(world.radios.get(link.bRadioId)?.subscriberId ?? "");
    const siteId = world.radios.get(link.aRadioId)?.siteId;
    if (!summary.served || !subscriber || !siteId || !fed.has(siteId) || served.has(subscriber.id)) continue;
    served.add(subscriber.id);
    people += subscriber.people;
  }
  yield;
  return {
    customersServed: served.size,
    peopleServed: people,
    weakestMarginDb: weakest?.marginLeftDb ?? null,
    weakestLinkId: weakest?.linkId ?? null,
    noiseMadePeopleKm2: noiseMade ?? (yield* noiseMadeSteps(world)),
    costEur: billOf(world).priceEur,
  };
}

/** Whether a bridge holds with its margin both ways, so that what stands behind it is fed; how much of it the bridge carries is the backhaul's question. */
function bringsFeed({ plan, radios }: World, { aRadioId }: Link, summary: LinkSummary | undefined): boolean {
  if (!summary || summary.marginLeftDb === null) return false;
  const wantedDb = wantedMarginDb(plan, radios.get(aRadioId)!.frequencyMHz);
  return summary.marginLeftDb >= wantedDb && summary.downMbps > 0 && summary.upMbps > 0;
}

/** The same at once. */
export const outcomeOf = (...asked: Parameters<typeof outcomeSteps>): Outcome => finished(outcomeSteps(...asked));
