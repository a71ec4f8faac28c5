import { dayOfYear } from "#core/watch";
import { normalAt, slowAt, uniformAt } from "./noise";

/** The weather of one hour at a place. */
export interface Weather {
  windMPerS: number;
  rainMmPerH: number;
  temperatureC: number;
  /** Of the clear sky's sun, 0 by night. */
  sun: number;
}

/** Storms a year, and how wet a year is. */
const STORM_EVERY_H = 24 * 24;
const RAIN_SHARE = 0.07;

/**
 * Weather of one hour since 1970, UTC taken as the clock of the place: a season by latitude, days and nights, fronts with rain and wind
 * of some days, storms. The same for the same seed and hour.
 */
export function weatherAt(seed: number, latDeg: number, hour: number): Weather {
  const day = Math.floor(hour / 24);
  const season = Math.cos((2 * Math.PI * (dayOfYear(day) - (latDeg < 0 ? 20 : 202))) / 365.25);
  const clock = hour % 24;
  const noon = Math.sin((Math.PI * (clock - 6)) / 12);
  const front = slowAt(seed, hour, 60);
  // The steepness of a shower within a front.
  const shower = slowAt(seed + 1, hour, 3);
  const isWet = front > 0.75 && uniformAt(seed + 2, Math.floor(hour / 2)) < RAIN_SHARE * 8;
  const rainMmPerH = isWet ? Math.max(0, 0.6 + 1.6 * (front - 0.75) + 2.2 * shower) : 0;
  const storm = Math.max(0, slowAt(seed + 3, hour, STORM_EVERY_H / 12) - 1.6);
  const windMPerS = Math.max(
    0.2,
    4.5 + 1.8 * slowAt(seed + 4, hour, 9) + 2 * Math.max(0, front) + 15 * storm + 0.7 * normalAt(seed + 5, hour),
  );
  const coldness = Math.abs(latDeg) / 3;
  const temperatureC =
    27 - coldness + (3 + Math.abs(latDeg) / 6) * season + 4 * noon + 2.5 * slowAt(seed + 6, hour, 70);
  const cloud = Math.max(0.15, Math.min(1, 0.8 - 0.35 * front));
  const height = Math.max(0, noon * (0.85 + 0.25 * season));
  return { windMPerS, rainMmPerH, temperatureC, sun: height * cloud };
}
