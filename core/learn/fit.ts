import {
  areaOfTerm,
  noiseTermsOf,
  priorSd,
  termsOf,
  type Learned,
  type LearnedCase,
  type NoiseCase,
  type Taught,
} from "./cases";
import { choleskyOf, inverseBy, solved } from "./cholesky";

/** A reading: by how much it stood over its physical prediction, dB. */
export interface LearnedReading {
  path: LearnedCase;
  errorDb: number;
  /** What it counts for: several of one link count for one together. */
  share: number;
}

/** A reading of noise: by how much what comes from outside the plan stood over its physical prediction, dB. */
export interface NoiseReading {
  receiver: NoiseCase;
  errorDb: number;
}

/** What readings taught, with how all terms hang together. */
export interface Fit {
  taught: Taught;
  /** Readings, by their places, that stand so far from what all others predict that they teach nothing until somebody measures again. */
  outliers: number[];
  keys: string[];
  /** Covariance of the terms, row by row. */
  covariance: Float64Array;
}

/** Strays that are believed, dB; the first guess; and how often it is taken from what is left over. */
const STRAY_DB = [1, 8] as const;
const FIRST_STRAY_DB = 2.5;
const ROUNDS = 4;
const FEWEST_FOR_STRAY = 8;
/**
 * A reading counts the less, the farther it stands from what all others predict for it, and nothing from so far on, dB, or so many strays where
 * these are known: one wrong reading must not bend all, however few there are.
 */
const FARTHEST_DB = 6.2;
const FARTHEST_STRAYS = 3;

/** A reading leaves at least so much of itself to the others: rounding. */
const LEAST_LEFT = 1e-3;

/** A reading with how much of each term it has. */
interface Row {
  terms: [key: string, amount: number][];
  errorDb: number;
  share: number;
}

/**
 * Terms that explain readings best: Bayesian linear regression with independent normal priors about 0 (Bishop, "Pattern Recognition and
 * Machine Learning", §3.3). Each reading is held against what the others alone predict for it (leave one out), the worst is set aside until
 * none stands too far out, and the rest are weighed by Tukey's biweight (Beaton & Tukey 1974). Without readings every term stays at its
 * prior.
 */
function fitTerms(rows: readonly Row[]): Fit {
  const keys = [...new Set(rows.flatMap(({ terms }) => terms.map(([key]) => key)))].sort();
  const at = new Map(keys.map((key, i) => [key, i]));
  const count = new Map<string, number>();
  for (const { terms } of rows) for (const [key] of terms) count.set(key, (count.get(key) ?? 0) + 1);
  const n = keys.length;
  const cells = rows.map(({ terms }) => terms.map(([key, amount]) => ({ i: at.get(key)!, amount })));
  let strayDb: number = FIRST_STRAY_DB;
  const weights = rows.map(({ share }) => share);
  let values: Float64Array = new Float64Array(n);
  let lower: Float64Array = new Float64Array(n * n);
  const solve = () => {
    const precision = new Float64Array(n * n);
    const moments = new Float64Array(n);
    for (const [i, key] of keys.entries()) precision[i * n + i] = 1 / priorSd(key) ** 2;
    for (const [r, row] of cells.entries()) {
      const weight = weights[r]! / strayDb ** 2;
      for (const { i, amount } of row) {
        moments[i]! += weight * amount * rows[r]!.errorDb;
        for (const other of row) precision[i * n + other.i]! += weight * amount * other.amount;
      }
    }
    lower = choleskyOf(precision, n);
    values = solved(lower, moments);
  };
  const leftOver = (r: number) =>
    rows[r]!.errorDb - cells[r]!.reduce((sum, { i, amount }) => sum + amount * values[i]!, 0);
  /** How far a reading stands from what all others predict for it, by its leverage on the fit. */
  const aloneDb = (r: number): number => {
    if (weights[r] === 0) return leftOver(r);
    const row = new Float64Array(n);
    for (const { i, amount } of cells[r]!) row[i]! += amount;
    const by = solved(lower, row);
    const leverage = (cells[r]!.reduce((sum, { i, amount }) => sum + amount * by[i]!, 0) * weights[r]!) / strayDb ** 2;
    return leftOver(r) / Math.max(LEAST_LEFT, 1 - leverage);
  };
  const farthestDb = () => Math.max(FARTHEST_DB, rows.length < FEWEST_FOR_STRAY ? 0 : FARTHEST_STRAYS * strayDb);
  for (let round = 0; round < ROUNDS; round++) {
    solve();
    // The worst is set aside first: beside it others look wrong that are not.
    for (let aside = 0; aside < rows.length; aside++) {
      let [worst, worstDb] = [-1, farthestDb()];
      for (let r = 0; r < rows.length; r++) {
        if (weights[r] === 0) continue;
        const apartDb = Math.abs(aloneDb(r));
        if (apartDb > worstDb) [worst, worstDb] = [r, apartDb];
      }
      if (worst < 0) break;
      weights[worst] = 0;
      solve();
    }
    const apart = rows.map((_, r) => aloneDb(r));
    for (let r = 0; r < rows.length; r++)
      weights[r] = rows[r]!.share * Math.max(0, 1 - (apart[r]! / farthestDb()) ** 2) ** 2;
    // Too few tell nothing of what they stray by; the last round is for the terms.
    if (rows.length < FEWEST_FOR_STRAY || round === ROUNDS - 1) {
      solve();
      break;
    }
    const left = rows.map((_, r) => leftOver(r)).filter((_, r) => weights[r]! > 0);
    if (left.length === 0) break;
    const middle = [...left].map(Math.abs).sort((x, y) => x - y)[left.length >> 1]!;
    // The median of a normal's magnitudes is 0.6745 of its deviation; few readings fit better than they should.
    const spared = Math.sqrt(rows.length / Math.max(1, rows.length - Math.min(n, rows.length / 2)));
    strayDb = Math.min(STRAY_DB[1], Math.max(STRAY_DB[0], (middle / 0.6745) * spared));
  }
  const covariance = inverseBy(lower, n);
  const general = keys.filter((key) => areaOfTerm(key) === null);
  return {
    keys,
    covariance,
    outliers: rows.flatMap((_, r) => (weights[r] === 0 ? [r] : [])),
    taught: {
      strayDb,
      readings: rows.length,
      general,
      terms: keys.map((key, i) => ({
        key,
        value: values[i]!,
        sd: Math.sqrt(covariance[i * n + i]!),
        readings: count.get(key)!,
        with: general.map((other) => Number(covariance[i * n + at.get(other)!]!.toPrecision(4))),
      })),
    },
  };
}

/** What readings of levels teach. */
export const fitReadings = (readings: readonly LearnedReading[]): Fit =>
  fitTerms(readings.map(({ path, errorDb, share }) => ({ terms: termsOf(path), errorDb, share })));

/** What readings of noise teach. */
export const fitNoise = (readings: readonly NoiseReading[]): Fit =>
  fitTerms(readings.map(({ receiver, errorDb }) => ({ terms: noiseTermsOf(receiver), errorDb, share: 1 })));

/** What a correction says of one path, or of one receiver's noise. */
export interface Correction {
  /** To be added to the predicted level or noise, dB. */
  db: number;
  /** How far the truth may lie from it, without and with what any reading strays by. */
  sdDb: number;
  spreadDb: number;
  /** Readings that bear on it: those of the term that most of them taught. */
  readings: number;
  parts: [key: string, db: number][];
}

/** What of all that was taught a correction is worked out from. */
type Corrects = Pick<Taught, "terms" | "strayDb" | "general">;

/** The correction of one path; terms that were never read stay at 0, with their prior's doubt. */
export const correctionOf = (taught: Corrects, path: LearnedCase): Correction => correctionBy(taught, termsOf(path));

/** The correction of one receiver's noise from outside the plan; null where nothing was read that bears on it. */
export function noiseCorrectionOf({ noise }: Pick<Learned, "noise">, receiver: NoiseCase): Correction | null {
  if (!noise || noise.terms.length === 0) return null;
  const correction = correctionBy(noise, noiseTermsOf(receiver));
  return correction.readings > 0 ? correction : null;
}

function correctionBy(
  { terms, strayDb, general = [] }: Corrects,
  wanted: readonly [key: string, amount: number][],
): Correction {
  let [db, variance, readings] = [0, 0, 0];
  const parts: [string, number][] = [];
  const met: { term: Taught["terms"][number]; amount: number; at: number }[] = [];
  for (const [key, amount] of wanted) {
    const term = terms.find((one) => one.key === key);
    const sd = term?.sd ?? priorSd(key);
    variance += (amount * sd) ** 2;
    if (!term) continue;
    const at = general.indexOf(key);
    // What one term has too much another has too little: their sum is surer than either.
    for (const other of met) {
      const shared = (other.at < 0 ? undefined : term.with?.[other.at]) ?? (at < 0 ? undefined : other.term.with?.[at]);
      variance += 2 * amount * other.amount * (shared ?? 0);
    }
    met.push({ term, amount, at });
    db += amount * term.value;
    parts.push([key, amount * term.value]);
    readings = Math.max(readings, term.readings);
  }
  // Two areas' terms are taken to vary apart, so that a sum may come out below zero where little is left.
  variance = Math.max(0, variance);
  return { db, sdDb: Math.sqrt(variance), spreadDb: Math.sqrt(variance + strayDb ** 2), readings, parts };
}

/** How two paths' corrections vary together, dB². */
export function covarianceOf({ keys, covariance }: Fit, one: LearnedCase, other: LearnedCase): number {
  const n = keys.length;
  let sum = 0;
  const mine = termsOf(one);
  const theirs = termsOf(other);
  for (const [key, amount] of mine)
    for (const [otherKey, amount2] of theirs) {
      const [i, j] = [keys.indexOf(key), keys.indexOf(otherKey)];
      if (i >= 0 && j >= 0) sum += amount * amount2 * covariance[i * n + j]!;
      // A term that was never read varies by its prior, with itself alone.
      else if (key === otherKey) sum += amount * amount2 * priorSd(key) ** 2;
    }
  return sum;
}
