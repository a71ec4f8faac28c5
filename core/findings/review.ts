import type { LinkAnswer } from "../link";
import type { Link, World } from "../plan";
import { airtimeFaults, airtimeRemedies } from "./airtime";
import { faultsOf } from "./faults";
import { byPeopleHurt, findingOf, type Fault, type Finding, type Remedy } from "./finding";
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

/** A finding with the link and fault from which its remedies are worked out. */
interface Found {
  finding: Finding;
  link: Link;
  fault: Fault;
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
  const add = (one: Found) => {
    const { fault, finding } = one;
    const key = fault.cause === null ? null : `${fault.kind} ${fault.cause}`;
    const known = key === null ? undefined : byCause.get(key);
    if (!known) {
      found.push(one);
      if (key !== null) byCause.set(key, one);
      return;
    }
    if (known.finding.linkIds.includes(finding.linkId)) return;
    known.finding.linkIds.push(finding.linkId);
    known.finding.people += finding.people;
  };
  for (const link of world.links.values()) {
    const answer = answers.get(link.id)!;
    for (const fault of faultsOf(world, link, answer, measured.get(link.id) ?? null))
      add({ finding: findingOf(world, link, fault), link, fault });
  }
  for (const { finding } of found) if (finding.linkIds.length > 1) finding.what += ` (${finding.linkIds.length} links)`;
  for (const { link, fault, linkIds, people } of airtimeFaults(world, summaries))
    found.push({ finding: { ...findingOf(world, link, fault), linkIds, people }, link, fault });
  return found.sort(({ finding: x }, { finding: y }) => byPeopleHurt(x, y));
}

/** The ways out of one finding. */
function remediesOf(world: World, { link, fault }: Found, answer: LinkAnswer, profileBetween: ProfileSource): Remedy[] {
  if (fault.kind === "airtime") return airtimeRemedies(world, link.aRadioId, profileBetween);
  const measurement = newestMeasurements(world).get(link.id) ?? null;
  return remediesFor(world, link, answer, fault, measurement, profileBetween);
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
    one.finding.remedies = remediesOf(world, one, answers.get(one.link.id)!, profileBetween);
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
  return one ? remediesOf(world, one, answers.get(one.link.id)!, profileBetween) : null;
}
