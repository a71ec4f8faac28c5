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
  type LearnedCase,
  type LearnedReading,
  type NoiseCase,
  type NoiseReading,
  type OddsCase,
} from "../learn";
import { learnedCaseOf, spareDb, type LinkAnswer, type Tape } from "../link";
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
  /** What it has to spare with what was learned, where that is in use, dB. */
  spareDb: number;
  /** What each end hears. */
  noise: { a: HeardNoise; b: HeardNoise };
}

/** A receiver's noise on one chain by physics alone, by where it comes from. */
export interface HeardNoise {
  radioId: string;
  receiver: NoiseCase;
  thermalDbm: number;
  /** Thermal noise and what comes from outside the plan, as set and scanned, dBm. */
  outsideDbm: number;
  /** The plan's own transmitters, and outsiders with a place, mW. */
  ownMw: number;
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
    spareDb: spareDb(world.plan, ends, answer)!,
    noise: { a: heardNoise(bToA), b: heardNoise(aToB) },
  };
}

const milliwatts = (dbm: number) => 10 ** (dbm / 10);

function heardNoise({ noiseDbm, noise: { riseDb, outsideDb, learnedDb }, question: { to, path } }: Tape): HeardNoise {
  const thermalDbm = noiseDbm - riseDb;
  const { latDeg, lonDeg } = to.place;
  return {
    radioId: to.radio.id,
    receiver: { frequencyGHz: path.frequencyMHz / 1000, latDeg, lonDeg },
    thermalDbm,
    outsideDbm: thermalDbm + outsideDb - learnedDb,
    ownMw: milliwatts(noiseDbm) - milliwatts(thermalDbm + outsideDb),
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
  odds: LinkOdds[];
  expectedServed: number;
  settling: { linkId: string; movesIds: string[] } | null;
}

/** A reading of a plan that has changed by more than this since is of another link, dB. */
const OTHER_LINK_DB = 3;
const FOLDS = 10;
/** How far a receiver's noise may lie from its prediction where nothing was read that bears on it, dB. */
const UNTAUGHT_NOISE_DB = 6;
/** Links between which a settling reading is looked for. */
const MOST_DOUBTFUL = 400;

type ReadingOf = LearnedReading & Pick<TaughtBy, "linkId" | "from">;

/** What was read of a plan's links, and on which of them an alarm stands. */
interface Read {
  proofs: ReturnType<typeof newestMeasurements>;
  weeks: ReadonlyMap<string, LinkWatch>;
  strayed: ReadonlySet<string>;
}

/** Readings of today's links: proofs, and where the watch goes on, its last week. */
function readingsOf(world: World, learnable: readonly Learnable[], read: Read): ReadingOf[] {
  const { proofs, weeks, strayed } = read;
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

type NoiseReadingOf = NoiseReading & Pick<NoiseTaughtBy, "linkId" | "from" | "radioId">;
/** Where the plan's own transmitters make more than this share of what was read, it tells nothing of what comes from outside. */
const MOST_OWN_SHARE = 0.7;

/** Noise read today at each receiver: by the proof of a link, or by the last week of the watch; each receiver counts once. */
function noiseReadingsOf(learnable: readonly Learnable[], read: Read): NoiseReadingOf[] {
  const { proofs, weeks, strayed } = read;
  const byReceiver = new Map<string, NoiseReadingOf>();
  for (const { linkId, noise } of learnable) {
    if (strayed.has(linkId)) continue;
    const proof = proofs.get(linkId);
    const week = weeks.get(linkId);
    for (const side of ["a", "b"] as const) {
      const { radioId, receiver, thermalDbm, outsideDbm, ownMw } = noise[side];
      const proofDbm = (side === "a" ? proof?.noiseADbm : proof?.noiseBDbm) ?? null;
      // A week says more of noise than the minutes of a proof.
      const weekDbm = week?.noiseDbm[side] ?? null;
      const readDbm = weekDbm ?? proofDbm;
      if (readDbm === null || byReceiver.get(radioId)?.from === "watch") continue;
      const outsideMw = milliwatts(readDbm) - ownMw;
      if (ownMw > MOST_OWN_SHARE * milliwatts(readDbm)) continue;
      const errorDb = Math.max(thermalDbm, 10 * Math.log10(outsideMw)) - outsideDbm;
      byReceiver.set(radioId, { linkId, radioId, receiver, errorDb, from: weekDbm === null ? "proof" : "watch" });
    }
  }
  return [...byReceiver.values()];
}

/** Each reading held against what all but its own share of the readings teach, those that disagree most first. */
function heldOut<R extends { errorDb: number }, T extends TaughtBy>(
  readings: readonly R[],
  correctionBy: (others: readonly R[]) => (one: R) => Pick<Correction, "db" | "spreadDb">,
  told: (one: R, errors: Pick<TaughtBy, "physicsErrorDb" | "learnedErrorDb" | "strays">) => T,
): Lesson<T> {
  const folds = Math.min(FOLDS, readings.length);
  const withoutFold = Array.from({ length: folds }, (_, fold) =>
    correctionBy(readings.filter((_one, i) => i % folds !== fold)),
  );
  const taughtBy = readings.map((one, i) => {
    const { db, spreadDb } = withoutFold[i % folds]!(one);
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
  const known: Read = {
    proofs: newestMeasurements(world),
    weeks: new Map(watched.map((one) => [one.linkId, one])),
    strayed: new Set([...world.alarms.values()].flatMap(({ state, linkIds }) => (state === "closed" ? [] : linkIds))),
  };
  const readings = readingsOf(world, learnable, known);
  const fit = fitReadings(readings);
  const levels = heldOut(
    readings,
    (others) => {
      const { taught } = fitReadings(others);
      return ({ path }) => correctionOf(taught, path);
    },
    ({ linkId, from }, errors) => ({ linkId, from, ...errors }),
  );
  const noiseReadings = noiseReadingsOf(learnable, known);
  const noise = heldOut(
    noiseReadings,
    (others) => {
      const { taught } = fitNoise(others);
      return ({ receiver }) => noiseCorrectionOf({ noise: taught }, receiver) ?? { db: 0, spreadDb: UNTAUGHT_NOISE_DB };
    },
    ({ linkId, from, radioId }, errors) => ({ linkId, from, radioId, ...errors }),
  );
  const inUse = world.plan.learned?.isOn ? world.plan.learned : null;
  const read = new Set(readings.map(({ linkId }) => linkId));
  const cases: OddsCase[] = [];
  const odds = learnable.flatMap(({ linkId, path, spareDb }): LinkOdds[] => {
    const link = world.links.get(linkId)!;
    if (link.kind !== "access") return [];
    const correctionDb = inUse ? correctionOf(inUse, path).db : 0;
    cases.push({ id: linkId, path, spareDb });
    const { b } = linkEnds(world, link);
    const people = world.subscribers.get(b.radio.subscriberId ?? "")?.people ?? 0;
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
    odds: odds.sort((x, y) => Math.abs(x.odds - 0.5) - Math.abs(y.odds - 0.5)),
    expectedServed: odds.reduce((sum, one) => sum + one.odds, 0),
    settling: settling && { linkId: settling.id, movesIds: settling.movesIds },
  };
}
