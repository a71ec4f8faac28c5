import {
  answerOf,
  faultsOf,
  findingOf,
  newestMeasurements,
  outcomeOf,
  summarize,
  type Fault,
  type Finding,
  type LinkSummary,
  type Outcome,
  type ProfileSource,
} from "../findings";
import { ownNoiseAt } from "../interference";
import type { LinkAnswer, OwnNoise } from "../link";
import { withPatches, type Link, type Patch, type World } from "../plan";
import { groupedFindings } from "./grouped";
import { touchedBy, type Touched } from "./touched";

/** A fault of one link with its finding, before faults of one cause are told as one. */
export interface Found {
  fault: Fault;
  finding: Finding;
}

/** Everything that is worked out of a plan, in the layers in which one depends on the other. Plain data, never altered. */
export interface Evaluation {
  world: World;
  /** What each receiver hears of the plan's other transmitters, by `earKey`. */
  heard: ReadonlyMap<string, OwnNoise>;
  answers: ReadonlyMap<string, LinkAnswer>;
  summaries: ReadonlyMap<string, LinkSummary>;
  /** What is wrong with each link. */
  found: ReadonlyMap<string, readonly Found[]>;
  outcome: Outcome;
  /** Ranked, without remedies. A finding that stands as it stood is the same object as before. */
  findings: readonly Finding[];
  /** Links that this step answered anew. */
  answered: ReadonlySet<string>;
}

/** An access point hears for all its customers at once. */
const earKey = ({ aRadioId }: Link, radioId: string) => `${radioId} ${aRadioId}`;

/** What was worked out before, and the change since. */
interface Since {
  previous: Evaluation;
  touched: Touched;
}

/**
 * Works a plan out, link by link: whoever drives it may rest between two of them. With `since`, only what the change touches is
 * worked out; the result is the same as from nothing, which a property test holds it to.
 */
function* steps(world: World, profileBetween: ProfileSource, since: Since | null): Generator<void, Evaluation> {
  const kept = since && !since.touched.everything ? since : null;
  const measured = newestMeasurements(world);
  const heard = new Map<string, OwnNoise>();
  const hearing = new Set<string>();
  const answers = new Map<string, LinkAnswer>();
  const summaries = new Map<string, LinkSummary>();
  const found = new Map<string, readonly Found[]>();
  const answered = new Set<string>();
  for (const link of world.links.values()) {
    for (const radioId of [link.aRadioId, link.bRadioId]) {
      const key = earKey(link, radioId);
      if (heard.has(key)) continue;
      const before = kept?.previous.heard.get(key);
      if (before && !kept?.touched.isHearing(link, radioId)) heard.set(key, before);
      else {
        heard.set(key, ownNoiseAt(world, link, radioId, profileBetween));
        hearing.add(key);
        yield;
      }
    }
    const [a, b] = [earKey(link, link.aRadioId), earKey(link, link.bRadioId)];
    const before = kept?.previous.answers.get(link.id);
    const isAsBefore = before && !hearing.has(a) && !hearing.has(b) && !kept?.touched.isAnswered(link);
    const answer = isAsBefore ? before : answerOf(world, link, profileBetween, { a: heard.get(a)!, b: heard.get(b)! });
    answers.set(link.id, answer);
    if (!isAsBefore) answered.add(link.id);
    summaries.set(link.id, isAsBefore ? kept!.previous.summaries.get(link.id)! : summarize(world, link, answer));
    const isFoundAsBefore = isAsBefore && !kept!.touched.measured.has(link.id);
    const faults = isFoundAsBefore
      ? kept!.previous.found.get(link.id)!
      : faultsOf(world, link, answer, measured.get(link.id) ?? null).map((fault) => ({
          fault,
          finding: findingOf(world, link, fault),
        }));
    found.set(link.id, faults);
    if (!isAsBefore) yield;
  }
  const outcome = outcomeOf(world, summaries);
  const findings = groupedFindings(world, found, summaries, since?.previous.findings ?? []);
  return { world, heard, answers, summaries, found, outcome, findings, answered };
}

/** Runs a generator to its end without a rest. */
function finished<T>(work: Generator<void, T>): T {
  for (;;) {
    const { done, value } = work.next();
    if (done) return value;
  }
}

/** Works a plan out from nothing. */
export function evaluate(world: World, profileBetween: ProfileSource): Evaluation {
  return finished(steps(world, profileBetween, null));
}

/** An evaluation, the patches since, and the world that they lead to. */
export interface After {
  previous: Evaluation;
  patches: readonly Patch[];
  world: World;
}

const stepsAfter = ({ previous, patches, world }: After, profileBetween: ProfileSource) =>
  steps(world, profileBetween, { previous, touched: touchedBy(previous.world, world, patches) });

/** Works out what some patches change of a plan, and takes the rest over. `profileBetween` gives the ground as it is now. */
export function evaluateAfter(
  previous: Evaluation,
  patches: readonly Patch[],
  profileBetween: ProfileSource,
): Evaluation {
  return finished(stepsAfter({ previous, patches, world: withPatches(previous.world, patches) }, profileBetween));
}

/** When whoever works something out in portions rests, and how: on a server others get their turn meanwhile. */
export interface Pace {
  isDue: () => boolean;
  rest: () => Promise<void>;
}

/** The same in portions. */
export async function evaluateGently(
  from: After | { world: World },
  profileBetween: ProfileSource,
  pace: Pace,
): Promise<Evaluation> {
  const work = "previous" in from ? stepsAfter(from, profileBetween) : steps(from.world, profileBetween, null);
  for (;;) {
    const { done, value } = work.next();
    if (done) return value;
    if (pace.isDue()) await pace.rest();
  }
}
