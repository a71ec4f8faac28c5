import { requireWithin } from "./bounds";

/**
 * Percentage of the worst month in which multipath fading exceeds `fadeMarginDb`, by the method for quick planning.
 * `dN1` is the point refractivity gradient not exceeded for 1 % of the year (N-units/km). Never above 100.
 * Source: ITU-R P.530-17 §2.3.1, eqs. 5, 7 and 8.
 */
export function multipathOutagePercent({
  distanceKm,
  frequencyGHz,
  txAmslM,
  rxAmslM,
  fadeMarginDb,
  dN1 = -400,
}: {
  distanceKm: number;
  frequencyGHz: number;
  txAmslM: number;
  rxAmslM: number;
  fadeMarginDb: number;
  dN1?: number;
}): number {
  requireWithin("distanceKm", distanceKm, 1e-6, 1e3);
  requireWithin("frequencyGHz", frequencyGHz, 0.03, 1000);
  const geoclimatic = 10 ** (-4.6 - 0.0027 * dN1);
  const inclinationMrad = Math.abs(rxAmslM - txAmslM) / distanceKm;
  const percent =
    geoclimatic *
    distanceKm ** 3.1 *
    (1 + inclinationMrad) ** -1.29 *
    frequencyGHz ** 0.8 *
    10 ** (-0.00089 * Math.min(txAmslM, rxAmslM) - fadeMarginDb / 10);
  return Math.min(100, percent);
}
