import {
  answerOf,
  backboneOf,
  outcomeOf,
  peopleBehind,
  summarize,
  type Backbone,
  type LinkSummary,
  type Outcome,
  type ProfileSource,
} from "../outcome";
import { faultsOf, findingOf } from "../findings";
import { newestMeasurements } from "../proof";
import { hearingAfter, hearingAt, listeningIn, type Air, type Hearing } from "../interference";
import { answerHearing, type LinkAnswer, type OwnNoise } from "../link";
import { linkEnds, withPatches, type Link, type Patch, type World } from "../plan";
import { groupedFindings, isAlike, NOTHING_FOUND, type Findings, type Found } from "./grouped";
import { touchedBy, type Touched } from "./touched";

/** Everything that is worked out of a plan, in the layers in which one depends on the other. Plain data, never altered. */
export interface Evaluation extends Findings {
  world: World;
  /** The plan's transmitters, as whoever listens looks for them. */
  air: Air;
  /** What each access point or near end hears of the plan's other transmitters, by its radio. */
  heardNear: ReadonlyMap<string, Hearing>;
  /** What each far end hears of them, by its link. */
  heardFar: ReadonlyMap<string, Hearing>;
  answers: ReadonlyMap<string, LinkAnswer>;
  summaries: ReadonlyMap<string, LinkSummary>;
  outcome: Outcome;
  /** Links that this step answered anew. */
  answered: ReadonlySet<string>;
}

/** Links that a change left alone and that are passed without a rest. */
const LOOKED_AT_ONCE = 1000;

/** What was worked out before, and the change since. */
interface Since {
  previous: Evaluation;
  touched: Touched;
}

/**
 * Works a plan out, link by link: whoever drives it may rest between two of them. With `since`, only what the change touches is
 * worked out; the result is the same as from nothing, which a property test holds it to. A profile of `between` need hold only until
 * the next one is asked for.
 */
function* steps(world: World, between: ProfileSource, since: Since | null): Generator<void, Evaluation> {
  const kept = since && !since.touched.everything ? since : null;
  if (kept?.touched.nothing) return { ...kept.previous, world, answered: new Set() };
  const measured = newestMeasurements(world);
  // Where a change is known to touch few links, the others are not even passed.
  const only = kept?.touched.only ?? null;
  const begun = only ? kept!.previous : null;
  const heardNear = new Map<string, Hearing>(begun?.heardNear);
  const heardFar = new Map<string, Hearing>(begun?.heardFar);
  const answers = new Map<string, LinkAnswer>(begun?.answers);
  const summaries = new Map<string, LinkSummary>(begun?.summaries);
  const found = new Map<string, readonly Found[]>(begun?.found);
  const heardAnew = new Set<string>();
  const answered = new Set<string>();
  let looked = 0;
  // Who is behind a bridge follows from the whole network, not from the bridge alone.
  let known: Backbone | null = null;
  const backbone = () => (known ??= backboneOf(world));
  const hurtsAsMany = (link: Link, [first]: readonly Found[]) =>
    !first || first.finding.people === peopleBehind(world, link, backbone);
  const foundIn = (link: Link, answer: LinkAnswer, before: readonly Found[]) =>
    faultsOf(world, link, answer, measured.get(link.id) ?? null).map((fault): Found => {
      const key = fault.cause === null ? null : `${fault.check} ${fault.cause}`;
      const finding = findingOf(world, link, fault, backbone);
      const old = before.find((one) => isAlike(one.finding, finding));
      return { fault, key, finding: old?.finding ?? finding };
    });
  const listening = listeningIn(world, kept?.touched.air);
  const hear = (link: Link, radioId: string, before: Hearing | undefined) => {
    if (!before || !kept || kept.touched.isTurned(radioId)) return hearingAt(listening, link, radioId, between);
    const { airChange } = kept.touched;
    return airChange ? hearingAfter(listening, airChange, before, link, radioId, between) : before;
  };
  /** The same path under other noise, where that is all that changed. */
  const answer = (link: Link, before: LinkAnswer | undefined, noise: { a: OwnNoise; b: OwnNoise }) => {
    const isSamePath = before && !kept!.touched.isAnswered(link);
    const shared = { plan: world.plan, kind: link.kind, ...linkEnds(world, link) };
    return (isSamePath && answerHearing(before, { ...shared, heard: noise })) || answerOf(world, link, between, noise);
  };
  for (const link of only ? [...only].map((id) => world.links.get(id)!) : world.links.values()) {
    const { id, aRadioId, bRadioId } = link;
    // An access point hears for all its customers at once.
    const nearBefore = kept?.previous.heardNear.get(aRadioId);
    const near = heardAnew.has(aRadioId) ? heardNear.get(aRadioId)! : hear(link, aRadioId, nearBefore);
    heardAnew.add(aRadioId);
    heardNear.set(aRadioId, near);
    const farBefore = kept?.previous.heardFar.get(id);
    const far = hear(link, bRadioId, farBefore);
    heardFar.set(id, far);
    const before = kept?.previous.answers.get(id);
    const isNoiseSame = near.noise === nearBefore?.noise && far.noise === farBefore?.noise;
    const isAsBefore = before && isNoiseSame && !kept?.touched.isAnswered(link);
    const now = isAsBefore ? before : answer(link, before, { a: near.noise, b: far.noise });
    answers.set(link.id, now);
    if (!isAsBefore) answered.add(link.id);
    summaries.set(link.id, isAsBefore ? kept!.previous.summaries.get(link.id)! : summarize(world, link, now));
    const foundBefore = kept?.previous.found.get(id);
    const isSame = isAsBefore && !kept?.touched.measured.has(id) && hurtsAsMany(link, foundBefore ?? []);
    found.set(id, isSame ? foundBefore! : foundIn(link, now, foundBefore ?? []));
    // Looking whether anything changed takes time too.
    if (!isAsBefore || ++looked % LOOKED_AT_ONCE === 0) yield;
  }
  const outcome = outcomeOf(world, summaries);
  yield;
  const wrong = groupedFindings(world, found, summaries, since?.previous ?? NOTHING_FOUND, only ?? undefined);
  return { world, air: listening.air(), heardNear, heardFar, answers, summaries, outcome, ...wrong, answered };
}

/** Runs a generator to its end without a rest. */
function finished<T>(work: Generator<void, T>): T {
  for (;;) {
    const { done, value } = work.next();
    if (done) return value;
  }
}

/** Works a plan out from nothing. */
export function evaluate(world: World, between: ProfileSource): Evaluation {
  return finished(steps(world, between, null));
}

/** An evaluation, the patches since, and the world that they lead to. */
export interface After {
  previous: Evaluation;
  patches: readonly Patch[];
  world: World;
}

const stepsAfter = ({ previous, patches, world }: After, between: ProfileSource) =>
  steps(world, between, { previous, touched: touchedBy(previous.world, previous.air, world, patches) });

/** Most links whose ends may have changed for a first look to be worth it. */
const MOST_OWN = 500;

/**
 * A first look at what some patches change: the links that they are about, everybody else as before. Null where links come or go,
 * where others hear nothing of it, or where there is no telling few from many: the whole is worked out as fast.
 */
export function evaluateOwn(after: After, between: ProfileSource): Evaluation | null {
  const { previous, patches, world } = after;
  const touched = touchedBy(previous.world, previous.air, world, patches);
  const { everything, airChange, own } = touched;
  const isSame = world.links.size === previous.world.links.size && patches.every(({ kind }) => kind !== "links");
  if (everything || !airChange || !isSame || own.size > MOST_OWN) return null;
  return finished(steps(world, between, { previous, touched: { ...touched, airChange: null, only: own } }));
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
