import {
  bandFlatnessDb,
  beamwidthDeg,
  chainImbalanceDb,
  cutLossDb,
  firstSideLobe,
  patternLossDb,
  peakGainDbi,
} from "./gain";
import type { AntennaModel } from "./model";

/** Depths below the peak at which a beam's width is told. */
export const WIDTH_DEPTHS_DB = [3, 6, 12] as const;
const PLANES = ["azimuth", "elevation"] as const;
const POLARS = ["H", "V"] as const;

export interface CutFigures {
  plane: (typeof PLANES)[number];
  polarization: (typeof POLARS)[number];
  /** Full widths at −3, −6 and −12 dB, degrees. */
  widthsDeg: [number, number, number];
  /** The strongest side lobe within 90°, or null where the beam has none. */
  sideLobe: { offsetDeg: number; belowDb: number } | null;
  /** Weakest that the antenna is behind, 150° to 210° from its peak: the cut's own front-to-back, dB. */
  frontToBackDb: number;
}

/** What a planner wants to know of an antenna, worked out from its cuts. */
export interface AntennaFigures {
  cuts: CutFigures[];
  /** Peak gain at the lower edge, middle and upper edge of its band, dBi. */
  gains: { frequencyMHz: number; hDbi: number; vDbi: number }[];
  flatnessDb: number;
  /** One chain above the other at the edge of the −3 dB azimuth beam, either side, dB (positive: V above H). */
  imbalance: { atDeg: number; leftDb: number; rightDb: number };
  /** Loss of a pointing error, dB. */
  pointing: { errorDeg: number; lossDb: number }[];
}

/** The figures of one antenna. */
export function antennaFigures(antenna: AntennaModel): AntennaFigures {
  const cuts = PLANES.flatMap((plane) =>
    POLARS.map((polarization): CutFigures => {
      const cut = (plane === "azimuth" ? antenna.azimuthCuts : antenna.elevationCuts)[polarization];
      const widthsDeg = WIDTH_DEPTHS_DB.map((depth) => beamwidthDeg(cut, depth)) as CutFigures["widthsDeg"];
      let frontToBackDb = Infinity;
      for (let angle = 150; angle <= 210; angle++) frontToBackDb = Math.min(frontToBackDb, cutLossDb(cut, angle));
      return { plane, polarization, widthsDeg, sideLobe: firstSideLobe(cut), frontToBackDb };
    }),
  );
  const [low, high] = antenna.bandMHz;
  const gains = [low, (low + high) / 2, high].map((frequencyMHz) => ({
    frequencyMHz,
    hDbi: peakGainDbi(antenna, frequencyMHz, "H"),
    vDbi: peakGainDbi(antenna, frequencyMHz, "V"),
  }));
  const width = beamwidthDeg(antenna.azimuthCuts.V, 3);
  const atDeg = Math.min(180, Math.round(width) / 2);
  return {
    cuts,
    gains,
    flatnessDb: bandFlatnessDb(antenna),
    imbalance: { atDeg, leftDb: chainImbalanceDb(antenna, -atDeg), rightDb: chainImbalanceDb(antenna, atDeg) },
    pointing: [0.5, 1, 2, 5].map((errorDeg) => ({ errorDeg, lossDb: patternLossDb(antenna, "HV", errorDeg, 0) })),
  };
}

/**
 * How far an antenna hears, km: the distance in free space at which a transmitter of `eirpDbm` aimed at it arrives as strong
 * as the noise floor `noiseDbm`, `azimuthDeg` off its boresight. Hills and the horizon cut this short.
 */
export function hearingKm(
  antenna: AntennaModel,
  azimuthDeg: number,
  { eirpDbm, noiseDbm, frequencyMHz }: { eirpDbm: number; noiseDbm: number; frequencyMHz: number },
): number {
  const gainDbi = peakGainDbi(antenna, frequencyMHz) - patternLossDb(antenna, "HV", azimuthDeg, 0);
  // Free space, ITU-R P.525: 32.44 + 20 log f(MHz) + 20 log d(km).
  return 10 ** ((eirpDbm + gainDbi - noiseDbm - 32.44 - 20 * Math.log10(frequencyMHz)) / 20);
}

/**
 * Where the vertical beam meets flat ground, m from the mast: its lower −3 dB edge, its middle and its upper edge; null
 * where one looks over the horizon. `tiltDownDeg` is the bracket's, the electrical tilt comes on top.
 */
export function groundFootprintM(
  antenna: AntennaModel,
  heightM: number,
  tiltDownDeg: number,
): { nearM: number; middleM: number | null; farM: number | null } {
  const half = beamwidthDeg(antenna.elevationCuts.V, 3) / 2;
  const down = tiltDownDeg + antenna.electricalTiltDownDeg;
  const meets = (angleDeg: number) =>
    angleDeg > 0 ? heightM / Math.tan((Math.min(90, angleDeg) * Math.PI) / 180) : null;
  return { nearM: meets(down + half) ?? Infinity, middleM: meets(down), farM: meets(down - half) };
}
