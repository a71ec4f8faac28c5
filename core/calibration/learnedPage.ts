import {
  correctionOf,
  fitNoise,
  fitReadings,
  mostSettling,
  noiseCorrectionOf,
  oddsOf,
  spreadOf,
  type Correction,
  type Learned,
  type OddsCase,
} from "../learn";
import { customerOf, type World } from "../plan";
import { noiseReadingsOf, readingsOf, readOf, type Learnable, type ReadBy } from "./readings";
import type { LinkWatch } from "../watch";

/** A reading that taught something, with what its link is predicted without it: from the others alone. */
export interface TaughtBy extends ReadBy {
  /** How far it stood over physics alone, and over physics with what the other readings taught, dB. */
  physicsErrorDb: number;
  learnedErrorDb: number;
  /** In how many times what is usual. */
  strays: number;
}
export interface LinkOdds {
  linkId: string;
  odds: number;
  people: number;
  correctionDb: number;
  isRead: boolean;
}
/** Readings of one kind with what they are worth: root mean square over all of them, dB, before, and held out after. */
export interface Lesson<T extends TaughtBy> {
  taughtBy: T[];
  before: number;
  after: number;
}
/** A reading of noise is one receiver's, whichever of its links told it. */
export interface NoiseTaughtBy extends TaughtBy {
  radioId: string;
}
/** Everything that the page about learning shows. */
export interface LearnedPage extends Lesson<TaughtBy> {
  learned: Learned;
  noise: Lesson<NoiseTaughtBy>;
  /** Readings that stand so far from what all others predict that they teach nothing: they are asked about. */
  outliers: { linkId: string; from: TaughtBy["from"]; errorDb: number }[];
  odds: LinkOdds[];
  expectedServed: number;
  settling: { linkId: string; movesIds: string[] } | null;
}

const FOLDS = 10;
/** How far a receiver's noise may lie from its prediction where nothing was read that bears on it, dB. */
const UNTAUGHT_NOISE_DB = 6;
/** Links between which a settling reading is looked for. */
const MOST_DOUBTFUL = 400;

/** Each reading held against what all but its own share of the links teach, those that disagree most first. */
function heldOut<R extends { linkId: string; errorDb: number }, T extends TaughtBy>(
  readings: readonly R[],
  correctionBy: (others: readonly R[]) => (one: R) => Pick<Correction, "db" | "spreadDb">,
  told: (one: R, errors: Pick<TaughtBy, "physicsErrorDb" | "learnedErrorDb" | "strays">) => T,
): Lesson<T> {
  const links = [...new Set(readings.map(({ linkId }) => linkId))];
  const folds = Math.min(FOLDS, links.length);
  const foldOf = new Map(links.map((linkId, i) => [linkId, i % folds]));
  const withoutFold = Array.from({ length: folds }, (_, fold) =>
    correctionBy(readings.filter(({ linkId }) => foldOf.get(linkId) !== fold)),
  );
  const taughtBy = readings.map((one) => {
    const { db, spreadDb } = withoutFold[foldOf.get(one.linkId)!]!(one);
    const learnedErrorDb = one.errorDb - db;
    return told(one, {
      physicsErrorDb: one.errorDb,
      learnedErrorDb,
      strays: Math.abs(learnedErrorDb) / spreadDb,
    });
  });
  const meanSquare = (errors: readonly number[]) =>
    errors.length === 0 ? 0 : Math.sqrt(errors.reduce((sum, error) => sum + error * error, 0) / errors.length);
  return {
    before: meanSquare(taughtBy.map(({ physicsErrorDb }) => physicsErrorDb)),
    after: meanSquare(taughtBy.map(({ learnedErrorDb }) => learnedErrorDb)),
    taughtBy: taughtBy.sort((x, y) => y.strays - x.strays),
  };
}

/** What readings teach about a plan, what that makes of every link's odds, and which reading would settle most. */
export function learnedPage(world: World, learnable: readonly Learnable[], watched: readonly LinkWatch[]): LearnedPage {
  const known = readOf(world, watched);
  const readings = readingsOf(world, learnable, known);
  const fit = fitReadings(readings);
  const levels = heldOut(
    readings,
    (others) => {
      const { taught } = fitReadings(others);
      return ({ path }) => correctionOf(taught, path);
    },
    ({ linkId, from, leaves }, errors) => ({ linkId, from, leaves, ...errors }),
  );
  const noiseReadings = noiseReadingsOf(learnable, known);
  const noise = heldOut(
    noiseReadings,
    (others) => {
      const { taught } = fitNoise(others);
      return ({ receiver }) => noiseCorrectionOf({ noise: taught }, receiver) ?? { db: 0, spreadDb: UNTAUGHT_NOISE_DB };
    },
    ({ linkId, from, radioId }, errors) => ({ linkId, from, leaves: null, radioId, ...errors }),
  );
  const inUse = world.plan.learned?.isOn ? world.plan.learned : null;
  const read = new Set(readings.map(({ linkId }) => linkId));
  const cases: OddsCase[] = [];
  const odds = learnable.flatMap(({ linkId, path, spareDb }): LinkOdds[] => {
    const link = world.links.get(linkId)!;
    const customer = customerOf(world, link);
    if (!customer) return [];
    const correctionDb = inUse ? correctionOf(inUse, path).db : 0;
    cases.push({ id: linkId, path, spareDb });
    const { people } = customer;
    return [{ linkId, odds: oddsOf(spareDb, spreadOf(path, inUse)), people, correctionDb, isRead: read.has(linkId) }];
  });
  const doubtful = cases
    .map((one) => ({ one, doubt: Math.abs(one.spareDb) }))
    .sort((x, y) => x.doubt - y.doubt)
    .slice(0, MOST_DOUBTFUL)
    .map(({ one }) => one);
  const settling = mostSettling(fit, doubtful, new Set(doubtful.map(({ id }) => id).filter((id) => !read.has(id))));
  return {
    learned: { isOn: true, ...fit.taught, noise: fitNoise(noiseReadings).taught },
    ...levels,
    noise,
    outliers: fit.outliers.map((i) => {
      const { linkId, from, errorDb } = readings[i]!;
      return { linkId, from, errorDb };
    }),
    odds: odds.sort((x, y) => Math.abs(x.odds - 0.5) - Math.abs(y.odds - 0.5)),
    expectedServed: odds.reduce((sum, one) => sum + one.odds, 0),
    settling: settling && { linkId: settling.id, movesIds: settling.movesIds },
  };
}
