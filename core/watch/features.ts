import { SIDES, type LinkDay, type Side } from "./days";
import { median } from "../statistics";
import { dayOfYear, leafShare } from "./season";
import { pathResidualDb, RATE_PER_DB, type Signal } from "./signals";
import type { WatchedLink } from "./watched";

/** What speaks for one cause and against another, around the day on which a link began to stray. */
export interface Features {
  /** What both directions lost, dB; below zero where they gained. */
  lossDb: number;
  /** How much of it was there within three days: near 1 a step, near 0 a slow drift. */
  suddenness: number;
  /** How the first chain came to stand against the second at each end, dB. */
  imbalanceDb: Record<Side, number>;
  /** How much the noise rose at each end, dB. */
  noiseDb: Record<Side, number>;
  /** Hours of the day, UTC, in which it was noisy on most days since, at the end where it rose more; empty where it is alike at all hours. */
  noisyHours: readonly number[];
  /** Share of the promised rate that was lost beyond what the level explains. */
  rateLost: number;
  /** Share of all days that were less windy than the worst day at the onset. */
  windRank: number;
  /** The same for the rain of the ten days up to the onset. */
  rainRank: number;
  /** Coldest at the onset, °C; null where nobody measured. */
  lowestC: number | null;
  /** How much of the leaves came between the onset and now. */
  leavesGrown: number;
  /** Restarts by hour of the day: the share of the commonest hour among all. */
  sameHourShare: number;
  /** The highest supply of the day against before, per cent: a panel in the shade lowers it, an old battery does not. */
  fullSupplyPercent: number;
  hasEnded: boolean;
  lastedDays: number;
}

const BEFORE_DAYS = 14;
const SUDDEN_DAYS = 3;
const RAIN_DAYS = 10;

const known = (values: readonly (number | null)[]) => values.filter((value) => value !== null);

/** Reads the features of what strayed from the day `since` on, from no later day than `until`. */
export function featuresOf(
  link: WatchedLink,
  days: readonly LinkDay[],
  signals: readonly Signal[],
  until: number,
): Features {
  const since = Math.min(...signals.map((signal) => signal.since));
  const ends = signals.map(({ endedAt }) => endedAt);
  const endedAt = ends.every((end) => end !== null) ? Math.max(...(ends as number[])) : null;
  const hasEnded = endedAt !== null && endedAt <= until;
  const last = Math.min(days.length, until + 1, hasEnded ? Math.max(since + 1, endedAt - 3) : Infinity);
  const before = days.slice(Math.max(0, since - BEFORE_DAYS), since);
  const after = days.slice(since, last);
  const settled = after.slice(Math.min(after.length - 1, SUDDEN_DAYS));
  const moved = (read: (day: LinkDay) => number | null, late = settled) =>
    (median(known(late.map(read))) ?? 0) - (median(known(before.map(read))) ?? 0);
  const soonDb = moved(pathResidualDb, after.slice(1, 1 + SUDDEN_DAYS));
  const lateDb = moved(pathResidualDb, after.slice(-BEFORE_DAYS));
  const soonApart = Math.max(
    ...SIDES.map((side) => Math.abs(moved(({ [side]: end }) => end.imbalanceDb, after.slice(1, 1 + SUDDEN_DAYS)))),
  );
  const lateApart = Math.max(
    ...SIDES.map((side) => Math.abs(moved(({ [side]: end }) => end.imbalanceDb, after.slice(-BEFORE_DAYS)))),
  );
  const [soon, late] = Math.abs(lateDb) >= lateApart ? [Math.abs(soonDb), Math.abs(lateDb)] : [soonApart, lateApart];
  const bySide = (read: (end: LinkDay["a"]) => number | null) => ({
    a: moved(({ a }) => read(a)),
    b: moved(({ b }) => read(b)),
  });
  const noiseDb = bySide(({ noiseDbm }) => noiseDbm);
  const rate = bySide(({ rateShare }) => rateShare);
  const lossDb = -moved(pathResidualDb, after.slice(-BEFORE_DAYS));
  const restartHours = after.flatMap(({ a, b }) =>
    [a, b].flatMap((end) => (end.restarts > 0 ? [end.restartHour] : [])),
  );
  const onset = days.slice(Math.max(0, since - 2), since + 2);
  const winds = days.map(({ windMPerS }) => windMPerS);
  const rains = days.map((_, at) => sum(days.slice(Math.max(0, at - RAIN_DAYS), at + 1).map(({ rainMm }) => rainMm)));
  const leafAt = (at: number) => leafShare(dayOfYear(days[at]?.day ?? 0), link.latDeg);
  return {
    lossDb,
    suddenness: late > 0.5 ? Math.min(1, soon / late) : 1,
    imbalanceDb: bySide(({ imbalanceDb }) => imbalanceDb),
    noiseDb,
    noisyHours: commonHours(settled.map((day) => day[noiseDb.a > noiseDb.b ? "a" : "b"].noisyHours)),
    rateLost: Math.max(0, -Math.min(rate.a, rate.b) - RATE_PER_DB * Math.max(0, lossDb)),
    windRank: rankOf(winds, Math.max(0, ...onset.map(({ windMPerS }) => windMPerS))),
    rainRank: rankOf(rains, rains[Math.max(0, since)] ?? 0),
    lowestC: onset.reduce<number | null>(
      (low, { lowestC }) => (lowestC === null ? low : low === null ? lowestC : Math.min(low, lowestC)),
      null,
    ),
    leavesGrown: leafAt(Math.min(days.length - 1, last - 1)) - leafAt(Math.max(0, since - 20)),
    sameHourShare: restartHours.length > 0 ? commonest(restartHours) / restartHours.length : 0,
    fullSupplyPercent: supplyMoved(before, settled),
    hasEnded,
    lastedDays: (hasEnded ? endedAt : until) - since,
  };
}

function supplyMoved(before: readonly LinkDay[], after: readonly LinkDay[]): number {
  const high = (days: readonly LinkDay[], side: Side) => median(known(days.map(({ [side]: end }) => end.supplyHighV)));
  const moves = SIDES.flatMap((side) => {
    const [was, is] = [high(before, side), high(after, side)];
    return was && is ? [100 * (is / was - 1)] : [];
  });
  return moves.length > 0 ? Math.min(...moves) : 0;
}

/** Hours that most of some days have, each day's as bits. */
function commonHours(days: readonly number[]): number[] {
  const hours = Array.from({ length: 24 }, (_, hour) => hour);
  return hours.filter((hour) => days.filter((bits) => (bits >> hour) & 1).length > days.length / 2);
}

/** Share of the figures that are below one. */
const rankOf = (figures: readonly number[], one: number) =>
  figures.length === 0 ? 0 : figures.filter((figure) => figure < one).length / figures.length;

function commonest(values: readonly number[]): number {
  const counts = new Map<number, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  return Math.max(...counts.values());
}
const sum = (values: readonly number[]) => values.reduce((total, value) => total + value, 0);
