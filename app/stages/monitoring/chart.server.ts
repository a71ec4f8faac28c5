import {
  AT,
  DAY_MS,
  endSeries,
  HOUR_MS,
  hourState,
  METRIC_COUNT,
  METRICS,
  PLAN_SERIES,
  promisedOnDbm,
  radioSeries,
  WEATHER_SERIES,
  type HourSeries,
  type Metric,
  type WatchedLink,
} from "#core/watch";
import type { Link, World } from "#core/plan";
import { dayText, linkChanges } from "#jobs";
import { readKnown, withWatchThread } from "#monitoring";
import type { Store } from "#store";
import type { LinkChart } from "./kept";

/** Longer than this a chart is drawn by days, hours. */
const MOST_HOURS = 24 * 45;

/** One figure of each step of a series: means, or the least. */
function column(
  { hours }: HourSeries,
  metric: Metric,
  every: number,
  which: "mean" | "least" | "most",
): (number | null)[] {
  const at = AT[metric];
  const decimals = METRICS[at]!.step < 0.1 ? 100 : 10;
  return Array.from({ length: Math.floor(hours.slots / every) }, (_, step) => {
    let [sum, count, best] = [0, 0, which === "least" ? Infinity : -Infinity];
    for (let slot = step * every; slot < (step + 1) * every; slot++) {
      const cell = slot * METRIC_COUNT + at;
      if (hours.count[cell] === 0) continue;
      count++;
      sum += hours.mean[cell]!;
      best = which === "least" ? Math.min(best, hours.least[cell]!) : Math.max(best, hours.most[cell]!);
    }
    return count === 0 ? null : Math.round((which === "mean" ? sum / count : best) * decimals) / decimals;
  });
}

/** Everything that a link's timeline shows of some days. */
export async function linkChart(
  store: Store,
  planId: string,
  world: World,
  link: Link,
  watched: WatchedLink,
  fromDay: number,
  toDay: number,
): Promise<LinkChart> {
  const ids = [
    endSeries(link.id, "a"),
    endSeries(link.id, "b"),
    WEATHER_SERIES,
    PLAN_SERIES,
    radioSeries(link.aRadioId),
    radioSeries(link.bRadioId),
  ];
  const known = await readKnown(store, planId, ids, fromDay, toDay);
  const [a, b, weather, asked, radioA, radioB] = (await withWatchThread((thread) =>
    thread.hours(ids.map(known), fromDay, toDay),
  )) as [HourSeries, HourSeries, HourSeries, HourSeries, HourSeries, HourSeries];
  const every = (toDay - fromDay) * 24 > MOST_HOURS ? 24 : 1;
  const steps = Math.floor(((toDay - fromDay) * 24) / every);
  const promised = (side: "a" | "b") =>
    Array.from({ length: steps }, (_, step) => {
      const day = fromDay + Math.floor((step * every) / 24);
      return Math.round(promisedOnDbm(watched, side, day) * 10) / 10;
    });
  const isTold = (one: HourSeries, metric: Metric) => column(one, metric, 24, "mean").some((value) => value !== null);
  const device = (end: HourSeries, radio: HourSeries, metric: Metric) =>
    column(isTold(end, metric) ? end : radio, metric, every, "least");
  const delivered = { a, b, weather, asked };
  return {
    fromMs: fromDay * DAY_MS,
    stepMs: every * HOUR_MS,
    levelA: column(a, "level0Dbm", every, "mean"),
    levelB: column(b, "level0Dbm", every, "mean"),
    secondA: column(a, "level1Dbm", every, "mean"),
    secondB: column(b, "level1Dbm", every, "mean"),
    noiseA: column(a, "noiseDbm", every, "mean"),
    noiseB: column(b, "noiseDbm", every, "mean"),
    rateA: column(a, "rateMbps", every, "mean"),
    rateB: column(b, "rateMbps", every, "mean"),
    supplyA: device(a, radioA, "supplyV"),
    supplyB: device(b, radioB, "supplyV"),
    wind: column(weather, "windMPerS", every, "most"),
    rain: column(weather, "rainMmPerH", every, "most"),
    ...{ promisedA: promised("a"), promisedB: promised("b"), bandDb: watched.bandDb, chains: watched.chains },
    ...{ noisePromised: watched.noiseDbm, ratePromised: watched.rateMbps },
    changes: ((await linkChanges(store, planId, world)).get(link.id) ?? [])
      .filter((day) => day >= fromDay && day < toDay)
      .map(dayText),
    hours: Array.from({ length: toDay - fromDay }, (_, i) => ({
      day: dayText(fromDay + i),
      states: Array.from({ length: 24 }, (_, h) => hourState(watched, delivered, (fromDay + i) * 24 + h)).join(""),
    })),
  };
}
