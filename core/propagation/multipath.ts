import { requireWithin } from "./bounds";

/** What of a path multipath fading works on. */
export interface MultipathArgs {
  distanceKm: number;
  frequencyGHz: number;
  txAmslM: number;
  rxAmslM: number;
  fadeMarginDb: number;
  /** Point refractivity gradient not exceeded for 1 % of the year, N-units/km. */
  dN1?: number;
}

/** Multipath occurrence factor p₀, per cent: where the law of deep fades meets a fade of 0 dB. P.530-17 §2.3.1, eqs. 5 and 7. */
function occurrencePercent({ distanceKm, frequencyGHz, txAmslM, rxAmslM, dN1 = -400 }: MultipathArgs): number {
  requireWithin("distanceKm", distanceKm, 1e-6, 1e3);
  requireWithin("frequencyGHz", frequencyGHz, 0.03, 1000);
  const geoclimatic = 10 ** (-4.6 - 0.0027 * dN1);
  const inclinationMrad = Math.abs(rxAmslM - txAmslM) / distanceKm;
  return (
    geoclimatic *
    distanceKm ** 3.1 *
    (1 + inclinationMrad) ** -1.29 *
    frequencyGHz ** 0.8 *
    10 ** (-0.00089 * Math.min(txAmslM, rxAmslM))
  );
}

/**
 * Percentage of the worst month in which multipath fading exceeds `fadeMarginDb`, by the method for quick planning. It holds
 * for deep fades and understates shallow ones: see `multipathFadePercent`. Never above 100.
 * Source: ITU-R P.530-17 §2.3.1, eqs. 5, 7 and 8.
 */
export function multipathOutagePercent(args: MultipathArgs): number {
  return Math.min(100, occurrencePercent(args) * 10 ** (-args.fadeMarginDb / 10));
}

/**
 * Percentage of the worst month in which multipath fading exceeds `fadeMarginDb` ≥ 0, at any depth: the law of deep fades
 * from its transition on, an interpolation down to 0 dB above it. Source: ITU-R P.530-17 §2.3.2, eqs. 12 to 18.
 */
export function multipathFadePercent(args: MultipathArgs): number {
  const { fadeMarginDb } = args;
  requireWithin("fadeMarginDb", fadeMarginDb, 0, 1e4);
  const occurrence = occurrencePercent(args);
  const transitionDb = 25 + 1.2 * Math.log10(occurrence);
  if (fadeMarginDb >= transitionDb) return Math.min(100, occurrence * 10 ** (-fadeMarginDb / 10));
  const atTransition = occurrence * 10 ** (-transitionDb / 10);
  const qTransition = (-20 * Math.log10(-Math.log1p(-atTransition / 100))) / transitionDb;
  const qt =
    (qTransition - 2) / ((1 + 0.3 * 10 ** (-transitionDb / 20)) * 10 ** (-0.016 * transitionDb)) -
    4.3 * (10 ** (-transitionDb / 20) + transitionDb / 800);
  const q =
    2 +
    (1 + 0.3 * 10 ** (-fadeMarginDb / 20)) *
      10 ** (-0.016 * fadeMarginDb) *
      (qt + 4.3 * (10 ** (-fadeMarginDb / 20) + fadeMarginDb / 800));
  return -100 * Math.expm1(-(10 ** ((-q * fadeMarginDb) / 20)));
}
