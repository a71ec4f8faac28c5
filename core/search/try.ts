import { checkOf, faultsOf } from "../findings";
import { weakestMarginDb, type LinkAnswer, type PathState } from "../link";
import { linkEnds, type Patch } from "../plan";
import { paperCriteria } from "../proof";
import { addedEur, type Change, type Trial } from "../trial";
import { costChangeText, figure } from "../words";

/** What a change makes of the links that matter to it. */
export interface TriedOutcome {
  state: PathState;
  served: boolean;
  /** Margin left on the weakest of them, dB. */
  marginDb: number;
  downMbps: number;
  upMbps: number;
  /** What keeps the weakest from being accepted, in words; empty where all criteria of the plan are met. */
  unmet: string;
}

/** One way out, tried on the whole of what it touches. */
export interface WayOut extends Change {
  kind: "height" | "kit" | "elsewhere" | "channel" | "band" | "move" | "relaySite" | "relayPeak";
  /** What it buys. */
  effect: string;
  /** What it leaves wrong, or costs others; empty where nothing. */
  caution: string;
  /** Price of the kit that comes and goes. */
  costEur: number;
  outcome: TriedOutcome;
}

/**
 * What the work of a kind is taken to cost beyond its kit, for ranking only: a climb, a new pole or a move, a mast with its
 * own power. Tejado's own round figures; a plan's wages are its own.
 */
export const WORK_EUR: Record<WayOut["kind"], number> = {
  channel: 0,
  height: 60,
  elsewhere: 60,
  kit: 80,
  band: 150,
  relaySite: 400,
  move: 900,
  relayPeak: 3000,
};

const RANK: Record<PathState, number> = { clear: 0, tight: 1, blocked: 2, unknown: 3 };
const worse = (x: PathState, y: PathState) => (RANK[x] >= RANK[y] ? x : y);

/** A change as tried, and what it makes of each of `linkIds`; null where one of them breaks a bound. */
export function tryPatches(
  before: Trial,
  patches: readonly Patch[],
  linkIds: readonly string[],
): { after: Trial; outcome: TriedOutcome; costEur: number } | null {
  const after = before.after(patches);
  const { world } = after;
  const outcome: TriedOutcome = {
    state: "clear",
    served: true,
    marginDb: Infinity,
    downMbps: Infinity,
    upMbps: Infinity,
    unmet: "",
  };
  for (const id of linkIds) {
    const link = world.links.get(id);
    if (!link) return null;
    const answer = after.answer(id);
    const broken = faultsOf(world, link, answer, null).some(({ check }) => checkOf(check).isBreaking);
    if (!answer.path || broken) return null;
    outcome.state = worse(outcome.state, answer.state);
    outcome.served &&= after.isServed(id);
    outcome.unmet ||=
      paperCriteria(world.plan, linkEnds(world, link), answer).find(({ passed }) => !passed)?.text ?? "";
    outcome.marginDb = Math.min(outcome.marginDb, weakestMarginDb(answer)!);
    const { downMbps, upMbps } = after.rates(id);
    outcome.downMbps = Math.min(outcome.downMbps, downMbps);
    outcome.upMbps = Math.min(outcome.upMbps, upMbps);
  }
  return { after, outcome, costEur: addedEur(before, after) };
}

/** An outcome in the figures that a planner asks for. */
export function effectText({ state, marginDb, downMbps, upMbps }: TriedOutcome, costEur: number): string {
  return `${state}; margin ${figure(marginDb)} dB; ${downMbps.toFixed(0)}/${upMbps.toFixed(0)} Mbit/s${costChangeText(costEur)}`;
}

/** Served and clear before served, served before only better, those that meet every criterion of the plan before others; then the cheaper with its work, then the smaller change. */
export function byOutcomeAndCost(x: WayOut, y: WayOut): number {
  const grade = ({ outcome }: WayOut) => (outcome.served ? 0 : 4) + RANK[outcome.state];
  const cost = ({ kind, costEur }: WayOut) => costEur + WORK_EUR[kind];
  return (
    grade(x) - grade(y) ||
    Number(x.outcome.unmet !== "") - Number(y.outcome.unmet !== "") ||
    cost(x) - cost(y) ||
    x.patches.length - y.patches.length ||
    y.outcome.marginDb - x.outcome.marginDb
  );
}

/** Whether an outcome is worth telling beside what there is now. Margin beyond what is wanted mends no intruded zone. */
export function isBetter(now: LinkAnswer, isServedNow: boolean, then: TriedOutcome): boolean {
  if (then.served !== isServedNow) return then.served;
  if (RANK[then.state] !== RANK[now.state]) return RANK[then.state] < RANK[now.state];
  const hasOtherTrouble = isServedNow && now.state !== "clear";
  return !hasOtherTrouble && then.marginDb > (weakestMarginDb(now) ?? -Infinity) + WORTH_DB;
}
const WORTH_DB = 3;
