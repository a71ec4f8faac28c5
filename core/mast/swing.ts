import { signedAngleDeg } from "../geodesy";
import { MAST_SIDEWAYS_M } from "./coupling";
import type { OnMast } from "./mast";
import { windAreaOf } from "./wind";

/** Two antennas of one mast that strike each other when one is turned through its range. */
export interface Strike {
  upperId: string;
  lowerId: string;
  /** Their heights' difference, and the least at which one passes over the other, m. */
  apartM: number;
  neededM: number;
}

/** What must be left between two antennas while one is turned, for hands, bolts and cables, m. */
export const SWING_GAP_M = 0.1;
/** Those that look farther apart than this hang on other sides of the mast, degrees. */
const OTHER_SIDE_DEG = 60;
/** An antenna stands off its pole by about so much on its bracket, m. */
const STAND_OFF_M = 0.1;

/**
 * Antennas of one mast that cannot be turned past each other: their housings, by the sizes that the wind is reckoned with, overlap in
 * height, and the circles that they sweep about their poles, taken to stand 0.5 m apart, meet. Those that look more than 60° apart hang on
 * other sides of the mast. `hung` as `radiosOnMast` gives it, from the top down.
 */
export function strikesOn(hung: readonly OnMast[]): Strike[] {
  const sized = hung.map(({ end, headingDeg }) => ({ radio: end.radio, headingDeg, ...windAreaOf(end.antenna) }));
  const isOtherSide = (one: number | null, other: number | null) =>
    one !== null && other !== null && Math.abs(signedAngleDeg(one - other)) > OTHER_SIDE_DEG;
  return sized.flatMap((upper, i) =>
    sized.slice(i + 1).flatMap((lower): Strike[] => {
      const sweptM = (upper.widthM + lower.widthM) / 2 + 2 * STAND_OFF_M + SWING_GAP_M;
      const neededM = (upper.heightM + lower.heightM) / 2 + SWING_GAP_M;
      const apartM = upper.radio.heightM - lower.radio.heightM;
      if (sweptM <= MAST_SIDEWAYS_M || apartM >= neededM - SAME_M) return [];
      if (isOtherSide(upper.headingDeg, lower.headingDeg)) return [];
      return [{ upperId: upper.radio.id, lowerId: lower.radio.id, apartM, neededM }];
    }),
  );
}
/** Rounding of heights. */
const SAME_M = 1e-6;
