import {
  backboneOf,
  changesNoise,
  outcomeSteps,
  peopleBehind,
  type Backbone,
  type Outcome,
  type ProfileSource,
} from "../outcome";
import { faultsOf, findingOf } from "../findings";
import { newestMeasurements } from "../proof";
import { finished, type Steps } from "../steps";
import { listeningIn, type Air } from "../interference";
import { withPatches, type Link, type Patch, type World } from "../plan";
import { answerSteps, type Answers } from "./answers";
import { groupedSteps, isAlike, NOTHING_FOUND, type Findings, type Found, type FoundByLink } from "./grouped";
import { touchedBy, type Touched } from "./touched";

/** Everything that is worked out of a plan, in the layers in which one depends on the other. Plain data, never altered. */
export interface Evaluation extends Answers, Findings {
  world: World;
  /** The plan's transmitters, as whoever listens looks for them. */
  air: Air;
  outcome: Outcome;
}

/** What was worked out before, and the change since. */
interface SinceEvaluation {
  previous: Evaluation;
  touched: Touched;
  /** The noise that the plan makes, where the change leaves it or it may wait; null where it is gathered anew. */
  noiseMade: number | null;
}

/**
 * Works a plan out, link by link: whoever drives it may rest between two of them. With `since`, only what the change touches is
 * worked out; the result is the same as from nothing, which a property test holds it to.
 */
function* steps(world: World, between: ProfileSource, since: SinceEvaluation | null): Steps<Evaluation> {
  const kept = since && !since.touched.everything ? since : null;
  if (kept?.touched.nothing) return { ...kept.previous, world, answered: new Set() };
  const listening = listeningIn(world, kept?.touched.air);
  const { heardNear, heardFar, answers, summaries, answered } = yield* answerSteps(listening, between, kept);
  const only = kept?.touched.only ?? undefined;
  const found = yield* foundSteps(world, answers, answered, kept);
  const outcome = yield* outcomeSteps(world, summaries, kept?.noiseMade);
  const wrong = yield* groupedSteps(world, found, summaries, since?.previous ?? NOTHING_FOUND, only);
  return { world, air: listening.air(), heardNear, heardFar, answers, summaries, outcome, ...wrong, answered };
}

/** What is wrong with each link: looked for where the link was answered or measured anew, or hurts others than before. */
function* foundSteps(
  world: World,
  answers: Answers["answers"],
  answered: ReadonlySet<string>,
  since: SinceEvaluation | null,
): Steps<FoundByLink> {
  const measured = newestMeasurements(world);
  const only = since?.touched.only;
  const found = new Map<string, readonly Found[]>(only ? since!.previous.found : []);
  // Who is behind a bridge follows from the whole network, not from the bridge alone.
  let known: Backbone | null = null;
  const backbone = () => (known ??= backboneOf(world));
  const hurtsAsMany = (link: Link, [first]: readonly Found[]) =>
    !first || first.finding.people === peopleBehind(world, link, backbone);
  const look = (link: Link, before: readonly Found[]) =>
    faultsOf(world, link, answers.get(link.id)!, measured.get(link.id) ?? null).map((fault): Found => {
      const key = fault.cause === null ? null : `${fault.check} ${fault.cause}`;
      const finding = findingOf(world, link, fault, backbone);
      const old = before.find((one) => isAlike(one.finding, finding));
      return { fault, key, finding: old?.finding ?? finding };
    });
  for (const id of only ?? world.links.keys()) {
    const link = world.links.get(id)!;
    const before = since?.previous.found.get(id) ?? [];
    const isSame = since && !answered.has(id) && !since.touched.measured.has(id) && hurtsAsMany(link, before);
    found.set(id, isSame ? before : look(link, before));
    if (!isSame) yield;
  }
  return found;
}

/** Works a plan out from nothing. */
export function evaluate(world: World, between: ProfileSource): Evaluation {
  return finished(steps(world, between, null));
}

/** An evaluation, the patches since, and the world that they lead to. */
interface After {
  previous: Evaluation;
  patches: readonly Patch[];
  world: World;
}

const stepsAfter = ({ previous, patches, world }: After, between: ProfileSource) =>
  steps(world, between, {
    previous,
    touched: touchedBy(previous.world, previous.air, world, patches),
    noiseMade: changesNoise(patches) ? null : previous.outcome.noiseMadePeopleKm2,
  });

/** Most links whose ends may have changed for a first look to be worth it. */
const MOST_OWN = 500;

/**
 * A first look at what some patches change: the links that they are about; everybody else, and the noise that is made, as before. Null
 * where links come or go, where others hear nothing of it, or where there is no telling few from many: the whole is worked out as fast.
 */
export function evaluateOwn(after: After, between: ProfileSource): Evaluation | null {
  const { previous, patches, world } = after;
  const touched = touchedBy(previous.world, previous.air, world, patches);
  const { everything, airChange, own } = touched;
  const isSame = world.links.size === previous.world.links.size && patches.every(({ kind }) => kind !== "links");
  if (everything || !airChange || !isSame || own.size > MOST_OWN) return null;
  const noiseMade = previous.outcome.noiseMadePeopleKm2;
  return finished(steps(world, between, { previous, touched: { ...touched, airChange: null, only: own }, noiseMade }));
}

/** Works out what some patches change of a plan, and takes the rest over. `between` gives the ground as it is now. */
export function evaluateAfter(previous: Evaluation, patches: readonly Patch[], between: ProfileSource): Evaluation {
  return finished(stepsAfter({ previous, patches, world: withPatches(previous.world, patches) }, between));
}

/** When whoever works something out in portions rests, and how: on a server others get their turn meanwhile. */
export interface Pace {
  isDue: () => boolean;
  rest: () => Promise<void>;
}

/** The same in portions. */
export async function evaluateGently(
  from: After | { world: World },
  between: ProfileSource,
  pace: Pace,
): Promise<Evaluation> {
  const work = "previous" in from ? stepsAfter(from, between) : steps(from.world, between, null);
  for (;;) {
    const { done, value } = work.next();
    if (done) return value;
    if (pace.isDue()) await pace.rest();
  }
}
