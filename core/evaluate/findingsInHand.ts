import { byPeopleHurt, checkOf, faultsOf, findingOf, linksOf, radioOf, type Finding } from "../findings";
import { newestMeasurements } from "../proof";
import type { LinkSummary } from "../outcome";
import type { LinkAnswer } from "../link";
import type { World } from "../plan";
import { finished, type Steps } from "../steps";
import { planFaultSteps } from "./grouped";

/**
 * The findings of a plan under a change in hand: those of the kept plan whose links the change does not touch, and what is wrong
 * with the links that it does, as answered in hand. A finding that still stands word for word keeps its remedies; a new one
 * has none until the change is kept.
 */
export function* findingsInHandSteps(
  world: World,
  kept: readonly Finding[],
  answered: ReadonlyMap<string, LinkAnswer>,
  summaries: ReadonlyMap<string, LinkSummary>,
): Steps<Finding[]> {
  const measured = newestMeasurements(world);
  const now: Finding[] = [];
  for (const [linkId, answer] of answered) {
    const link = world.links.get(linkId);
    if (!link) continue;
    for (const fault of faultsOf(world, link, answer, measured.get(linkId) ?? null))
      now.push(findingOf(world, link, fault));
    yield;
  }
  const ofPlan = (yield* planFaultSteps(world, summaries)).map(({ finding }) => finding);
  const told = new Set<string>();
  const still: Finding[] = [];
  for (const finding of kept) {
    const isOfPlan = checkOf(finding.check).ofPlan !== undefined;
    const mine = linksOf(finding);
    const isSame = (one: Finding) =>
      one.check === finding.check &&
      (isOfPlan
        ? one.id === finding.id
        : radioOf(one) === radioOf(finding) && one.linkId !== null && mine.includes(one.linkId));
    const again = (isOfPlan ? ofPlan : now).filter(isSame);
    for (const one of again) told.add(one.id);
    // What is about the plan as a whole is found anew each time.
    const untouched = isOfPlan ? [] : mine.filter((id) => world.links.has(id) && !answered.has(id));
    if (untouched.length + again.length === 0) continue;
    const said = again.find(({ linkId }) => linkId === finding.linkId) ?? again[0];
    const isUnchanged = untouched.length === mine.length || (said && finding.what.startsWith(said.what));
    const links = [...untouched, ...again.flatMap(({ linkId }) => linkId ?? [])];
    still.push(
      isUnchanged && (untouched.length > 0 || !isOfPlan || said?.what === finding.what)
        ? finding
        : {
            ...finding,
            what: said?.what ?? finding.what,
            why: said?.why ?? finding.why,
            figure: said?.figure ?? finding.figure,
            people: isOfPlan ? (said?.people ?? finding.people) : finding.people,
            about:
              isOfPlan && said
                ? said.about
                : [
                    ...finding.about.filter(({ kind }) => kind !== "links"),
                    ...links.map((id) => ({ kind: "links" as const, id })),
                  ],
            remedies: null,
          },
    );
  }
  const fresh = new Map<string, Finding>();
  for (const one of [...now, ...ofPlan]) {
    if (told.has(one.id)) continue;
    // One radio's fault is told once, as in the kept plan.
    const radioId = radioOf(one);
    const key = radioId === null ? one.id : `${one.check} ${radioId}`;
    const known = fresh.get(key);
    if (!known) fresh.set(key, one);
    else {
      known.about.push(...one.about.filter(({ kind }) => kind === "links"));
      known.people += one.people;
    }
  }
  return [...still, ...fresh.values()].sort(byPeopleHurt);
}

/** The same at once. */
export const findingsInHand = (...asked: Parameters<typeof findingsInHandSteps>): Finding[] =>
  finished(findingsInHandSteps(...asked));
