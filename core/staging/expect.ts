import { peakGainDbi } from "../antenna";
import type { LinkEnd } from "../plan";
import { freeSpaceLossDb } from "../propagation";

/** How far apart two devices are tried on the bench, m. */
export const BENCH_M = 3;
/** Close to large antennas and beside their beams less is heard, but from a whole chain never less by more than this, dB. */
const MOST_BELOW_DB = 35;
/** Chains of one radio differ by no more than this when both are whole, dB. */
export const MOST_APART_DB = 6;

/** A chain that hears so much more than can arrive is measured wrong, or is not turned down, dB. */
const MOST_ABOVE_DB = 3;

/** What two devices should hear of each other on the bench. */
export interface BenchLevel {
  /** No chain can hear more, dBm: both antennas in each other's beam, far enough apart for one. */
  atMostDbm: number;
  /** What arrives at the least from a whole chain, dBm. */
  atLeastDbm: number;
  /** By how much they must look past each other, or be padded, so that the receiver is not driven too hard, dB; 0 for none. */
  weakenDb: number;
}

/**
 * Level at `to` of what `from` sends with its power down, in free space over 3 m (ITU-R P.525). It is a bound: at that distance large
 * antennas are in each other's near field, where they gain less than their sheets say.
 */
export function benchLevel(from: LinkEnd, to: LinkEnd): BenchLevel {
  const { frequencyMHz } = from.radio;
  const atMostDbm =
    from.model.powerMinDbm -
    from.radio.cableLossDb +
    peakGainDbi(from.antenna, frequencyMHz) -
    freeSpaceLossDb({ distanceKm: BENCH_M / 1000, frequencyGHz: frequencyMHz / 1000 }) +
    peakGainDbi(to.antenna, frequencyMHz) -
    to.radio.cableLossDb;
  return {
    atMostDbm,
    atLeastDbm: atMostDbm - MOST_BELOW_DB,
    weakenDb: Math.max(0, atMostDbm - to.model.overloadDbm),
  };
}

/** What is wrong with the levels of the chains that one device hears of another on the bench; null for nothing. */
export function levelProblem(levelsDbm: readonly number[], { atMostDbm, atLeastDbm }: BenchLevel): string | null {
  const strongest = Math.max(...levelsDbm);
  const weakest = Math.min(...levelsDbm);
  const told = (dbm: number) => `${dbm.toFixed(0).replace("-", "−")} dBm`;
  if (strongest > atMostDbm + MOST_ABOVE_DB)
    return `a chain hears ${told(strongest)}; no more than ${told(atMostDbm)} can arrive: its power is not down, or its gain is set wrong`;
  if (strongest - weakest > MOST_APART_DB)
    return `its chains hear ${told(strongest)} and ${told(weakest)}: a jumper is loose or a chain is dead`;
  if (weakest < atLeastDbm)
    return `it hears ${told(weakest)}; at least ${told(atLeastDbm)} arrive from a whole chain: look at its connectors`;
  return null;
}
