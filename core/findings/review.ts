import type { LinkAnswer } from "../link";
import type { Link, World } from "../plan";
import { checkOf, CHECKS } from "./checks";
import type { Remedy } from "./checks/check";
import { checksOf, faultsOf } from "./faults";
import { byPeopleHurt, findingOf, linksOf, planFindingOf, type Fault, type Finding } from "./finding";
import { answerOf, outcomeOf, summarize, type LinkSummary, type Outcome, type ProfileSource } from "./outcome";
import { newestMeasurements } from "./measurements";
import { remediesFor } from "./remedies";

export interface Review {
  summaries: Map<string, LinkSummary>;
  answers: Map<string, LinkAnswer>;
  outcome: Outcome;
  findings: Finding[];
}

/** Findings whose remedies are worked out with the review; the others when they are asked for. */
const MOST_WORKED_OUT = 12;

/** A finding with the fault, and the link of it where it is one link's, from which its remedies are worked out. */
interface Found {
  finding: Finding;
  link: Link | null;
  fault: Fault;
}

/** What is wrong with things that are no single link, by every check that looks at them. */
export function planFaults(
  world: World,
  summaries: ReadonlyMap<string, LinkSummary>,
): { finding: Finding; fault: Fault }[] {
  return CHECKS.flatMap(({ id: check, ofPlan }) =>
    (ofPlan?.(world, summaries) ?? []).map((fault) => ({
      finding: planFindingOf(check, fault),
      fault: { check, ...fault },
    })),
  );
}

/**
 * All that is wrong with a plan whose links are answered, by how many people it hurts. Faults with one cause are one finding:
 * it names the link hurt first, counts everybody once, and says how many links share it.
 */
function findAll(
  world: World,
  answers: ReadonlyMap<string, LinkAnswer>,
  summaries: ReadonlyMap<string, LinkSummary>,
): Found[] {
  const measured = newestMeasurements(world);
  const found: Found[] = [];
  const byCause = new Map<string, Found>();
  for (const link of world.links.values()) {
    const answer = answers.get(link.id)!;
    for (const fault of faultsOf(world, link, answer, measured.get(link.id) ?? null)) {
      const finding = findingOf(world, link, fault);
      const key = fault.cause === null ? null : `${fault.check} ${fault.cause}`;
      const known = key === null ? undefined : byCause.get(key)?.finding;
      if (!known) {
        const one = { finding, link, fault };
        found.push(one);
        if (key !== null) byCause.set(key, one);
      } else if (!linksOf(known).includes(link.id)) {
        known.about.push({ kind: "links", id: link.id });
        known.people += finding.people;
      }
    }
  }
  for (const { finding } of found) {
    const count = linksOf(finding).length;
    if (count > 1) finding.what += ` (${count} links)`;
  }
  for (const { finding, fault } of planFaults(world, summaries)) found.push({ finding, link: null, fault });
  return found.sort(({ finding: x }, { finding: y }) => byPeopleHurt(x, y));
}

/** The ways out of one finding. */
function remediesOf(
  world: World,
  { link, fault }: Found,
  answers: ReadonlyMap<string, LinkAnswer>,
  profileBetween: ProfileSource,
): Remedy[] {
  if (!link) return checkOf(fault.check).remedies?.(world, fault, { profileBetween, checksOf }) ?? [];
  const measurement = newestMeasurements(world).get(link.id) ?? null;
  return remediesFor(world, link, answers.get(link.id)!, fault, measurement, profileBetween);
}

/**
 * Answers every link of a plan and ranks all that is wrong by how many people it hurts. Remedies, each tried on the whole
 * link, are worked out for the first `mostWorkedOut` findings.
 */
export function reviewPlan(world: World, profileBetween: ProfileSource, mostWorkedOut = MOST_WORKED_OUT): Review {
  const summaries = new Map<string, LinkSummary>();
  const answers = new Map<string, LinkAnswer>();
  for (const link of world.links.values()) {
    const answer = answerOf(world, link, profileBetween);
    answers.set(link.id, answer);
    summaries.set(link.id, summarize(world, link, answer));
  }
  const found = findAll(world, answers, summaries);
  for (const one of found.slice(0, mostWorkedOut))
    one.finding.remedies = remediesOf(world, one, answers, profileBetween);
  return { summaries, answers, outcome: outcomeOf(world, summaries), findings: found.map(({ finding }) => finding) };
}

/** The remedies of one finding that the review left for later; null when the plan has no such finding. */
export function workOut(
  world: World,
  { answers, summaries }: Pick<Review, "answers" | "summaries">,
  findingId: string,
  profileBetween: ProfileSource,
): Remedy[] | null {
  const one = findAll(world, answers, summaries).find(({ finding }) => finding.id === findingId);
  return one ? remediesOf(world, one, answers, profileBetween) : null;
}
