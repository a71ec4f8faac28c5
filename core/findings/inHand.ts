import type { LinkAnswer } from "../link";
import type { World } from "../plan";
import { airtimeFaults } from "./airtime";
import { faultsOf } from "./faults";
import { byPeopleHurt, findingOf, type Finding } from "./finding";
import type { LinkSummary } from "./outcome";
import { newestMeasurements } from "./measurements";

/**
 * The findings of a plan under a change in hand: those of the kept plan whose links the change does not touch, and what is wrong
 * with the links that it does, as answered in hand. A finding that still stands word for word keeps its remedies; a new one
 * has none until the change is kept.
 */
export function findingsInHand(
  world: World,
  kept: readonly Finding[],
  answered: ReadonlyMap<string, LinkAnswer>,
  summaries: ReadonlyMap<string, LinkSummary>,
): Finding[] {
  const measured = newestMeasurements(world);
  const now: Finding[] = [];
  for (const [linkId, answer] of answered) {
    const link = world.links.get(linkId);
    if (!link) continue;
    for (const fault of faultsOf(world, link, answer, measured.get(linkId) ?? null))
      now.push(findingOf(world, link, fault));
  }
  for (const { link, fault, linkIds, people } of airtimeFaults(world, summaries))
    now.push({ ...findingOf(world, link, fault), linkIds, people });

  const told = new Set<string>();
  const still: Finding[] = [];
  for (const finding of kept) {
    const isSame = (one: Finding) =>
      one.kind === finding.kind && one.radioId === finding.radioId && finding.linkIds.includes(one.linkId);
    const links = finding.linkIds.filter((id) => world.links.has(id));
    const untouched = finding.kind === "airtime" ? [] : links.filter((id) => !answered.has(id));
    const again = now.filter(isSame);
    for (const one of again) told.add(one.id);
    if (untouched.length + again.length === 0) continue;
    const said = again.find(({ linkId }) => linkId === finding.linkId) ?? again[0];
    const isUnchanged = untouched.length === finding.linkIds.length || (said && finding.what.startsWith(said.what));
    still.push(
      isUnchanged
        ? finding
        : {
            ...finding,
            what: said?.what ?? finding.what,
            why: said?.why ?? finding.why,
            linkIds: finding.kind === "airtime" ? links : [...untouched, ...again.map(({ linkId }) => linkId)],
            remedies: null,
          },
    );
  }
  const fresh = new Map<string, Finding>();
  for (const one of now) {
    if (told.has(one.id)) continue;
    // One radio's fault is told once, as in the kept plan.
    const key = one.radioId === null ? one.id : `${one.kind} ${one.radioId}`;
    const known = fresh.get(key);
    if (!known) fresh.set(key, one);
    else {
      known.linkIds.push(one.linkId);
      known.people += one.people;
    }
  }
  return [...still, ...fresh.values()].sort(byPeopleHurt);
}
