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

/** What Bullington's construction asks of a profile; slopes in m/km. */
interface Horizons {
  /** Slope of the straight line between the ends. */
  lineSlope: number;
  /** Steepest slope from either end over the bulging earth. */
  slopeFromTx: number;
  slopeFromRx: number;
  /** Greatest h·|h|/(d1·d2) of all points, h their height over the line: monotonic in v, without a root for each point. */
  largestVSquared: number;
}

/** The extremes of a profile as seen from its two ends; slopes in m/km. */
export interface ProfileExtremes extends Horizons {
  /** Sums of P.526-15 §4.5.2.1 for the smooth surface, over heights without bulge. */
  area: number;
  moment: number;
  /** Greatest height over the line without bulge where any is, else 0, and the steepest slopes from either end to what is over it. */
  highestM: number;
  flatSlopeTx: number;
  flatSlopeRx: number;
}

/**
 * One pass over a profile for all that its diffraction needs; a quotient is only taken where a product has shown it to be
 * the greatest so far. Refuses a height that is not a number: a hole is not sea level.
 */
export function extremesOf({ distancesKm, heightsM, txAmslM, rxAmslM, kFactor }: ProfileArgs): ProfileExtremes {
  const last = distancesKm.length - 1;
  const pathKm = distancesKm[last]!;
  const curvature = 500 / (kFactor * EARTH_RADIUS_KM);
  const lineSlope = (rxAmslM - txAmslM) / pathKm;
  let slopeFromTx = -Infinity;
  let slopeFromRx = -Infinity;
  let largestVSquared = -Infinity;
  let area = 0;
  let moment = 0;
  let highestM = 0;
  let flatSlopeTx = -Infinity;
  let flatSlopeRx = -Infinity;
  let before = distancesKm[0]!;
  let heightBefore = heightsM[0]!;
  for (let i = 1; i <= last; i++) {
    const fromKm = distancesKm[i]!;
    const flat = heightsM[i]!;
    const step = fromKm - before;
    area += step * (flat + heightBefore);
    moment += step * (flat * (2 * fromKm + before) + heightBefore * (fromKm + 2 * before));
    before = fromKm;
    heightBefore = flat;
    if (i === last) break;
    const toKm = pathKm - fromKm;
    const product = fromKm * toKm;
    const line = txAmslM + lineSlope * fromKm;
    const overLine = flat - line;
    if (overLine > 0) {
      if (overLine > highestM) highestM = overLine;
      if (overLine > flatSlopeTx * fromKm) flatSlopeTx = overLine / fromKm;
      if (overLine > flatSlopeRx * toKm) flatSlopeRx = overLine / toKm;
    }
    const height = flat + curvature * product;
    if (height - txAmslM > slopeFromTx * fromKm) slopeFromTx = (height - txAmslM) / fromKm;
    if (height - rxAmslM > slopeFromRx * toKm) slopeFromRx = (height - rxAmslM) / toKm;
    const above = height - line;
    const signedSquare = above * Math.abs(above);
    if (signedSquare > largestVSquared * product) largestVSquared = signedSquare / product;
  }
  if (area !== area) {
    const hole = Array.prototype.findIndex.call(heightsM, Number.isNaN);
    throw new RangeError(`heightsM[${hole}] is not a number; the profile has a hole`);
  }
  return {
    lineSlope,
    slopeFromTx,
    slopeFromRx,
    largestVSquared,
    area,
    moment,
    highestM,
    flatSlopeTx,
    flatSlopeRx,
  };
}

/** The index between the ends at which a slope that first rises and then falls along the path is greatest, beside its summit at `km`. */
function indexBeside(distancesKm: ArrayLike<number>, km: number): number {
  let low = 1;
  let high = distancesKm.length - 2;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (distancesKm[middle]! <= km) low = middle;
    else high = middle - 1;
  }
  return low;
}

/**
 * The same of points at one height of 0, as `extremesOf` would find them there. Seen from an antenna at height h the bulge
 * rises up to √(h/c) away and falls from there on, c the bulge's curvature: only the points on either side of that can be the steepest.
 */
export function horizonsOfSmooth({ distancesKm, txAmslM, rxAmslM, kFactor }: Omit<ProfileArgs, "heightsM">): Horizons {
  const last = distancesKm.length - 1;
  const pathKm = distancesKm[last]!;
  const curvature = 500 / (kFactor * EARTH_RADIUS_KM);
  const lineSlope = (rxAmslM - txAmslM) / pathKm;
  if (last < 2) return { lineSlope, slopeFromTx: -Infinity, slopeFromRx: -Infinity, largestVSquared: -Infinity };
  const fromTx = indexBeside(distancesKm, Math.sqrt(Math.max(0, txAmslM) / curvature));
  const fromRx = indexBeside(distancesKm, pathKm - Math.sqrt(Math.max(0, rxAmslM) / curvature));
  let slopeFromTx = -Infinity;
  let slopeFromRx = -Infinity;
  for (const i of [fromTx, Math.min(fromTx + 1, last - 1)]) {
    const fromKm = distancesKm[i]!;
    slopeFromTx = Math.max(slopeFromTx, curvature * (pathKm - fromKm) - txAmslM / fromKm);
  }
  for (const i of [fromRx, Math.min(fromRx + 1, last - 1)]) {
    const fromKm = distancesKm[i]!;
    slopeFromRx = Math.max(slopeFromRx, curvature * fromKm - rxAmslM / (pathKm - fromKm));
  }
  let largestVSquared = -Infinity;
  // Only where the ends see each other over the smooth earth is it asked for.
  if (slopeFromTx < lineSlope)
    for (let i = 1; i < last; i++) {
      const fromKm = distancesKm[i]!;
      const product = fromKm * (pathKm - fromKm);
      const above = curvature * product - txAmslM - lineSlope * fromKm;
      const signedSquare = above * Math.abs(above);
      if (signedSquare > largestVSquared * product) largestVSquared = signedSquare / product;
    }
  return { lineSlope, slopeFromTx, slopeFromRx, largestVSquared };
}

/** The loss that Bullington's construction gives for known extremes, dB. P.526-15 §4.5.1, eqs. 53–59. */
export function bullingtonOf(
  { distancesKm, txAmslM, rxAmslM, frequencyGHz }: Omit<ProfileArgs, "heightsM">,
  { lineSlope, slopeFromTx, slopeFromRx, largestVSquared }: Horizons,
): number {
  if (distancesKm.length < 3) return 0;
  const pathKm = distancesKm[distancesKm.length - 1]!;
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

/**
 * Diffraction loss in dB of a whole profile reduced to one equivalent edge (Bullington), end points excluded.
 * Source: ITU-R P.526-15 §4.5.1, eqs. 53–59. Refuses unequal or too short arrays and non-finite heights.
 */
export function bullingtonLossDb(args: ProfileArgs): number {
  requireProfile(args);
  return bullingtonOf(args, extremesOf(args));
}
