import type { LinkAnswer } from "../link";
import type { Measurement, World } from "../plan";
import { faultsOf, findingOf, FINDING_KINDS, type Finding } from "./finding";
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

/** Answers every link of a plan and ranks all that is wrong by how many people it hurts. */
export function reviewPlan(world: World, profileBetween: ProfileSource): Review {
  const summaries = new Map<string, LinkSummary>();
  const answers = new Map<string, LinkAnswer>();
  const findings: Finding[] = [];
  const measured = newestMeasurements(world);
  for (const link of world.links.values()) {
    const answer = answerOf(world, link, profileBetween);
    answers.set(link.id, answer);
    summaries.set(link.id, summarize(world, link, answer));
    const measurement = measured.get(link.id) ?? null;
    for (const fault of faultsOf(world, link, answer, measurement)) {
      findings.push(
        findingOf(world, link, fault, remediesFor(world, link, answer, fault, measurement, profileBetween)),
      );
    }
  }
  findings.sort(
    (x, y) =>
      y.people - x.people || FINDING_KINDS.indexOf(x.kind) - FINDING_KINDS.indexOf(y.kind) || x.id.localeCompare(y.id),
  );
  return { summaries, answers, outcome: outcomeOf(world, summaries), findings };
}
