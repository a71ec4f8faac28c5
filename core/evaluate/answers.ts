import { hearingAfter, hearingAt, type Hearing, type KnownProfile, type Listening } from "../interference";
import { answerHearing, answerLink, type LinkAnswer, type OwnNoise } from "../link";
import { summarize, type LinkSummary } from "../outcome";
import { linkEnds, type Link } from "../plan";
import type { Steps } from "../steps";
import type { Touched } from "./touched";

/** What is answered of a plan's links, and what their ends hear. Plain data, never altered. */
export interface Answers {
  /** What each access point or near end hears of the plan's other transmitters, by its radio. */
  heardNear: ReadonlyMap<string, Hearing>;
  /** What each far end hears of them, by its link. */
  heardFar: ReadonlyMap<string, Hearing>;
  answers: ReadonlyMap<string, LinkAnswer>;
  summaries: ReadonlyMap<string, LinkSummary>;
  /** Links that this step answered anew. */
  answered: ReadonlySet<string>;
}

/** What was answered before, and the change since. */
interface Since {
  previous: Answers;
  touched: Touched;
}

/** Links that a change left alone and that are passed without a rest. */
const LOOKED_AT_ONCE = 1000;

/**
 * Answers a plan's links one by one: whoever drives it may rest between two of them. With `since`, only what the change touches is
 * worked out, and where it is known to touch few links the others are not even passed. A profile of `between` need hold only until
 * the next one is asked for; a link over ground that is not known has no answer.
 */
export function* answerSteps(listening: Listening, between: KnownProfile, since: Since | null): Steps<Answers> {
  const { world } = listening;
  const { previous, touched } = since ?? { previous: null, touched: null };
  const only = touched?.only ?? null;
  const begun = only ? previous : null;
  const heardNear = new Map<string, Hearing>(begun?.heardNear);
  const heardFar = new Map<string, Hearing>(begun?.heardFar);
  const answers = new Map<string, LinkAnswer>(begun?.answers);
  const summaries = new Map<string, LinkSummary>(begun?.summaries);
  const heardAnew = new Set<string>();
  const answered = new Set<string>();
  let looked = 0;
  const hear = (link: Link, radioId: string, before: Hearing | undefined) => {
    if (!before || !touched || touched.isTurned(radioId)) return hearingAt(listening, link, radioId, between);
    const { airChange } = touched;
    return airChange ? hearingAfter(listening, airChange, before, link, radioId, between) : before;
  };
  /** The same path under other noise, where that is all that changed. */
  const answer = (link: Link, before: LinkAnswer | undefined, heard: { a: OwnNoise; b: OwnNoise }) => {
    const { kind, foliageDepthM } = link;
    const { a, b } = linkEnds(world, link);
    const isSamePath = before && !touched!.isAnswered(link);
    const again = isSamePath && answerHearing(before, { plan: world.plan, kind, a, b, heard });
    if (again) return again;
    const profile = between(a.place, b.place);
    return profile && answerLink({ plan: world.plan, kind, foliageDepthM, a, b, heard, profile });
  };
  for (const link of only ? [...only].map((id) => world.links.get(id)!) : world.links.values()) {
    const { id, aRadioId, bRadioId } = link;
    // An access point hears for all its customers at once.
    const nearBefore = previous?.heardNear.get(aRadioId);
    if (!heardAnew.has(aRadioId)) {
      heardAnew.add(aRadioId);
      const now = hear(link, aRadioId, nearBefore);
      heardNear.set(aRadioId, now);
      if (now !== nearBefore) yield;
    }
    const near = heardNear.get(aRadioId)!;
    const farBefore = previous?.heardFar.get(id);
    const far = hear(link, bRadioId, farBefore);
    heardFar.set(id, far);
    const before = previous?.answers.get(id);
    const isNoiseSame = near.noise === nearBefore?.noise && far.noise === farBefore?.noise;
    const isAsBefore = before && isNoiseSame && !touched!.isAnswered(link);
    const now = isAsBefore ? before : answer(link, before, { a: near.noise, b: far.noise });
    if (now) answers.set(id, now);
    else answers.delete(id);
    if (now && now !== before) {
      answered.add(id);
      summaries.set(id, summarize(world, link, now));
    } else if (isAsBefore) summaries.set(id, previous!.summaries.get(id)!);
    // Looking whether anything changed takes time too.
    if (!isAsBefore || ++looked % LOOKED_AT_ONCE === 0) yield;
  }
  return { heardNear, heardFar, answers, summaries, answered };
}
