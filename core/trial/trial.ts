import { costOf } from "../bill";
import type { LinkAnswer } from "../link";
import { answering, isLinkServed, summarize, type LinkSummary, type ProfileSource } from "../outcome";
import { withPatches, type Link, type Patch, type World } from "../plan";

/** A change to a plan, with its name for people. */
export interface Change {
  label: string;
  patches: Patch[];
}

/** A way out of a finding: a change that was tried and resolves it, or a measurement to take. */
export interface Remedy extends Change {
  effect: string;
  /** Whether a measurement is to be taken instead of a change to the plan. */
  visit: boolean;
}

/** A plan on trial. Each link is answered when it is first asked for, once, in the interference of the whole plan. */
export interface Trial {
  readonly world: World;
  /** Throws RangeError for a link that the plan does not hold, as do the three below. */
  answer: (linkId: string) => LinkAnswer;
  isServed: (linkId: string) => boolean;
  summary: (linkId: string) => LinkSummary;
  /** Data rates, Mbit/s: 0 where nothing passes. */
  rates: (linkId: string) => { downMbps: number; upMbps: number };
  /** Price of the plan's kit, €. */
  priceEur: () => number;
  /** The plan after a change. */
  after: (patches: readonly Patch[]) => Trial;
}

/** Tries a plan as it stands; `after` then tries changes of it. */
export function trialOf(world: World, between: ProfileSource): Trial {
  const answerOf = answering(world, between);
  const answers = new Map<string, LinkAnswer>();
  let priceEur: number | null = null;
  const linkOf = (linkId: string): Link => {
    const link = world.links.get(linkId);
    if (!link) throw new RangeError(`There is no link "${linkId}" in the plan.`);
    return link;
  };
  const answer = (linkId: string): LinkAnswer => {
    const found = answers.get(linkId) ?? answerOf(linkOf(linkId));
    answers.set(linkId, found);
    return found;
  };
  return {
    world,
    answer,
    isServed: (linkId) => isLinkServed(world, linkOf(linkId), answer(linkId)),
    summary: (linkId) => summarize(world, linkOf(linkId), answer(linkId)),
    rates: (linkId) => {
      const { path } = answer(linkId);
      return { downMbps: path?.aToB.rateMbps ?? 0, upMbps: path?.bToA.rateMbps ?? 0 };
    },
    priceEur: () => (priceEur ??= costOf(world)),
    after: (patches) => trialOf(withPatches(world, patches), between),
  };
}

/** What a change adds to the price of the kit, €. */
export const addedEur = (before: Trial, after: Trial): number => after.priceEur() - before.priceEur();

/** Which of some links are served before a change and not after it: those that it removes too. */
export function lostLinks(before: Trial, after: Trial, links: readonly Link[]): Link[] {
  return links.filter(({ id }) => before.isServed(id) && !(after.world.links.has(id) && after.isServed(id)));
}
