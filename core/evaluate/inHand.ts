import { listeningIn, type Air, type KnownProfile } from "../interference";
import type { Link, Patch, World } from "../plan";
import { finished, type Steps } from "../steps";
import { answerSteps, type Answers } from "./answers";
import { touchedBy, UNTOUCHED, type Touched } from "./touched";

/** How far a change in hand reaches. */
interface Reach {
  touched: Touched;
  /** The links that are worked out for it, the chosen one among them. */
  linkIds: ReadonlySet<string>;
}

/**
 * How far the patches in hand reach over the kept plan whose air is `air`. Who merely hears them counts only where `withHearers`:
 * in a large plan those follow when the change is kept. The ground stays as it is kept.
 */
export function reachOf(
  kept: World,
  air: () => Air,
  world: World,
  patches: readonly Patch[],
  { chosen, withHearers }: { chosen: Link | null; withHearers: boolean },
): Reach {
  const linkIds = new Set<string>(chosen ? [chosen.id] : []);
  const counted = patches.filter(({ kind }) => kind !== "layers" && kind !== "areas");
  if (counted.length === 0) return { touched: UNTOUCHED, linkIds };
  const touched = touchedBy(kept, air(), world, counted);
  for (const id of touched.own) linkIds.add(id);
  if (!withHearers) return { touched: { ...touched, airChange: null }, linkIds };
  const { everything, airChange } = touched;
  const isReached = (link: Link) =>
    everything || [link.aRadioId, link.bRadioId].some((id) => airChange?.mayReach(world.radios.get(id)!, link));
  if (everything || airChange) for (const link of world.links.values()) if (isReached(link)) linkIds.add(link.id);
  return { touched, linkIds };
}

/** Whether what a link's ends hear must be known of the kept plan to answer it now. */
const isHeardAsKept = ({ touched }: Reach, { aRadioId, bRadioId }: Link) =>
  !touched.isTurned(aRadioId) || !touched.isTurned(bRadioId);

/** Links of the kept plan of which it must be known what they hear before the change in hand is worked out. */
export function heardBefore(kept: World, reach: Reach): string[] {
  return [...reach.linkIds].filter((id) => {
    const link = kept.links.get(id);
    return link !== undefined && isHeardAsKept(reach, link);
  });
}

/**
 * The answers of the links that a change in hand reaches, step by step, by the steps by which the server works a whole plan out. `known` is what
 * is known of the kept plan: a link that hears as it did, and of which it is not known what, has no answer; nor has one over ground
 * that is not known.
 */
export function* stepsInHand(world: World, known: Answers, reach: Reach, between: KnownProfile): Steps<Answers> {
  const { touched, linkIds } = reach;
  const isKnown = (link: Link) =>
    !isHeardAsKept(reach, link) || (known.heardNear.has(link.aRadioId) && known.heardFar.has(link.id));
  const only = new Set([...linkIds].filter((id) => isKnown(world.links.get(id)!)));
  const listening = listeningIn(world, touched.air);
  return yield* answerSteps(listening, between, { previous: known, touched: { ...touched, only } });
}

/** The same at once. */
export const answersInHand = (world: World, known: Answers, reach: Reach, between: KnownProfile): Answers =>
  finished(stepsInHand(world, known, reach, between));

/** The answers of some links of the kept plan itself, as far as it is known what they hear; those that `known` has are taken over. */
export const answersKept = (kept: World, known: Answers, linkIds: Iterable<string>, between: KnownProfile): Answers =>
  answersInHand(kept, known, { touched: UNTOUCHED, linkIds: new Set(linkIds) }, between);
