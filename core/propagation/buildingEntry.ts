import { requireWithin } from "./bounds";

export type Construction = "traditional" | "thermally_efficient";

/** Model coefficients r…z of ITU-R P.2109-1 table 1. */
const COEFFICIENTS: Record<Construction, Record<"r" | "s" | "t" | "u" | "v" | "w" | "x" | "y" | "z", number>> = {
  traditional: { r: 12.64, s: 3.72, t: 0.96, u: 9.6, v: 2, w: 9.1, x: -3, y: 4.5, z: -2 },
  thermally_efficient: { r: 28.19, s: -3, t: 8.48, u: 13.5, v: 3.8, w: 27.8, x: -2.9, y: 9.4, z: -2.1 },
};

/** Inverse of the standard normal distribution (Acklam's rational fit, relative error under 1.2e-9). */
function inverseNormal(p: number): number {
  const a = [
    -39.69683028665376, 220.9460984245205, -275.9285104469687, 138.357751867269, -30.66479806614716, 2.506628277459239,
  ];
  const b = [-54.47609879822406, 161.5858368580409, -155.6989798598866, 66.80131188771972, -13.28068155288572];
  const c = [
    -0.007784894002430293, -0.3223964580411365, -2.400758277161838, -2.549732539343734, 4.374664141464968,
    2.938163982698783,
  ];
  const d = [0.007784695709041462, 0.3224671290700398, 2.445134137142996, 3.754408661907416];
  const horner = (coefficients: number[], x: number, start = 0) => coefficients.reduce((sum, k) => sum * x + k, start);
  if (p < 0.02425 || p > 0.97575) {
    const q = Math.sqrt(-2 * Math.log(Math.min(p, 1 - p)));
    const tail = horner(c, q) / (horner(d, q) * q + 1);
    return p < 0.5 ? tail : -tail;
  }
  const q = p - 0.5;
  const r = q * q;
  return (horner(a, r) * q) / (horner(b, r) * r + 1);
}

/**
 * Loss in dB on entering a building, not exceeded with `probability`, 0.08 to 100 GHz.
 * Source: ITU-R P.2109-1 §3, eqs. 1–10.
 */
export function buildingEntryLossDb({
  frequencyGHz,
  elevationDeg = 0,
  probability = 0.5,
  construction,
}: {
  frequencyGHz: number;
  elevationDeg?: number;
  probability?: number;
  construction: Construction;
}): number {
  requireWithin("frequencyGHz", frequencyGHz, 0.08, 100);
  requireWithin("elevationDeg", elevationDeg, -90, 90);
  requireWithin("probability", probability, 1e-6, 1 - 1e-6);
  const { r, s, t, u, v, w, x, y, z } = COEFFICIENTS[construction];
  const logF = Math.log10(frequencyGHz);
  const horizontalDb = r + s * logF + t * logF ** 2;
  const deviate = inverseNormal(probability);
  const first = deviate * (u + v * logF) + horizontalDb + 0.212 * Math.abs(elevationDeg);
  const second = deviate * (y + z * logF) + w + x * logF;
  return 10 * Math.log10(10 ** (0.1 * first) + 10 ** (0.1 * second) + 10 ** -0.3);
}
