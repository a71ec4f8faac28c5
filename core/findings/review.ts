import type { LinkAnswer } from "../link";
import type { Measurement, World } from "../plan";
import { faultsOf, findingOf, FINDING_KINDS, type Fault, type Finding, type Remedy } from "./finding";
import { answerOf, outcomeOf, summarize, type LinkSummary, type Outcome, type ProfileSource } from "./outcome";
import { remediesFor } from "./remedies";

export interface Review {
  summaries: Map<string, LinkSummary>;
  answers: Map<string, LinkAnswer>;
  outcome: Outcome;
  findings: Finding[];
}

/** The newest reading of each link. */
export function newestMeasurements(world: World): Map<string, Measurement> {
  const newest = new Map<string, Measurement>();
  for (const measurement of world.measurements.values()) {
    const known = newest.get(measurement.linkId);
    if (!known || known.measuredAt < measurement.measuredAt) newest.set(measurement.linkId, measurement);
  }
  return newest;
}

/** Findings whose remedies are worked out with the review; the others when they are asked for. */
const MOST_WORKED_OUT = 12;

/**
 * Answers every link of a plan and ranks all that is wrong by how many people it hurts. Remedies, each tried on the whole
 * link, are worked out for the first `mostWorkedOut` findings.
 */
export function reviewPlan(world: World, profileBetween: ProfileSource, mostWorkedOut = MOST_WORKED_OUT): Review {
  const summaries = new Map<string, LinkSummary>();
  const answers = new Map<string, LinkAnswer>();
  const found: { finding: Finding; fault: Fault }[] = [];
  const measured = newestMeasurements(world);
  for (const link of world.links.values()) {
    const answer = answerOf(world, link, profileBetween);
    answers.set(link.id, answer);
    summaries.set(link.id, summarize(world, link, answer));
    for (const fault of faultsOf(world, link, answer, measured.get(link.id) ?? null))
      found.push({ finding: findingOf(world, link, fault), fault });
  }
  found.sort(
    ({ finding: x }, { finding: y }) =>
      y.people - x.people || FINDING_KINDS.indexOf(x.kind) - FINDING_KINDS.indexOf(y.kind) || x.id.localeCompare(y.id),
  );
  for (const { finding, fault } of found.slice(0, mostWorkedOut)) {
    const link = world.links.get(finding.linkId)!;
    const measurement = measured.get(link.id) ?? null;
    finding.remedies = remediesFor(world, link, answers.get(link.id)!, fault, measurement, profileBetween);
  }
  return { summaries, answers, outcome: outcomeOf(world, summaries), findings: found.map(({ finding }) => finding) };
}

/** The remedies of one finding that the review left for later; null when the plan has no such finding. */
export function workOut(world: World, findingId: string, profileBetween: ProfileSource): Remedy[] | null {
  // An id is the link's, the kind and the radio's, and ids may hold colons themselves.
  const link = [...world.links.values()].find(({ id }) => findingId.startsWith(`${id}:`));
  if (!link) return null;
  const answer = answerOf(world, link, profileBetween);
  const measurement = newestMeasurements(world).get(link.id) ?? null;
  const fault = faultsOf(world, link, answer, measurement).find((one) => findingOf(world, link, one).id === findingId);
  return fault ? remediesFor(world, link, answer, fault, measurement, profileBetween) : null;
}
