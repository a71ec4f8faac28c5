import { figure } from "../words";
import type { Features } from "./features";
import type { SignalKind } from "./signals";

/** Why a link no longer does what it did. */
export const CAUSES = {
  moved: {
    title: "An antenna has moved",
    check: "Look at the bolts and the scales of both ends; aim again one axis at a time and read again after locking.",
  },
  pathGrown: {
    title: "Something has grown or been put into the path",
    check: "Stand at one end and look along the path; compare with the photographs. Trim, or raise the lower end.",
  },
  water: {
    title: "Water in a connector or a cable",
    check: "Open the joint of the weaker chain, dry or replace it, and wrap it anew: tape, butyl, tape.",
  },
  chainDead: {
    title: "A chain is dead",
    check:
      "Swap the two jumpers at the end that hears it weakly: if the weak chain moves along, it is the cable; else the radio.",
  },
  polarization: {
    title: "An antenna was turned about its axis",
    check: "Hold the polarization marks of both ends against each other and level them.",
  },
  ice: {
    title: "Ice or snow on an antenna",
    check: "Wait for a thaw and read again; a radome or a heated cover keeps it off.",
  },
  outsider: {
    title: "Somebody else on the channel",
    check: "Scan at that end, by heading and polarization, and look for a quieter channel under Channels.",
  },
  ownChange: {
    title: "A change of our own",
    check: "See the plan's changes of those days; take the change back on trial.",
  },
  firmware: {
    title: "The device restarts by the clock",
    check: "Look for a scheduled restart and at the firmware's version.",
  },
  supplyFault: {
    title: "The supply fails or sags",
    check: "Measure the voltage at the radio under load; look at the injector, its cable and the plugs.",
  },
  battery: {
    title: "The battery has aged",
    check: "Measure its voltage at rest and under load; change it before the worst month.",
  },
  shade: {
    title: "The panel is shaded or dirty",
    check: "Clean the panel and look what throws a shadow at noon.",
  },
  overload: {
    title: "More is asked for than the air carries",
    check: "See Capacity: slow customers first, then split the sector.",
  },
  outage: {
    title: "No power, or the way to it is cut",
    check: "See whether others behind the same site are silent too; begin nearest to the feed.",
  },
  prediction: {
    title: "The prediction itself is wrong, or it was built otherwise",
    check: "Hold heights, antennas and trees of both ends against what stands there.",
  },
} as const;
export type CauseKind = keyof typeof CAUSES;

/** A cause with its odds against the others, and what speaks for it. */
export interface RankedCause {
  cause: CauseKind;
  /** From 0 to 1; all of an alarm's add up to 1. */
  odds: number;
  because: string;
}

/** Which causes each signal can have. */
const OPEN_TO: Record<SignalKind, readonly CauseKind[]> = {
  level: ["moved", "pathGrown", "water", "chainDead", "polarization", "ice", "ownChange"],
  imbalance: ["water", "chainDead", "polarization", "moved"],
  rate: ["polarization", "outsider", "water", "ownChange", "chainDead"],
  noise: ["outsider", "ownChange"],
  restarts: ["firmware", "supplyFault"],
  supply: ["battery", "shade", "supplyFault"],
  airtime: ["overload"],
  silence: ["outage"],
  prediction: ["prediction"],
};

/** Something that speaks for a cause: how much, as the logarithm of its odds, and in words. */
type Evidence = readonly [weight: number, words: string];

const percent = (share: number) => `${Math.round(share * 100)} %`;
const isSudden = ({ suddenness }: Features) => suddenness >= 0.55;

/** What speaks for each cause; weights against are below zero. */
const EVIDENCE: Record<CauseKind, (f: Features, isOurChange: boolean) => Evidence[]> = {
  moved: (f) => [
    isSudden(f) ? [1.2, "it came within days"] : [-1.5, "it came slowly"],
    f.windRank >= 0.9
      ? [1.5, `in the windiest ${percent(Math.max(0.01, 1 - f.windRank))} of days`]
      : [-0.5, "in no storm"],
    apartDb(f) < 2 ? [1, "both chains alike, both ways"] : [-2, "the chains differ"],
    f.rateLost > 0.15 ? [-1.5, "the rate fell by more than the level explains"] : [0, ""],
    f.hasEnded && f.lastedDays < 30 ? [-2, "it went by itself"] : [0.3, "it stayed"],
  ],
  pathGrown: (f) => [
    isSudden(f) ? [-1, "it came within days"] : [1.6, "it came slowly"],
    f.leavesGrown > 0.25 ? [1.2, "while leaves were growing"] : [-0.4, "not in the season of leaves"],
    apartDb(f) < 2 ? [0.8, "both chains alike, both ways"] : [-2, "the chains differ"],
    f.lossDb > 0 ? [0.3, `${figure(f.lossDb)} dB lost`] : [-3, "nothing was lost"],
  ],
  water: (f) => [
    isSameChain(f) ? [2.2, "one chain lost at both ends alike"] : [-1.2, "not one chain at both ends"],
    isSudden(f) ? [-1.2, "it came within days"] : [1.2, "it came slowly"],
    f.rainRank >= 0.6 ? [0.7, "after much rain"] : [0, ""],
  ],
  chainDead: (f) => [
    apartDb(f) >= 9
      ? [2.4, `the chains stand ${figure(apartDb(f))} dB further apart`]
      : [-2, "the chains differ by little"],
    isSameChain(f) ? [-0.8, "at both ends"] : apartDb(f) >= 2 ? [1.2, "at one end alone"] : [0, ""],
    isSudden(f) ? [0.8, "it came within days"] : [-1, "it came slowly"],
  ],
  polarization: (f) => [
    f.rateLost > 0.15
      ? [2, `${percent(f.rateLost)} of the rate lost beyond what the level explains`]
      : [-1.5, "the rate fell no more than the level explains"],
    worstNoise(f) < 1.5 ? [0.8, "without more noise"] : [-2, "noise rose"],
    isSudden(f) ? [0.5, "it came within days"] : [-1, "it came slowly"],
    f.windRank >= 0.9 ? [-0.3, "in wind"] : [0.4, "in no storm"],
  ],
  ice: (f) => [
    f.lowestC !== null && f.lowestC <= 1 ? [2.2, `at ${figure(f.lowestC, 0)} °C`] : [-4, "it was not freezing"],
    f.hasEnded && f.lastedDays < 25 ? [1.6, "and went by itself"] : [-1, "it stayed"],
    apartDb(f) < 2 ? [0.5, "both chains alike"] : [-0.5, "the chains differ"],
  ],
  outsider: (f, isOurs) => [
    worstNoise(f) >= 1.5 ? [1.5, `noise ${figure(worstNoise(f))} dB up`] : [-2, "noise did not rise"],
    isOurs ? [-1.5, "the plan was changed in those days"] : [0.8, "nothing of the plan was changed"],
  ],
  ownChange: (f, isOurs) => [
    isOurs ? [2.5, "the plan was changed in those days"] : [-4, "nothing of the plan was changed"],
  ],
  firmware: (f) => [
    f.sameHourShare >= 0.7
      ? [2.5, `${percent(f.sameHourShare)} of the restarts within the same hour`]
      : [-1.5, "at any hour"],
  ],
  supplyFault: (f) => [f.sameHourShare < 0.5 ? [1, "at any hour"] : [-1.5, "at the same hour"]],
  battery: (f) => [
    f.fullSupplyPercent > -1.5 ? [1.5, "by day it is as full as before"] : [-1.5, "it is no longer full by day"],
    isSlowSupply(f) ? [0.5, "over weeks"] : [0, ""],
  ],
  shade: (f) => [
    f.fullSupplyPercent <= -1.5
      ? [1.8, `by day ${figure(-f.fullSupplyPercent)} % lower than before`]
      : [-1.5, "by day it is as full as before"],
  ],
  overload: () => [[0, "busy hours without any room"]],
  outage: () => [[0, "nothing came from either end"]],
  prediction: () => [[0, "it never did what was predicted"]],
};

const apartDb = ({ imbalanceDb: { a, b } }: Features) => Math.max(Math.abs(a), Math.abs(b));
const worstNoise = ({ noiseDb: { a, b } }: Features) => Math.max(a, b);
const isSlowSupply = ({ lastedDays }: Features) => lastedDays > 20;
/** The same chain weaker at both ends: what a joint loses it loses both ways. */
const isSameChain = ({ imbalanceDb: { a, b } }: Features) =>
  Math.sign(a) === Math.sign(b) && Math.min(Math.abs(a), Math.abs(b)) >= 1;

/** Causes that these signals can have, most likely first, with odds that add up to 1. */
export function rankCauses(kinds: ReadonlySet<SignalKind>, features: Features, isOurChange: boolean): RankedCause[] {
  const open = new Set([...kinds].flatMap((kind) => OPEN_TO[kind]));
  const scored = [...open].map((cause) => {
    const evidence = EVIDENCE[cause](features, isOurChange);
    const score = evidence.reduce((sum, [weight]) => sum + weight, 0);
    const because = evidence.filter(([weight, words]) => weight >= 0 && words !== "").map(([, words]) => words);
    return { cause, score, because: because.join(", ") };
  });
  const total = scored.reduce((sum, { score }) => sum + Math.exp(score), 0);
  return scored
    .map(({ cause, score, because }) => ({ cause, odds: Math.exp(score) / total, because }))
    .sort((x, y) => y.odds - x.odds || (x.cause < y.cause ? -1 : 1));
}
