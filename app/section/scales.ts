import { earthBulgeM } from "#core/propagation";
import type { Profile } from "#core/terrain";

export interface Frame {
  width: number;
  height: number;
  left: number;
  right: number;
  top: number;
  bottom: number;
}

export interface Scales {
  x(km: number): number;
  y(amslM: number): number;
  kmAt(x: number): number;
  amslAt(y: number): number;
  lowM: number;
  highM: number;
}

/** Heights of the ground with the earth's bulge laid under it, so that the ray may be drawn straight. */
export function bulgedM(profile: Profile, kFactor: number): Float64Array {
  const pathKm = profile.distanceM / 1000;
  return Float64Array.from(profile.distancesKm, (km) =>
    earthBulgeM({ fromKm: km, toKm: Math.max(0, pathKm - km), kFactor }),
  );
}

/** `mirrored` draws the far end on the left, so that west stays left as on the plan. */
export function scalesFor(frame: Frame, pathKm: number, lowM: number, highM: number, mirrored: boolean): Scales {
  const plotWidth = frame.width - frame.left - frame.right;
  const plotHeight = frame.height - frame.top - frame.bottom;
  return {
    x: (km) => frame.left + (mirrored ? 1 - km / pathKm : km / pathKm) * plotWidth,
    y: (amslM) => frame.top + (1 - (amslM - lowM) / (highM - lowM)) * plotHeight,
    kmAt: (x) => (mirrored ? 1 - (x - frame.left) / plotWidth : (x - frame.left) / plotWidth) * pathKm,
    amslAt: (y) => lowM + (1 - (y - frame.top) / plotHeight) * (highM - lowM),
    lowM,
    highM,
  };
}

/** Round steps for an axis of about `count` ticks. */
export function niceTicks(low: number, high: number, count: number): number[] {
  const raw = (high - low) / count;
  const power = 10 ** Math.floor(Math.log10(raw));
  const step = [1, 2, 5, 10].map((m) => m * power).find((s) => s >= raw)!;
  const ticks: number[] = [];
  for (let tick = Math.ceil(low / step) * step; tick <= high + 1e-9; tick += step) ticks.push(Number(tick.toFixed(6)));
  return ticks;
}

/** The index of the sample nearest to a distance; samples need not stand evenly. */
export function nearestIndex(distancesKm: Float64Array, km: number): number {
  let low = 0;
  let high = distancesKm.length - 1;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (distancesKm[middle]! <= km) low = middle;
    else high = middle;
  }
  return km - distancesKm[low]! <= distancesKm[high]! - km ? low : high;
}
