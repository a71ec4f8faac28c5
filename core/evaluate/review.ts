import { checkOf, checksOf, remediesFor, type Finding, type Remedy } from "../findings";
import { newestMeasurements } from "../proof";
import type { LinkSummary, Outcome, ProfileSource } from "../outcome";
import type { LinkAnswer } from "../link";
import type { World } from "../plan";
import { evaluate, type Evaluation } from "./evaluation";
import { faultBehind } from "./grouped";

/** A plan worked out, with the ways out of what is worst in it. */
export interface Review {
  summaries: ReadonlyMap<string, LinkSummary>;
  answers: ReadonlyMap<string, LinkAnswer>;
  outcome: Outcome;
  findings: readonly Finding[];
  counts: Evaluation["counts"];
}

/** Findings whose remedies are worked out with the review; the others when they are asked for. */
const MOST_WORKED_OUT = 12;

/** The ways out of one finding, each tried on the whole of what it touches; null when the plan has no such finding. */
export function workOut(
  { world, answers, found, summaries, findings }: Evaluation,
  findingId: string,
  profileBetween: ProfileSource,
): Remedy[] | null {
  const finding = findings.find(({ id }) => id === findingId);
  const behind = finding && faultBehind(world, found, summaries, finding);
  if (!behind) return null;
  const { fault, linkId } = behind;
  if (linkId === null) return checkOf(fault.check).remedies?.(world, fault, { profileBetween, checksOf }) ?? [];
  const measurement = newestMeasurements(world).get(linkId) ?? null;
  return remediesFor(world, world.links.get(linkId)!, answers.get(linkId)!, fault, measurement, profileBetween);
}

/** An evaluation with the remedies of its first `mostWorkedOut` findings. */
export function reviewed(
  evaluation: Evaluation,
  profileBetween: ProfileSource,
  mostWorkedOut = MOST_WORKED_OUT,
): Review {
  const { summaries, answers, outcome, counts } = evaluation;
  const first = evaluation.findings
    .slice(0, mostWorkedOut)
    .map((finding) => ({ ...finding, remedies: workOut(evaluation, finding.id, profileBetween) }));
  const findings = first.length > 0 ? [...first, ...evaluation.findings.slice(mostWorkedOut)] : evaluation.findings;
  return { summaries, answers, outcome, findings, counts };
}

/** Answers every link of a plan and ranks all that is wrong by how many people it hurts, worst remedies first. */
export function reviewPlan(world: World, profileBetween: ProfileSource, mostWorkedOut = MOST_WORKED_OUT): Review {
  return reviewed(evaluate(world, profileBetween), profileBetween, mostWorkedOut);
}
