import { requireWithin } from "./bounds";
import { EARTH_RADIUS_KM } from "./fresnel";
import { wavelengthM } from "./freeSpace";

export interface ProfileArgs {
  /** Distance of each profile point from the transmitter, km, increasing; the first is 0, the last the path length. */
  distancesKm: ArrayLike<number>;
  /** Height of each profile point above mean sea level, m, same length. */
  heightsM: ArrayLike<number>;
  txAmslM: number;
  rxAmslM: number;
  frequencyGHz: number;
  kFactor: number;
}

/**
 * Diffraction loss in dB of a single knife edge with parameter `v`; 0 for v ≤ −0.78.
 * Source: ITU-R P.526-15 §4.1, eq. 31.
 */
export function knifeEdgeLossDb(v: number): number {
  if (Number.isNaN(v)) throw new RangeError("v is NaN; it must be a number");
  if (v <= -0.78) return 0;
  return 6.9 + 20 * Math.log10(Math.sqrt((v - 0.1) ** 2 + 1) + v - 0.1);
}

/** Refuses profiles that are too short, of unequal length, or holed: a hole must never be taken for sea level. */
export function requireProfile({ distancesKm, heightsM, txAmslM, rxAmslM, frequencyGHz, kFactor }: ProfileArgs): void {
  const count = distancesKm.length;
  if (count < 2 || heightsM.length !== count) {
    throw new RangeError(
      `distancesKm has ${count} and heightsM ${heightsM.length} points; both need the same number, at least 2`,
    );
  }
  requireWithin("path length", distancesKm[count - 1]!, 1e-6, 1e4);
  requireWithin("frequencyGHz", frequencyGHz, 0.03, 1000);
  if (!(kFactor > 0)) throw new RangeError(`kFactor is ${kFactor}; it must be above 0`);
  if (!Number.isFinite(txAmslM + rxAmslM))
    throw new RangeError(`txAmslM is ${txAmslM} and rxAmslM ${rxAmslM}; both must be finite`);
}

/**
 * Diffraction loss in dB of a whole profile reduced to one equivalent edge (Bullington), end points excluded.
 * Source: ITU-R P.526-15 §4.5.1, eqs. 53–59. Refuses unequal or too short arrays and non-finite heights.
 */
export function bullingtonLossDb(args: ProfileArgs): number {
  requireProfile(args);
  const { distancesKm, heightsM, txAmslM, rxAmslM, frequencyGHz, kFactor } = args;
  const last = distancesKm.length - 1;
  const pathKm = distancesKm[last]!;
  const curvature = 500 / (kFactor * EARTH_RADIUS_KM);

  // One pass finds the steepest slope seen from either end and, for line of sight, the largest v²·sign:
  // v = h·√(2000·d/(λ·d1·d2)) is monotonic in h·|h|/(d1·d2), which needs no root per sample.
  const lineSlope = (rxAmslM - txAmslM) / pathKm;
  let slopeFromTx = -Infinity;
  let slopeFromRx = -Infinity;
  let largestVSquared = -Infinity;
  for (let i = 1; i < last; i++) {
    const fromKm = distancesKm[i]!;
    const toKm = pathKm - fromKm;
    const height = heightsM[i]! + curvature * fromKm * toKm;
    if (height !== height) throw new RangeError(`heightsM[${i}] is not a number; the profile has a hole`);
    const slopeTx = (height - txAmslM) / fromKm;
    if (slopeTx > slopeFromTx) slopeFromTx = slopeTx;
    const slopeRx = (height - rxAmslM) / toKm;
    if (slopeRx > slopeFromRx) slopeFromRx = slopeRx;
    const above = height - txAmslM - lineSlope * fromKm;
    const vSquared = (above * Math.abs(above)) / (fromKm * toKm);
    if (vSquared > largestVSquared) largestVSquared = vSquared;
  }
  if (last < 2) return 0;

  const lambdaM = wavelengthM(frequencyGHz);
  let v: number;
  if (slopeFromTx < lineSlope) {
    v = Math.sign(largestVSquared) * Math.sqrt((Math.abs(largestVSquared) * 0.002 * pathKm) / lambdaM);
  } else {
    const edgeKm = (rxAmslM - txAmslM + slopeFromRx * pathKm) / (slopeFromTx + slopeFromRx);
    const above = txAmslM + slopeFromTx * edgeKm - (txAmslM * (pathKm - edgeKm) + rxAmslM * edgeKm) / pathKm;
    v = above * Math.sqrt((0.002 * pathKm) / (lambdaM * edgeKm * (pathKm - edgeKm)));
  }
  const edgeLossDb = knifeEdgeLossDb(v);
  return edgeLossDb + (1 - Math.exp(-edgeLossDb / 6)) * (10 + 0.02 * pathKm);
}
