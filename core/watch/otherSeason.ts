import { type LinkDay } from "./days";
import { median } from "../statistics";
import type { LinkAlarm } from "./alarms";
import { dayOfYear, leafShare } from "./season";
import { pathResidualDb } from "./signals";
import type { WatchedLink } from "./watched";

/** What a link stood from its promise while other leaves stood than in its last week. */
export interface OtherSeason {
  /** Share of the leaves that stood then. */
  leaves: number;
  /** Median of those days, dB off the promise for their time of the year. */
  deviationDb: number;
}

/** Days are of the other season where the leaves differ by this share, and so many of them say something. */
const OTHER_LEAVES = 0.6;
const FEWEST_DAYS = 7;

/**
 * What a link through trees did at the other time of the year; null where nothing is known of it. Days on which it strayed say nothing
 * of trees, and days before it was `changed` (days since 1970) are of another link.
 */
export function otherSeasonOf(
  { leafDb, latDeg }: WatchedLink,
  days: readonly LinkDay[],
  alarms: readonly LinkAlarm[],
  changed: readonly number[],
): OtherSeason | null {
  const last = days.findLast((day) => pathResidualDb(day) !== null);
  if (leafDb <= 0 || !last) return null;
  const leavesOn = ({ day }: LinkDay) => leafShare(dayOfYear(day), latDeg);
  const [now, since] = [leavesOn(last), Math.max(-Infinity, ...changed)];
  const strayed = alarms.filter(({ kind }) => kind !== "prediction");
  const usable = days.filter(
    (one) =>
      one.day > since &&
      pathResidualDb(one) !== null &&
      Math.abs(leavesOn(one) - now) >= OTHER_LEAVES &&
      !strayed.some(({ sinceDay, endedDay }) => one.day >= sinceDay && one.day <= (endedDay ?? Infinity)),
  );
  if (usable.length < FEWEST_DAYS) return null;
  return {
    leaves: usable.reduce((sum, day) => sum + leavesOn(day), 0) / usable.length,
    deviationDb: median(usable.map((day) => pathResidualDb(day)!))!,
  };
}
