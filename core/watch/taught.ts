import {
  correctionOf,
  fitReadings,
  mostSettling,
  oddsOf,
  spreadOf,
  type Learned,
  type LearnedCase,
  type LearnedReading,
  type OddsCase,
} from "../learn";
import { learnedCaseOf, spareDb, type LinkAnswer } from "../link";
import { linkEnds, type Link, type World } from "../plan";
import { judge, newestMeasurements, readLevelsDbm } from "../proof";
import type { LinkWatch } from "./summary";

/** A link as readings can teach about it. */
export interface Learnable {
  linkId: string;
  path: LearnedCase;
  /** Level of all chains together at each end by physics alone, dBm; what was learned is beside it. */
  physicsDbm: { a: number; b: number };
  learnedDb: number;
  /** What it has to spare by physics alone, dB. */
  spareDb: number;
}

/** What of a link readings can teach about; null where its path has no answer. */
export function learnableOf(world: World, link: Link, answer: LinkAnswer): Learnable | null {
  if (!answer.path) return null;
  const ends = linkEnds(world, link);
  const { aToB, bToA } = answer.path;
  const learnedDb = aToB.question.path.learned?.db ?? 0;
  return {
    ...{ linkId: link.id, path: learnedCaseOf(ends, answer.path), learnedDb },
    physicsDbm: { a: bToA.totalLevelDbm - learnedDb, b: aToB.totalLevelDbm - learnedDb },
    spareDb: spareDb(world.plan, ends, answer)! - learnedDb,
  };
}

/** A reading that taught something, with what its link is predicted without it: from the others alone. */
export interface TaughtBy {
  linkId: string;
  from: "proof" | "watch";
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
/** Everything that the page about learning shows. */
export interface LearnedPage {
  learned: Learned;
  taughtBy: TaughtBy[];
  /** Root mean square over all readings, dB: before, and held out after. */
  before: number;
  after: number;
  odds: LinkOdds[];
  expectedServed: number;
  settling: { linkId: string; movesIds: string[] } | null;
}

/** A reading of a plan that has changed by more than this since is of another link, dB. */
const OTHER_LINK_DB = 3;
const FOLDS = 10;
/** Links between which a settling reading is looked for. */
const MOST_DOUBTFUL = 400;

type ReadingOf = LearnedReading & Pick<TaughtBy, "linkId" | "from">;

/** Readings of today's links: proofs, and where the watch goes on, its last week. */
function readingsOf(world: World, learnable: readonly Learnable[], watched: readonly LinkWatch[]): ReadingOf[] {
  const proofs = newestMeasurements(world);
  const weeks = new Map(watched.map((one) => [one.linkId, one]));
  const strayed = new Set(
    [...world.alarms.values()].flatMap(({ state, linkIds }) => (state === "closed" ? [] : linkIds)),
  );
  return learnable.flatMap(({ linkId, path, physicsDbm, learnedDb }): ReadingOf[] => {
    const reading = proofs.get(linkId);
    const link = world.links.get(linkId)!;
    if (reading) {
      const { a, b } = linkEnds(world, link);
      const { aDbm, bDbm } = readLevelsDbm(a, b, reading);
      const meant = (reading.expectedADbm + reading.expectedBDbm) / 2;
      const today = (physicsDbm.a + physicsDbm.b) / 2 + learnedDb;
      // What most likely stands on a side lobe or lacks a chain teaches nothing about trees.
      const [lead] = judge(world.plan, a, b, reading).causes;
      const isOfThePath = !lead || lead.kind === "foliage" || lead.kind === "noise";
      if (!isOfThePath || Math.abs(meant - today) > OTHER_LINK_DB) return [];
      const errorDb = (aDbm + bDbm) / 2 - (physicsDbm.a + physicsDbm.b) / 2;
      return [{ linkId, path, errorDb, from: "proof" }];
    }
    const week = weeks.get(linkId);
    if (week?.deviationDb === null || week?.deviationDb === undefined || strayed.has(linkId)) return [];
    return [{ linkId, path, errorDb: week.deviationDb + learnedDb, from: "watch" }];
  });
}

/** What readings teach about a plan, what that makes of every link's odds, and which reading would settle most. */
export function learnedPage(world: World, learnable: readonly Learnable[], watched: readonly LinkWatch[]): LearnedPage {
  const readings = readingsOf(world, learnable, watched);
  const fit = fitReadings(readings);
  const folds = Math.min(FOLDS, readings.length);
  const withoutFold = Array.from(
    { length: folds },
    (_, fold) => fitReadings(readings.filter((_one, i) => i % folds !== fold)).learned,
  );
  const taughtBy = readings.map(({ linkId, from, path, errorDb }, i): TaughtBy => {
    const held = correctionOf(withoutFold[i % folds]!, path);
    const learnedErrorDb = errorDb - held.db;
    return { linkId, from, physicsErrorDb: errorDb, learnedErrorDb, strays: Math.abs(learnedErrorDb) / held.spreadDb };
  });
  const meanSquare = (errors: readonly number[]) =>
    errors.length === 0 ? 0 : Math.sqrt(errors.reduce((sum, error) => sum + error * error, 0) / errors.length);
  const inUse = world.plan.learned?.isOn ? world.plan.learned : null;
  const read = new Set(readings.map(({ linkId }) => linkId));
  const cases: OddsCase[] = [];
  const odds = learnable.flatMap(({ linkId, path, spareDb }): LinkOdds[] => {
    const link = world.links.get(linkId)!;
    if (link.kind !== "access") return [];
    const correctionDb = inUse ? correctionOf(inUse, path).db : 0;
    const spare = spareDb + correctionDb;
    cases.push({ id: linkId, path, spareDb: spare });
    const { b } = linkEnds(world, link);
    const people = world.subscribers.get(b.radio.subscriberId ?? "")?.people ?? 0;
    return [{ linkId, odds: oddsOf(spare, spreadOf(path, inUse)), people, correctionDb, isRead: read.has(linkId) }];
  });
  const doubtful = cases
    .map((one) => ({ one, doubt: Math.abs(one.spareDb) }))
    .sort((x, y) => x.doubt - y.doubt)
    .slice(0, MOST_DOUBTFUL)
    .map(({ one }) => one);
  const settling = mostSettling(fit, doubtful, new Set(doubtful.map(({ id }) => id).filter((id) => !read.has(id))));
  return {
    learned: fit.learned,
    taughtBy: taughtBy.sort((x, y) => y.strays - x.strays),
    before: meanSquare(taughtBy.map(({ physicsErrorDb }) => physicsErrorDb)),
    after: meanSquare(taughtBy.map(({ learnedErrorDb }) => learnedErrorDb)),
    odds: odds.sort((x, y) => Math.abs(x.odds - 0.5) - Math.abs(y.odds - 0.5)),
    expectedServed: odds.reduce((sum, one) => sum + one.odds, 0),
    settling: settling && { linkId: settling.id, movesIds: settling.movesIds },
  };
}
