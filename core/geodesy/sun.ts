import type { Place } from "./geodesic";

const RAD = Math.PI / 180;
const DAY_MS = 86_400_000;
/** 1 January 2000, noon. */
const J2000_MS = Date.UTC(2000, 0, 1, 12);

/**
 * Where the sun stands: azimuth from true north and height above the horizon without refraction, degrees. The Astronomical Almanac's
 * low-precision formulae: within 0.01° between 1950 and 2050.
 */
export function sunAt(
  { latDeg, lonDeg }: Pick<Place, "latDeg" | "lonDeg">,
  at: Date,
): { azimuthDeg: number; heightDeg: number } {
  const days = (at.getTime() - J2000_MS) / DAY_MS;
  const meanLongitude = 280.46 + 0.9856474 * days;
  const anomaly = (357.528 + 0.9856003 * days) * RAD;
  const ecliptic = (meanLongitude + 1.915 * Math.sin(anomaly) + 0.02 * Math.sin(2 * anomaly)) * RAD;
  const obliquity = (23.439 - 0.0000004 * days) * RAD;
  const rightAscension = Math.atan2(Math.cos(obliquity) * Math.sin(ecliptic), Math.cos(ecliptic));
  const declination = Math.asin(Math.sin(obliquity) * Math.sin(ecliptic));
  const siderealDeg = 280.46062 + 360.98564737 * days + lonDeg;
  const hour = siderealDeg * RAD - rightAscension;
  const lat = latDeg * RAD;
  const height = Math.asin(
    Math.sin(lat) * Math.sin(declination) + Math.cos(lat) * Math.cos(declination) * Math.cos(hour),
  );
  const azimuth = Math.atan2(-Math.sin(hour), Math.tan(declination) * Math.cos(lat) - Math.sin(lat) * Math.cos(hour));
  return { azimuthDeg: (azimuth / RAD + 360) % 360, heightDeg: height / RAD };
}
