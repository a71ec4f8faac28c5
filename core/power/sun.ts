import { usualClearness } from "./clearness";

/** Middle of each month as a day of the year, whose sun stands for the month's mean (Klein 1977). */
const MEAN_DAYS = [17, 47, 75, 105, 135, 162, 198, 228, 258, 288, 318, 344];
const SOLAR_CONSTANT_W_PER_M2 = 1367;
const GROUND_REFLECTS = 0.2;
const RADIANS = Math.PI / 180;
/**
 * Peak sun hours of each month (kWh/m² a day) on a panel that faces the equator, January first. Extraterrestrial radiation
 * of the month's mean day, times the clearness of the air (measured there, or null: the usual one of latitude and month); the diffuse share by Erbs, Klein and Duffie (1982), turned onto the panel by Liu and
 * Jordan's isotropic sky (Duffie and Beckman, Solar Engineering of Thermal Processes, 1.10.3, 2.12 and 2.19).
 */
export function monthlySunHours(latDeg: number, tiltDeg: number, clearness: number | null = null): number[] {
  const usual = usualClearness(latDeg);
  return MEAN_DAYS.map((day, month) => sunHoursOn(day, latDeg, tiltDeg, clearness ?? usual[month]!));
}

function sunHoursOn(day: number, latDeg: number, tiltDeg: number, clearness: number): number {
  const declination = 23.45 * Math.sin(((360 * (284 + day)) / 365) * RADIANS) * RADIANS;
  const latitude = latDeg * RADIANS;
  // A panel that is tilted toward the equator sees the sun as level ground does, that many degrees nearer to the equator.
  const seenFrom = (latDeg >= 0 ? latDeg - tiltDeg : latDeg + tiltDeg) * RADIANS;
  const sunset = sunsetAngle(latitude, declination);
  const flat =
    Math.cos(latitude) * Math.cos(declination) * Math.sin(sunset) + sunset * Math.sin(latitude) * Math.sin(declination);
  if (flat <= 0) return 0;
  const outsideKWh =
    (((24 / Math.PI) * SOLAR_CONSTANT_W_PER_M2) / 1000) * (1 + 0.033 * Math.cos(((360 * day) / 365) * RADIANS)) * flat;
  const groundKWh = outsideKWh * clearness;
  const tiltedSunset = Math.min(sunset, sunsetAngle(seenFrom, declination));
  const tilted =
    Math.cos(seenFrom) * Math.cos(declination) * Math.sin(tiltedSunset) +
    tiltedSunset * Math.sin(seenFrom) * Math.sin(declination);
  const beamFactor = Math.max(0, tilted) / flat;
  const diffuse = Math.max(0, Math.min(1, diffuseShare(clearness, sunset)));
  const sky = (1 + Math.cos(tiltDeg * RADIANS)) / 2;
  return groundKWh * ((1 - diffuse) * beamFactor + diffuse * sky + GROUND_REFLECTS * (1 - sky));
}

/** Hour angle at which the sun sets; π where it never does, 0 where it does not rise. */
const sunsetAngle = (latitude: number, declination: number) =>
  Math.acos(Math.max(-1, Math.min(1, -Math.tan(latitude) * Math.tan(declination))));

/** Diffuse share of a month's mean radiation by its clearness, for short and for long days. */
function diffuseShare(clearness: number, sunset: number): number {
  const k = Math.max(0.3, Math.min(0.8, clearness));
  return sunset <= 81.4 * RADIANS
    ? 1.391 - 3.56 * k + 4.189 * k ** 2 - 2.137 * k ** 3
    : 1.311 - 3.022 * k + 3.427 * k ** 2 - 1.821 * k ** 3;
}

/** Tilt from the horizontal that serves the dull half of the year: the latitude and 15° more, never steeper than 75°. */
export const winterTiltDeg = (latDeg: number): number => Math.min(75, Math.abs(latDeg) + 15);
