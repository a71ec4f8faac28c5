import { AT, emptyBuckets, METRIC_COUNT, type HourSeries, type Metric, type Side } from "#core/watch";
import { toldAt, type Memory, type SimulatedLink } from "./link";

/** The moment of each hour that stands for it. */
const MOMENT = 0.25;

function put(series: HourSeries, slot: number, metric: Metric, value: number): void {
  const cell = slot * METRIC_COUNT + AT[metric];
  const { least, mean, most, count } = series.hours;
  const before = count[cell]!;
  least[cell] = before === 0 ? value : Math.min(least[cell]!, value);
  most[cell] = before === 0 ? value : Math.max(most[cell]!, value);
  mean[cell] = (mean[cell]! * before + value) / (before + 1);
  count[cell] = before + 1;
}

/** What one end told over `count` hours from one on, faster than life. */
export function simulateHours(
  link: SimulatedLink,
  side: Side,
  fromHour: number,
  count: number,
  memory: Memory,
): HourSeries {
  const series = { fromHour, hours: emptyBuckets(count) };
  for (let slot = 0; slot < count; slot++) {
    const told = toldAt(link, side, fromHour + slot + MOMENT, memory);
    if (told) for (const metric in told) put(series, slot, metric as Metric, told[metric as Metric]!);
  }
  return series;
}

/** The weather of the same hours, as a station would tell it. */
export function weatherHours(fromHour: number, count: number, memory: Memory): HourSeries {
  const series = { fromHour, hours: emptyBuckets(count) };
  for (let slot = 0; slot < count; slot++) {
    const { windMPerS, rainMmPerH, temperatureC } = memory.weather(fromHour + slot);
    put(series, slot, "windMPerS", windMPerS);
    put(series, slot, "rainMmPerH", rainMmPerH);
    put(series, slot, "temperatureC", temperatureC);
  }
  return series;
}

/** How many series were told in each of those hours. */
export function askedHours(fromHour: number, count: number, told: number): HourSeries {
  const series = { fromHour, hours: emptyBuckets(count) };
  for (let slot = 0; slot < count; slot++) put(series, slot, "seriesTold", told);
  return series;
}
