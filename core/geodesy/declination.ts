import magvarPackage from "magvar";
import type { Place } from "./geodesic";

/** Years for which the shipped coefficients are published. */
const DECLINATION_YEARS = { from: 2025, until: 2030 };

/** A date as a decimal year, e.g. 2 July 2026 ≈ 2026.5. */
function decimalYear(date: Date): number {
  const year = date.getUTCFullYear();
  const start = Date.UTC(year, 0, 1);
  return year + (date.getTime() - start) / (Date.UTC(year + 1, 0, 1) - start);
}

/**
 * Magnetic declination in degrees, east positive: magnetic azimuth = true azimuth − declination. Null outside the
 * years the model is published for. Source: World Magnetic Model 2025–2030.
 */
export function declinationDeg(place: Place, altitudeAmslM: number, date: Date): number | null {
  const year = decimalYear(date);
  if (year < DECLINATION_YEARS.from || year >= DECLINATION_YEARS.until) return null;
  return magvarPackage.magvar(place.latDeg, place.lonDeg, altitudeAmslM / 1000, year);
}
