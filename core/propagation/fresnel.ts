import { requireWithin } from "./bounds";
import { wavelengthM } from "./freeSpace";

/** Mean earth radius used throughout Tejado, km. */
export const EARTH_RADIUS_KM = 6371;

/**
 * Radius in metres of Fresnel zone `zone` at a point `fromKm` from one end and `toKm` from the other.
 * Refuses negative distances and zones under 1. Source: ITU-R P.526-15 §2.1, eq. 1.
 */
export function fresnelRadiusM({
  fromKm,
  toKm,
  frequencyGHz,
  zone = 1,
}: {
  fromKm: number;
  toKm: number;
  frequencyGHz: number;
  zone?: number;
}): number {
  requireWithin("fromKm", fromKm, 0, 1e6);
  requireWithin("toKm", toKm, 0, 1e6);
  requireWithin("zone", zone, 1, 1e3);
  requireWithin("frequencyGHz", frequencyGHz, 0.03, 1000);
  const totalKm = fromKm + toKm;
  if (totalKm === 0) return 0;
  return Math.sqrt((zone * wavelengthM(frequencyGHz) * fromKm * toKm * 1000) / totalKm);
}

/**
 * Height in metres by which the earth of effective radius k·6371 km bulges into a straight line, at a point
 * `fromKm` and `toKm` from its ends. Negative k bends it the other way. Source: ITU-R P.530-17 §2.2.
 */
export function earthBulgeM({ fromKm, toKm, kFactor }: { fromKm: number; toKm: number; kFactor: number }): number {
  requireWithin("fromKm", fromKm, 0, 1e6);
  requireWithin("toKm", toKm, 0, 1e6);
  if (!Number.isFinite(kFactor) || kFactor === 0)
    throw new RangeError(`kFactor is ${kFactor}; it must be finite and not 0`);
  return (fromKm * toKm * 1000) / (2 * kFactor * EARTH_RADIUS_KM);
}
