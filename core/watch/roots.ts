import { feedingLinks, nearSite, stepsFromFeed } from "../outcome";
import type { Link, World } from "../plan";
import type { LinkAlarm } from "./alarms";
import type { Offs } from "./turned";
import { whereWords } from "./where";

/** An alarm with all the links that its one root hurts. */
export interface RootAlarm extends LinkAlarm {
  linkIds: string[];
  /** The access point at the root; null where it is one link, or a bridge with all behind it. */
  radioId: string | null;
}

/** Alarms that were raised so many days apart at most can be of one root. */
const TOGETHER_DAYS = 4;
/** So many of an access point's links, and this share of them, must stray before it is the access point. */
const FEWEST_LINKS = 2;
const LEAST_SHARE = 0.5;

/**
 * Alarms by their roots, each with where it lies as far as the links beside it tell: a bridge that falls silent takes all behind it along, and an access point that moved, is jammed or lost its
 * power is one alarm, however many customers it serves.
 */
export function rootAlarms(world: World, alarms: readonly LinkAlarm[], offs: Offs = new Map()): RootAlarm[] {
  const sorted = [...alarms].sort((x, y) => x.raisedDay - y.raisedDay || (x.linkId < y.linkId ? -1 : 1));
  const left = new Set(sorted);
  const found: RootAlarm[] = [];
  const take = (lead: LinkAlarm, along: readonly LinkAlarm[], radioId: string | null) => {
    for (const one of [lead, ...along]) left.delete(one);
    const linkIds = [...new Set([lead, ...along].map(({ linkId }) => linkId))];
    const raisedDay = Math.min(lead.raisedDay, ...along.map((one) => one.raisedDay));
    found.push({ ...lead, raisedDay, linkIds, radioId });
  };
  const near = (one: LinkAlarm, other: LinkAlarm) =>
    one !== other && one.kind === other.kind && Math.abs(one.raisedDay - other.raisedDay) <= TOGETHER_DAYS;
  const far = stepsFromFeed(world);
  const feeders = feedingLinks(world, far);
  /** All bridges between a link and its feed, whichever way. */
  const wayOf = (link: Link, seen = new Set<string>()): Set<string> => {
    for (const id of feeders.get(nearSite(world, link, far) ?? "") ?? [])
      if (!seen.has(id)) {
        seen.add(id);
        wayOf(world.links.get(id)!, seen);
      }
    return seen;
  };
  const silent = sorted.filter(({ kind }) => kind === "silence");
  const depth = ({ linkId }: LinkAlarm) => far.get(nearSite(world, world.links.get(linkId)!, far) ?? "") ?? Infinity;
  for (const lead of [...silent].sort((x, y) => depth(x) - depth(y) || x.raisedDay - y.raisedDay)) {
    if (!left.has(lead) || world.links.get(lead.linkId)!.kind !== "bridge") continue;
    const behind = silent.filter(
      (one) => left.has(one) && near(lead, one) && wayOf(world.links.get(one.linkId)!).has(lead.linkId),
    );
    if (behind.length > 0) take(lead, behind, null);
  }
  const served = new Map<string, number>();
  for (const { kind, aRadioId } of world.links.values())
    if (kind === "access") served.set(aRadioId, (served.get(aRadioId) ?? 0) + 1);
  for (const lead of sorted) {
    const link = world.links.get(lead.linkId);
    if (!left.has(lead) || link?.kind !== "access") continue;
    const alike = sorted.filter(
      (one) =>
        left.has(one) && near(lead, one) && world.links.get(one.linkId)?.aRadioId === link.aRadioId && isAtPoint(one),
    );
    const all = served.get(link.aRadioId)!;
    if (isAtPoint(lead) && alike.length + 1 >= Math.max(FEWEST_LINKS, LEAST_SHARE * all)) {
      // Some may have gained where others lost: the one that lost most is told.
      const told = alike.reduce((worst, one) => ((one.changeDb ?? 0) < (worst.changeDb ?? 0) ? one : worst), lead);
      take(
        told,
        [lead, ...alike].filter((one) => one !== told),
        link.aRadioId,
      );
    }
  }
  for (const alarm of sorted) if (left.has(alarm)) take(alarm, [], null);
  for (const one of found) one.what = `${one.what}${whereWords(world, one, alarms, offs)}`.slice(0, MOST_CHARACTERS);
  return found.sort((x, y) => x.raisedDay - y.raisedDay || (x.linkId < y.linkId ? -1 : 1));
}

/** What an alarm can say at most. */
const MOST_CHARACTERS = 300;

/** Whether what strayed can lie at the access point: all but what shows at the customer's end alone. */
const isAtPoint = ({ side }: LinkAlarm) => side !== "b";
