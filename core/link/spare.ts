import { isFeedAlone, wantedMarginDb, type LinkAnswer } from "./answer";
import type { Tape } from "./budget";
import { noiseSteps } from "./noiseSteps";
import type { LinkEnd, Plan } from "../plan";
import type { LearnedCase } from "../learn";
import { inLeafShare, leavesIn, woodPlace } from "./trees";

/** Where no modulation carries what is asked for, however strong it comes in, dB. */
const NEVER_DB = -99;

/**
 * Decibels that both directions could lose before the link no longer does what is asked of it: hold with the wanted margin, and carry
 * what the customer asks for. Below zero, what it lacks.
 */
export function spareDb(plan: Plan, { a, b }: { a: LinkEnd; b: LinkEnd }, { path }: LinkAnswer): number | null {
  if (!path) return null;
  const wantedDb = wantedMarginDb(plan, a.radio.frequencyMHz);
  const spare = (tape: Tape, demandMbps: number) => {
    const steps = noiseSteps(tape);
    if (steps.length === 0) return NEVER_DB;
    const enough = steps.findLast(({ rateMbps }) => rateMbps >= demandMbps);
    const rateDb = enough ? enough.mostNoiseDbm - tape.noiseDbm : NEVER_DB;
    return Math.min(tape.marginLeftDb - wantedDb, rateDb);
  };
  const { downMbps = 0, upMbps = 0 } = isFeedAlone(b.demand) ? {} : (b.demand ?? {});
  return Math.min(spare(path.aToB, downMbps), spare(path.bToA, upMbps));
}

/** An answered path as readings are sorted by, in the plan's season. */
export function learnedCaseOf(
  { season }: Pick<Plan, "season">,
  { a, b }: { a: LinkEnd; b: LinkEnd },
  path: NonNullable<LinkAnswer["path"]>,
): LearnedCase {
  return {
    frequencyGHz: a.radio.frequencyMHz / 1000,
    treesDb: path.trees.lossDb,
    diffractionDb: path.diffractionDb,
    inLeafShare: inLeafShare(path.trees.leafyShare, leavesIn(season)),
    wood: woodPlace(path.trees, a.place, b.place),
    latDeg: b.place.latDeg,
    lonDeg: b.place.lonDeg,
    isIndoors: a.behind !== "none" || b.behind !== "none",
  };
}
