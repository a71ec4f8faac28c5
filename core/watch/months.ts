import { emptyBuckets, FINE_A_DAY, rollUp, type Buckets } from "./buckets";
import { METRIC_COUNT } from "./metrics";
import type { HourSeries } from "./watched";

/** A month counted from January 1970, and its first day counted from the first of that month. */
export const monthOfDay = (day: number): number => {
  const date = new Date(day * 86_400_000);
  return (date.getUTCFullYear() - 1970) * 12 + date.getUTCMonth();
};
export const firstDayOf = (month: number): number =>
  Date.UTC(1970 + Math.floor(month / 12), ((month % 12) + 12) % 12, 1) / 86_400_000;
export const daysIn = (month: number): number => firstDayOf(month + 1) - firstDayOf(month);

const SLOTS_AN_HOUR = FINE_A_DAY / 24;

/** A month of one series by hours and by days; both are of whole months, and what is not known has no count. */
export interface MonthOfSeries {
  hours: Buckets;
  days: Buckets;
}
export const emptyMonth = (month: number): MonthOfSeries => ({
  hours: emptyBuckets(daysIn(month) * 24),
  days: emptyBuckets(daysIn(month)),
});

/** Lays a day of five-minute slots into its month, in place of whatever stood there of that day. */
export function layDay(into: MonthOfSeries, month: number, day: number, fine: Buckets): void {
  const at = day - firstDayOf(month);
  rollUp(fine, SLOTS_AN_HOUR, into.hours, at * 24);
  rollUp(fine, FINE_A_DAY, into.days, at);
}

/** A month that is known by hours alone, with its days. */
export function monthOfHours(hours: Buckets): MonthOfSeries {
  const days = emptyBuckets(hours.slots / 24);
  rollUp(hours, 24, days, 0);
  return { hours, days };
}

/** A day of five-minute slots by its hours. */
export function hoursOfDay(day: number, fine: Buckets): HourSeries {
  const hours = emptyBuckets(24);
  rollUp(fine, SLOTS_AN_HOUR, hours, 0);
  return { fromHour: day * 24, hours };
}

/** The hours, from `fromHour` on at most `count`, of which pieces tell something; none without any. */
export function toldSpan(fromHour: number, count: number, pieces: readonly HourSeries[]): [from: number, to: number] {
  let [from, to] = [fromHour + count, fromHour];
  for (const { fromHour: first, hours } of pieces) {
    const [start, end] = [Math.max(fromHour, first), Math.min(fromHour + count, first + hours.slots)];
    if (end > start) [from, to] = [Math.min(from, start), Math.max(to, end)];
  }
  return from < to ? [from, to] : [fromHour, fromHour];
}

/** Hours of one series from one on, laid together from pieces; later ones go before earlier ones. */
export function joinedHours(fromHour: number, count: number, pieces: readonly HourSeries[]): Required<HourSeries> {
  const hours = emptyBuckets(count);
  let [toldFrom, toldTo] = [fromHour + count, fromHour];
  for (const { fromHour: first, hours: known } of pieces) {
    const start = Math.max(fromHour, first);
    const end = Math.min(fromHour + count, first + known.slots);
    if (end <= start) continue;
    toldFrom = Math.min(toldFrom, start);
    toldTo = Math.max(toldTo, end);
    const [from, to] = [(start - first) * METRIC_COUNT, (end - first) * METRIC_COUNT];
    for (const key of ["least", "mean", "most", "count"] as const)
      hours[key].set(known[key].subarray(from, to), (start - fromHour) * METRIC_COUNT);
  }
  return { fromHour, hours, toldHours: [toldFrom, toldTo] };
}
