import { patternLossDb, peakGainDbi } from "../antenna";
import { signedAngleDeg } from "../geodesy";
import type { LinkEnd } from "../plan";
import { freeSpaceLossDb } from "../propagation";
import { mastIsolationDb } from "./isolation";

/** Two antennas on one mast are taken to hang so far apart sideways, m. */
export const MAST_SIDEWAYS_M = 0.5;

type Hung = Pick<LinkEnd, "radio" | "antenna">;

/** How two antennas of one mast couple. */
export interface Coupling {
  /** Between their ports, dB. */
  isolationDb: number;
  /** Free space with both patterns counts, rather than the rule for near antennas. */
  isFree: boolean;
  verticalM: number;
  horizontalM: number;
  /** Gain of each toward the other, dBi. */
  fromGainDbi: number;
  toGainDbi: number;
}

/** An antenna's gain toward its neighbour on one mast, dBi, by how far apart the two look and how far the neighbour hangs above it. */
function gainToNeighbourDbi(
  { radio, antenna }: Hung,
  apartDeg: number,
  aboveDeg: number,
  frequencyMHz: number,
): number {
  // Antennas that look the same way stand side by side, those that look apart have each other behind them.
  const offDeg = 90 + apartDeg / 2;
  const mechanicalDeg = radio.tiltDownDeg ?? -antenna.electricalTiltDownDeg;
  const horizonDeg = mechanicalDeg * Math.cos((offDeg * Math.PI) / 180) + antenna.electricalTiltDownDeg;
  const elevationOffDeg = aboveDeg === 0 ? 0 : horizonDeg + aboveDeg;
  return (
    peakGainDbi(antenna, frequencyMHz, radio.polarization) -
    patternLossDb(antenna, radio.polarization, offDeg, elevationOffDeg)
  );
}

/**
 * Loss between two antennas of one mast, dB, and what it is made of: heights, headings and patterns. The rule for antennas above each
 * other grows with 40 log of the distance, for near fields: it is never more than free space over the slant distance with both patterns in
 * that direction (`isFree` says where this is what counts).
 */
export function couplingOf(
  from: Hung,
  fromHeadingDeg: number,
  to: Hung,
  toHeadingDeg: number,
  frequencyMHz: number,
): Coupling {
  const apartDeg = Math.abs(signedAngleDeg(fromHeadingDeg - toHeadingDeg));
  const verticalM = Math.abs(from.radio.heightM - to.radio.heightM);
  const fromGainDbi = gainToNeighbourDbi(from, apartDeg, 0, frequencyMHz);
  const toGainDbi = gainToNeighbourDbi(to, apartDeg, 0, frequencyMHz);
  const ruleDb = mastIsolationDb({
    verticalM,
    horizontalM: MAST_SIDEWAYS_M,
    frequencyGHz: frequencyMHz / 1000,
    aGainDbi: fromGainDbi,
    bGainDbi: toGainDbi,
  });
  const beside = {
    isolationDb: ruleDb,
    isFree: false,
    verticalM,
    horizontalM: MAST_SIDEWAYS_M,
    fromGainDbi,
    toGainDbi,
  };
  if (verticalM === 0) return beside;
  const upDeg = (Math.atan2(to.radio.heightM - from.radio.heightM, MAST_SIDEWAYS_M) * 180) / Math.PI;
  const [fromSlantDbi, toSlantDbi] = [
    gainToNeighbourDbi(from, apartDeg, upDeg, frequencyMHz),
    gainToNeighbourDbi(to, apartDeg, -upDeg, frequencyMHz),
  ];
  const distanceKm = Math.hypot(verticalM, MAST_SIDEWAYS_M) / 1000;
  const freeDb = Math.max(
    0,
    freeSpaceLossDb({ distanceKm, frequencyGHz: frequencyMHz / 1000 }) - fromSlantDbi - toSlantDbi,
  );
  if (ruleDb <= freeDb) return beside;
  return { ...beside, isolationDb: freeDb, isFree: true, fromGainDbi: fromSlantDbi, toGainDbi: toSlantDbi };
}
