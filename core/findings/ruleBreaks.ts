import type { LinkAnswer } from "../link";
import type { World } from "../plan";
import { capsFor, limitReason, overCap, ruleUse, type RuleSet } from "../regulation";

/** One transmitter that a rule set does not allow as it stands. */
export interface RuleBreak {
  linkId: string;
  radioId: string;
  radio: string;
  place: string;
  /** What is wrong, with its figure. */
  what: string;
}

/** Every transmitter of the answered links that would break a rule set: no rule, over a cap, or indoor use only. */
export function ruleBreaks(world: World, answers: ReadonlyMap<string, LinkAnswer>, ruleSet: RuleSet): RuleBreak[] {
  const breaks: RuleBreak[] = [];
  for (const link of world.links.values()) {
    const path = answers.get(link.id)?.path;
    if (!path) continue;
    for (const tape of [path.aToB, path.bToA]) {
      const { from, fromPointing, path: losses } = tape.question;
      const { limit, closed } = capsFor(ruleSet, from, ruleUse(link.kind), {
        frequencyMHz: losses.frequencyMHz,
        mechanicalTiltDownDeg: fromPointing.mechanicalTiltDownDeg,
      });
      const over = overCap({ eirpDbm: tape.eirpDbm, txPowerDbm: from.radio.txPowerDbm }, limit);
      const what = limit.covered && over ? `${over.words} (${limit.source}: ${limitReason(limit)})` : closed;
      if (what)
        breaks.push({ linkId: link.id, radioId: from.radio.id, radio: from.radio.name, place: from.placeName, what });
    }
  }
  return breaks;
}
