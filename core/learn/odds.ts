import { correctionOf, covarianceOf, noiseCorrectionOf, type Fit } from "./fit";
import type { Learned, LearnedCase } from "./cases";

/** Φ, the share of a normal distribution below `z`: Abramowitz and Stegun 26.2.17, to 7.5e-8. */
export function normalShare(z: number): number {
  const t = 1 / (1 + 0.2316419 * Math.abs(z));
  const density = Math.exp((-z * z) / 2) / Math.sqrt(2 * Math.PI);
  const tail =
    density * t * (0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))));
  return z >= 0 ? 1 - tail : tail;
}

/** What predictions stray by where nothing was read: terrain, pointing and clutter in the open, and shares of what trees and the ground take, dB. */
const OPEN_STRAY_DB = 3;
const TREES_SHARE = 0.35;
const GROUND_SHARE = 0.2;

/**
 * How far the truth may lie from a path's prediction, dB: learned where something was and it is on, with the doubt about its far end's
 * noise where that was read; else what is usual.
 */
export function spreadOf(path: LearnedCase, learned: Learned | null): number {
  const inUse = learned?.isOn ? learned : null;
  const levelDb =
    inUse && inUse.readings > 0
      ? correctionOf(inUse, path).spreadDb
      : Math.hypot(OPEN_STRAY_DB, TREES_SHARE * path.treesDb, GROUND_SHARE * path.diffractionDb);
  return Math.hypot(levelDb, (inUse && noiseCorrectionOf(inUse, path)?.spreadDb) ?? 0);
}

/** The odds that a link does what is asked of it that has so many decibels to spare (below zero: lacks). */
export const oddsOf = (spareDb: number, spreadDb: number): number => normalShare(spareDb / spreadDb);

/** A link whose odds are asked. */
export interface OddsCase {
  id: string;
  path: LearnedCase;
  spareDb: number;
}
/** A reading that would settle something: whose odds it moves, and by how much in all. */
interface SettlingReading {
  id: string;
  /** Links whose odds it moves by a twentieth or more, on average. */
  movesIds: string[];
  /** Odds moved, over all of them. */
  moved: number;
}

const WORTH_SAYING = 0.05;

/**
 * The reading that would settle most: of every link that was not read, how much its reading would move the odds of all others and its own
 * on average. A reading leaves each link's expectation a normal of the deviation by which it makes it surer.
 */
export function mostSettling(
  fit: Fit,
  links: readonly OddsCase[],
  candidates: ReadonlySet<string>,
): SettlingReading | null {
  const stray = fit.taught.strayDb ** 2;
  const own = links.map(({ path }) => covarianceOf(fit, path, path));
  let best: SettlingReading | null = null;
  for (const [i, one] of links.entries()) {
    if (!candidates.has(one.id)) continue;
    const movesIds: string[] = [];
    let moved = 0;
    for (const [j, other] of links.entries()) {
      const shared = i === j ? own[i]! : covarianceOf(fit, one.path, other.path);
      const surer = Math.abs(shared) / Math.sqrt(own[i]! + stray);
      if (surer < 0.2) continue;
      const spread = Math.sqrt(own[j]! + stray);
      const left = Math.sqrt(Math.max(0.01, spread ** 2 - surer ** 2));
      const now = oddsOf(other.spareDb, spread);
      // The mean move of the odds, from either side of one deviation.
      const move =
        (Math.abs(oddsOf(other.spareDb + surer, left) - now) + Math.abs(oddsOf(other.spareDb - surer, left) - now)) / 2;
      moved += move;
      if (move >= WORTH_SAYING) movesIds.push(other.id);
    }
    if (movesIds.length > 0 && (!best || moved > best.moved)) best = { id: one.id, movesIds, moved };
  }
  return best;
}
