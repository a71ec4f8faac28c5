import { figureAt, isUntold, linkDays, SIDES, type LinkDay } from "./days";
import { median } from "../statistics";
import { firstDayOf, monthOfDay } from "./months";
import type { OtherSeason } from "./otherSeason";
import { pathResidualDb } from "./signals";
import { AT, METRIC_COUNT } from "./metrics";
import type { Delivered, HourSeries, WatchedLink } from "./watched";

/** How a link does, by line and glyph first: as promised, below it, silent, or not known. */
export const WATCH_STATES = ["asPromised", "below", "silent", "unknown"] as const;
export type WatchState = (typeof WATCH_STATES)[number];

/** A month of a link since it first reported: hours asked, hours up (parts of them counted), and hours at half the promised rate or better. */
export interface LinkMonth {
  month: number;
  hoursAsked: number;
  hoursUp: number;
  hoursGood: number;
  /** Median of what the days stood from the promise, dB; null without any. */
  deviationDb: number | null;
}

/** What was delivered of a link against what was promised. */
export interface LinkWatch {
  linkId: string;
  state: WatchState;
  /** Newest day of which anything is known, days since 1970; null for none. */
  lastDay: number | null;
  /** Median of the last week: what both ends together stood from the promise for that time of the year, dB. */
  deviationDb: number | null;
  /** Of the last week too: level on one chain at each end, and the worse share of the promised rate. */
  levelDbm: { a: number | null; b: number | null };
  /** Noise on one chain at each end, dBm. */
  noiseDbm: { a: number | null; b: number | null };
  rateShare: number | null;
  /** Per cent of the hours asked, over all that is known. */
  upPercent: number | null;
  goodPercent: number | null;
  worstMonth: { month: number; upPercent: number } | null;
  promised: Pick<WatchedLink, "availabilityPercent" | "worstMonthPercent" | "availabilityBound" | "levelDbm">;
  months: LinkMonth[];
  /** What a link through trees did at the other time of the year; left out where nobody looked for it. */
  otherSeason?: OtherSeason | null;
}

const LAST_DAYS = 7;
/** Hours at less than this share of the promised rate are bad ones. */
const GOOD_SHARE = 0.5;
/** Months with less known than this are no months to be the worst one, hours. */
export const FEWEST_HOURS = 24 * 7;

/** An hour of a link: not asked, silent, bad or good. */
type HourState = 0 | 1 | 2 | 3;
export function hourState(
  link: WatchedLink,
  { a, b, asked }: Delivered,
  hour: number,
  usual = usualCount({ a, b }),
): HourState {
  const rates = { a: figureAt(a, "mean", "rateMbps", hour), b: figureAt(b, "mean", "rateMbps", hour) };
  if (toldShare({ a, b }, hour, usual) < MOSTLY_UP)
    return asked === null || figureAt(asked, "most", "seriesTold", hour) !== null ? 1 : 0;
  const isGood = SIDES.every((side) => rates[side] === null || rates[side] >= GOOD_SHARE * link.rateMbps[side]);
  return isGood ? 3 : 2;
}

/** An hour counts as up in the calendar where at least so much of it was reported. */
const MOSTLY_UP = 0.5;

/** Reports of one end in an hour: of its signal or its rate, whichever came more often. */
function countAt({ hours, fromHour, toldHours }: HourSeries, hour: number): number {
  if (toldHours && (hour < toldHours[0] || hour >= toldHours[1])) return 0;
  const slot = hour - fromHour;
  if (slot < 0 || slot >= hours.slots) return 0;
  const at = slot * METRIC_COUNT;
  return Math.max(hours.count[at + AT.level0Dbm]!, hours.count[at + AT.rateMbps]!);
}
const reportsAt = ({ a, b }: Ends, hour: number): number => Math.max(countAt(a, hour), countAt(b, hour));
type Ends = Pick<Delivered, "a" | "b">;

/** Reports that a link usually sends in an hour: the median of the hours in which it sent any; 0 where it never did. */
function usualCount({ a, b }: Ends): number {
  const counts: number[] = [];
  const from = Math.min(a.fromHour, b.fromHour);
  const to = Math.max(a.fromHour + a.hours.slots, b.fromHour + b.hours.slots);
  for (let hour = from; hour < to; hour++) {
    const count = reportsAt({ a, b }, hour);
    if (count > 0) counts.push(count);
  }
  return median(counts) ?? 0;
}

/** How much of an hour a link was up: its reports over those that it usually sends; one report of sixty is a minute, not an hour. */
const toldShare = (ends: Ends, hour: number, usual: number): number =>
  usual === 0 ? 0 : Math.min(1, reportsAt(ends, hour) / usual);

/** The first hour in which a link reported anything; Infinity where it never did. */
function firstTold({ a, b }: Ends): number {
  const to = Math.max(a.fromHour + a.hours.slots, b.fromHour + b.hours.slots);
  for (let hour = Math.min(a.fromHour, b.fromHour); hour < to; hour++) if (reportsAt({ a, b }, hour) > 0) return hour;
  return Infinity;
}

/** Sums a link's delivery up; `days` are those of `linkDays` where they are at hand already. */
export function watchSummary(
  link: WatchedLink,
  delivered: Delivered,
  days: readonly LinkDay[] = linkDays(link, delivered),
): LinkWatch {
  const isKnown = ({ a, b }: LinkDay) => a.hoursKnown + b.hoursKnown > 0;
  const last = days.findLast(isKnown) ?? null;
  const lastAsked = days.findLast(({ hoursAsked }) => hoursAsked > 0) ?? null;
  const recent = last ? days.filter(({ day }) => day > last.day - LAST_DAYS && day <= last.day) : [];
  const middle = (read: (day: LinkDay) => number | null) => median(recent.flatMap((day) => read(day) ?? []));
  const months = monthsOf(link, delivered, days);
  const hoursAsked = sum(months.map((month) => month.hoursAsked));
  // Of a link that never told anything nobody knows whether it is up.
  const share = (hours: number) => (hoursAsked === 0 || last === null ? null : (100 * hours) / hoursAsked);
  const full = months.filter((month) => month.hoursAsked >= FEWEST_HOURS);
  const worst = full.reduce<LinkMonth | null>(
    (low, month) => (low === null || month.hoursUp / month.hoursAsked < low.hoursUp / low.hoursAsked ? month : low),
    null,
  );
  const deviationDb = middle(pathResidualDb);
  const rates = SIDES.flatMap((side) => middle((day) => day[side].rateShare) ?? []);
  const isSilent = last !== null && lastAsked !== null && lastAsked.day > last.day;
  const isBelow =
    (deviationDb !== null && deviationDb < -link.bandDb) || (rates.length > 0 && Math.min(...rates) < GOOD_SHARE);
  return {
    linkId: link.linkId,
    state: last === null ? "unknown" : isSilent ? "silent" : isBelow ? "below" : "asPromised",
    lastDay: last?.day ?? null,
    deviationDb,
    levelDbm: {
      a: middle(({ a }) => (a.deviationDb === null ? null : a.deviationDb + link.levelDbm.a)),
      b: middle(({ b }) => (b.deviationDb === null ? null : b.deviationDb + link.levelDbm.b)),
    },
    noiseDbm: { a: middle(({ a }) => a.noiseDbm), b: middle(({ b }) => b.noiseDbm) },
    rateShare: rates.length > 0 ? Math.min(...rates) : null,
    upPercent: share(sum(months.map(({ hoursUp }) => hoursUp))),
    goodPercent: share(sum(months.map(({ hoursGood }) => hoursGood))),
    worstMonth: last && worst && { month: worst.month, upPercent: (100 * worst.hoursUp) / worst.hoursAsked },
    promised: {
      availabilityPercent: link.availabilityPercent,
      worstMonthPercent: link.worstMonthPercent,
      availabilityBound: link.availabilityBound,
      levelDbm: link.levelDbm,
    },
    months,
  };
}

function monthsOf(link: WatchedLink, delivered: Delivered, days: readonly LinkDay[]): LinkMonth[] {
  const months = new Map<number, LinkMonth & { deviations: number[] }>();
  // Before it first reported a link was not built, or not watched: those hours say nothing of it.
  const begins = firstTold(delivered);
  const usual = usualCount(delivered);
  for (const day of days) {
    if (day.day * 24 + 24 <= begins) continue;
    const number = monthOfDay(day.day);
    let month = months.get(number);
    if (!month)
      months.set(
        number,
        (month = { month: number, hoursAsked: 0, hoursUp: 0, hoursGood: 0, deviationDb: null, deviations: [] }),
      );
    if (isUntold(day)) {
      month.hoursAsked += day.hoursAsked;
      continue;
    }
    for (let hour = Math.max(begins, day.day * 24); hour < day.day * 24 + 24; hour++) {
      const state = hourState(link, delivered, hour, usual);
      const up = toldShare(delivered, hour, usual);
      month.hoursAsked += state > 0 || up > 0 ? 1 : 0;
      month.hoursUp += up;
      month.hoursGood += state > 2 ? up : 0;
    }
    const deviation = pathResidualDb(day);
    if (deviation !== null) month.deviations.push(deviation);
  }
  return [...months.values()]
    .sort((x, y) => x.month - y.month)
    .map(({ deviations, ...month }) => ({ ...month, deviationDb: median(deviations) }));
}

/** A month's name as people write it, 2026-11. */
export const monthName = (month: number): string => new Date(firstDayOf(month) * 86_400_000).toISOString().slice(0, 7);

const sum = (values: readonly number[]) => values.reduce((total, value) => total + value, 0);
