import { patternLossDb, peakGainDbi } from "../antenna";
import { signedAngleDeg } from "../geodesy";
import type { LinkEnd } from "../plan";
import { mastIsolationDb } from "./isolation";

/** Two antennas on one mast are taken to hang so far apart sideways, m. */
export const MAST_SIDEWAYS_M = 0.5;

type Hung = Pick<LinkEnd, "radio" | "antenna">;

/** An antenna's gain toward its neighbour on one mast, dBi, by how far apart the two look. */
function gainToNeighbourDbi({ radio, antenna }: Hung, apartDeg: number, frequencyMHz: number): number {
  // Antennas that look the same way stand side by side, those that look apart have each other behind them.
  const offDeg = 90 + apartDeg / 2;
  return peakGainDbi(antenna, frequencyMHz, radio.polarization) - patternLossDb(antenna, radio.polarization, offDeg, 0);
}

/** Loss between two antennas of one mast, dB, and what it is made of: heights, headings and patterns. */
export function couplingOf(
  from: Hung,
  fromHeadingDeg: number,
  to: Hung,
  toHeadingDeg: number,
  frequencyMHz: number,
): { isolationDb: number; verticalM: number; horizontalM: number; fromGainDbi: number; toGainDbi: number } {
  const apartDeg = Math.abs(signedAngleDeg(fromHeadingDeg - toHeadingDeg));
  const verticalM = Math.abs(from.radio.heightM - to.radio.heightM);
  const fromGainDbi = gainToNeighbourDbi(from, apartDeg, frequencyMHz);
  const toGainDbi = gainToNeighbourDbi(to, apartDeg, frequencyMHz);
  const isolationDb = mastIsolationDb({
    verticalM,
    horizontalM: MAST_SIDEWAYS_M,
    frequencyGHz: frequencyMHz / 1000,
    aGainDbi: fromGainDbi,
    bGainDbi: toGainDbi,
  });
  return { isolationDb, verticalM, horizontalM: MAST_SIDEWAYS_M, fromGainDbi, toGainDbi };
}
