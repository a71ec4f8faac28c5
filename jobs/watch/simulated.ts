import type { World } from "#core/plan";
import {
  DAY_MS,
  endSeries,
  monthOfDay,
  PLAN_SERIES,
  WEATHER_SERIES,
  type PlannedFault,
  type WatchedLink,
} from "#core/watch";
import { SEED, simulatedLink, withWatchThread } from "#monitoring";
import { putReceived, writeMonths, type Store } from "#store";
import type { JobTools } from "../tools";

/** How far back a simulated network begins, months before this one; links that one thread plays at once. */
const MONTHS_BACK = 12;
const LINKS_AT_ONCE = 8;
/**
 * Plays the network for a year up to now, or from a day on, and writes what it told in place of whatever stood there of those links
 * and months.
 */
export async function simulateNetwork(
  store: Store,
  planId: string,
  world: World,
  watched: readonly WatchedLink[],
  faults: readonly PlannedFault[],
  { only, fromDay }: { only: ReadonlySet<string> | null; fromDay: number | null },
  nowMs: number,
  { progress, check, signal }: Pick<JobTools, "progress" | "check" | "signal">,
): Promise<void> {
  const toMonth = monthOfDay(Math.floor((nowMs - 1) / DAY_MS));
  const yearAgo = toMonth - MONTHS_BACK;
  const fromMonth = fromDay === null ? yearAgo : Math.max(yearAgo, monthOfDay(fromDay));
  const works = ({ rateMbps }: WatchedLink) => rateMbps.a > 0 && rateMbps.b > 0;
  const working = watched.filter(works);
  const played = working.filter((one) => only === null || only.has(one.linkId));
  const series = 2 * working.length;
  const [first] = watched;
  if (!first) return;
  await withWatchThread(async (thread) => {
    for (let at = 0; at < played.length; at += LINKS_AT_ONCE) {
      check();
      const links = played.slice(at, at + LINKS_AT_ONCE).map((one) => ({
        ...{ aSeries: endSeries(one.linkId, "a"), bSeries: endSeries(one.linkId, "b") },
        link: simulatedLink(world, one, faults),
      }));
      const months = await thread.year({
        ...{ seed: SEED, latDeg: Math.round(first.latDeg), fromMonth, toMonth },
        ...{ untilHour: Math.floor(nowMs / 3_600_000), links },
        shared: at === 0 ? { weather: WEATHER_SERIES, asked: PLAN_SERIES, told: series } : null,
      });
      await store.db.transaction((tx) => writeMonths(tx, planId, months));
      progress(
        (0.7 * Math.min(played.length, at + LINKS_AT_ONCE)) / played.length,
        `${Math.min(played.length, at + LINKS_AT_ONCE)} of ${played.length} links played`,
      );
    }
  }, signal);
  await putReceived(store.db, planId, { simulated: { at: new Date(nowMs).toISOString(), series } });
}
