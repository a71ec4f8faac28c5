import type { LinkSummary } from "../outcome";
import type { World } from "../plan";
import { finished, type Steps } from "../steps";

/** A link whose rates change. */
export interface RateChange {
  linkId: string;
  people: number;
  beforeMbps: [down: number, up: number];
  afterMbps: [down: number, up: number];
}

/** What a change does to a plan's rates. */
export interface RateChanges {
  /** How many links run faster, on balance of their two directions, and how many slower. */
  faster: number;
  slower: number;
  /** The first of them, ranked by people and by how much of their rate comes or goes. */
  gain: RateChange[];
  lose: RateChange[];
}

export const NO_RATE_CHANGES: RateChanges = { faster: 0, slower: 0, gain: [], lose: [] };

const MOST_TOLD = 40;
/** Rates that differ by less are one: they travel rounded. */
const SAME_RATE = 0.005;
/** Links compared without a rest. */
const COMPARED_AT_ONCE = 1000;

const isAlike = (x: number, y: number) => Math.abs(x - y) <= SAME_RATE * Math.max(x, y);
const share = (now: number, then: number) => (now - then) / Math.max(then, now, 1e-9);

/** How the rates of a plan's links change from one answer of all of them to another. */
export function* rateChangeSteps(
  world: World,
  before: ReadonlyMap<string, LinkSummary>,
  after: ReadonlyMap<string, LinkSummary>,
): Steps<RateChanges> {
  const changes: { change: RateChange; weight: number }[] = [];
  let compared = 0;
  for (const { id, bRadioId } of world.links.values()) {
    if (++compared % COMPARED_AT_ONCE === 0) yield;
    const [was, is] = [before.get(id), after.get(id)];
    if (!was || !is || was === is) continue;
    if (isAlike(was.downMbps, is.downMbps) && isAlike(was.upMbps, is.upMbps)) continue;
    const people = world.subscribers.get(world.radios.get(bRadioId)?.subscriberId ?? "")?.people ?? 0;
    const weight = (people || 1) * (share(is.downMbps, was.downMbps) + share(is.upMbps, was.upMbps));
    const change: RateChange = {
      linkId: id,
      people,
      beforeMbps: [was.downMbps, was.upMbps],
      afterMbps: [is.downMbps, is.upMbps],
    };
    changes.push({ change, weight });
  }
  const [gain, lose] = [changes.filter(({ weight }) => weight > 0), changes.filter(({ weight }) => weight < 0)];
  const ranked = (some: typeof changes) =>
    some
      .sort((x, y) => Math.abs(y.weight) - Math.abs(x.weight))
      .slice(0, MOST_TOLD)
      .map(({ change }) => change);
  return { faster: gain.length, slower: lose.length, gain: ranked(gain), lose: ranked(lose) };
}

/** The same at once. */
export const rateChanges = (...asked: Parameters<typeof rateChangeSteps>): RateChanges =>
  finished(rateChangeSteps(...asked));
