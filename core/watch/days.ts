import { median } from "../statistics";
import { AT, METRIC_COUNT, type Metric } from "./metrics";
import { promisedOnDbm } from "./season";
import type { Delivered, HourSeries, WatchedLink } from "./watched";

export type Side = "a" | "b";
export const SIDES = ["a", "b"] as const;

/** One end of a link on one day; null where too little is known to say. */
export interface EndDay {
  /** Median level of the dry hours less the prediction and what leaves take, mean of the chains, dB. */
  residualDb: number | null;
  /** The same as it stands, with leaves in it. */
  deviationDb: number | null;
  /** Median of the first chain less the second, dB. */
  imbalanceDb: number | null;
  /** Mean of the noisiest third of the hours, dBm: who sends by day alone is seen too. */
  noiseDbm: number | null;
  /** Hours of the day, as bits, in which the noise stood well over the quietest third of the hours. */
  noisyHours: number;
  /** Mean rate over the promised one. */
  rateShare: number | null;
  /** Restarts, and the hour of the day of the first; −1 without any. */
  restarts: number;
  restartHour: number;
  /** Lowest and highest supply, V. */
  supplyLowV: number | null;
  supplyHighV: number | null;
  /** Mean of the four busiest hours, percent. */
  busyPercent: number | null;
  hoursKnown: number;
}

/** A link on one day with the day's weather. */
export interface LinkDay {
  /** Days since 1970. */
  day: number;
  a: EndDay;
  b: EndDay;
  /** Hours in which anything of the plan told something. */
  hoursAsked: number;
  windMPerS: number;
  rainMm: number;
  lowestC: number | null;
}

/** Hours with more rain than this say nothing of what stands still, mm/h. */
const DRY_MM_PER_H = 0.3;
/** Fewer dry hours than this make no day. */
const FEWEST_HOURS = 4;

/** One figure of an hour since 1970; null where nothing is known of it. */
export function figureAt(
  { hours, fromHour, toldHours }: HourSeries,
  which: "least" | "mean" | "most",
  metric: Metric,
  hour: number,
): number | null {
  if (toldHours && (hour < toldHours[0] || hour >= toldHours[1])) return null;
  const slot = hour - fromHour;
  if (slot < 0 || slot >= hours.slots) return null;
  const cell = slot * METRIC_COUNT + AT[metric];
  return hours.count[cell] ? hours[which][cell]! : null;
}

const mean = (values: readonly number[]) =>
  values.length === 0 ? null : values.reduce((sum, value) => sum + value, 0) / values.length;

/** The mean of the greatest of some figures. */
function meanOfGreatest(values: number[], count: number): number | null {
  values.sort((x, y) => y - x);
  return mean(values.slice(0, Math.max(1, count)));
}

/** A day of which an end told nothing. */
const UNTOLD: EndDay = {
  ...{ residualDb: null, deviationDb: null, imbalanceDb: null, noiseDbm: null, noisyHours: 0, rateShare: null },
  ...{ restarts: 0, restartHour: -1, supplyLowV: null, supplyHighV: null, busyPercent: null, hoursKnown: 0 },
};

function endDay(link: WatchedLink, side: Side, series: HourSeries, day: number, isDry: readonly boolean[]): EndDay {
  const { toldHours } = series;
  if (toldHours && (day * 24 + 24 <= toldHours[0] || day * 24 >= toldHours[1])) return UNTOLD;
  const [levels, apart, noises, rates, airtimes, low, high]: number[][] = [[], [], [], [], [], [], []];
  const noiseOf: (number | null)[] = [];
  let [restarts, restartHour, hoursKnown] = [0, -1, 0];
  let before = figureAt(series, "most", "uptimeMin", day * 24 - 1);
  for (let h = 0; h < 24; h++) {
    const hour = day * 24 + h;
    const first = figureAt(series, "mean", "level0Dbm", hour);
    const second = link.chains === 2 ? figureAt(series, "mean", "level1Dbm", hour) : null;
    if (first !== null) {
      hoursKnown++;
      if (isDry[h]) {
        levels!.push(second === null ? first : (first + second) / 2);
        if (second !== null) apart!.push(first - second);
      }
    }
    const noise = figureAt(series, "mean", "noiseDbm", hour);
    pushKnown(noises!, noise);
    noiseOf.push(noise);
    pushKnown(rates!, isDry[h] ? figureAt(series, "mean", "rateMbps", hour) : null);
    pushKnown(airtimes!, figureAt(series, "mean", "airtimePercent", hour));
    pushKnown(low!, figureAt(series, "least", "supplyV", hour));
    pushKnown(high!, figureAt(series, "most", "supplyV", hour));
    const up = figureAt(series, "least", "uptimeMin", hour);
    if (up === null) continue;
    const hasRestarted = before !== null && up < before;
    if (hasRestarted) {
      restarts++;
      if (restartHour < 0) restartHour = h;
    }
    // An hour with a restart in it ends lower than it began.
    before = hasRestarted ? up : figureAt(series, "most", "uptimeMin", hour);
  }
  const level = levels!.length >= FEWEST_HOURS ? median(levels!) : null;
  return {
    residualDb: level === null ? null : level - promisedOnDbm(link, side, day),
    deviationDb: level === null ? null : level - link.levelDbm[side],
    imbalanceDb: apart!.length >= FEWEST_HOURS ? median(apart!) : null,
    noiseDbm: noises!.length >= FEWEST_HOURS ? meanOfGreatest(noises!, noises!.length / 3) : null,
    noisyHours: noisyHoursOf(noiseOf),
    rateShare: rates!.length >= FEWEST_HOURS && link.rateMbps[side] > 0 ? mean(rates!)! / link.rateMbps[side] : null,
    restarts,
    restartHour,
    supplyLowV: low!.length > 0 ? Math.min(...low!) : null,
    supplyHighV: high!.length > 0 ? Math.max(...high!) : null,
    busyPercent: airtimes!.length >= FEWEST_HOURS ? meanOfGreatest(airtimes!, 4) : null,
    hoursKnown,
  };
}

/** An hour this far over the quietest third of its day is a noisy one, dB. */
const NOISY_DB = 3;

function noisyHoursOf(noiseDbm: readonly (number | null)[]): number {
  const known = noiseDbm.filter((value) => value !== null).sort((x, y) => x - y);
  if (known.length < FEWEST_HOURS) return 0;
  const quietDbm = mean(known.slice(0, Math.max(1, Math.floor(known.length / 3))))!;
  return noiseDbm.reduce<number>(
    (bits, value, hour) => (value !== null && value > quietDbm + NOISY_DB ? bits | (1 << hour) : bits),
    0,
  );
}

const pushKnown = (into: number[], value: number | null) => {
  if (value !== null) into.push(value);
};

/** What all links of one place share of a day: its weather, and in how many hours anything of the plan told something. */
interface SkyDay extends Pick<LinkDay, "day" | "hoursAsked" | "windMPerS" | "rainMm" | "lowestC"> {
  isDry: readonly boolean[];
}

/** The weather of some days, for whoever looks at many links under it. */
export function skyDays({ weather, asked }: Pick<Delivered, "weather" | "asked">, from: number, to: number): SkyDay[] {
  const days: SkyDay[] = [];
  for (let day = from; day < to; day++) {
    const isDry: boolean[] = [];
    let [windMPerS, rainMm, hoursAsked] = [0, 0, 0];
    let lowestC: number | null = null;
    for (let h = 0; h < 24; h++) {
      const hour = day * 24 + h;
      const rain = figureAt(weather, "mean", "rainMmPerH", hour) ?? 0;
      if (asked === null || figureAt(asked, "most", "seriesTold", hour) !== null) hoursAsked++;
      isDry.push(rain <= DRY_MM_PER_H);
      rainMm += rain;
      windMPerS = Math.max(windMPerS, figureAt(weather, "most", "windMPerS", hour) ?? 0);
      const temperature = figureAt(weather, "least", "temperatureC", hour);
      if (temperature !== null) lowestC = lowestC === null ? temperature : Math.min(lowestC, temperature);
    }
    days.push({ day, isDry, hoursAsked, windMPerS, rainMm, lowestC });
  }
  return days;
}

/**
 * A link day by day; dry hours only, with what leaves take put back. Over the days of `skies`, or over all whole days of what was
 * delivered.
 */
export function linkDays(link: WatchedLink, delivered: Delivered, skies = skiesOver(delivered)): LinkDay[] {
  return skies.map(({ isDry, day, hoursAsked, windMPerS, rainMm, lowestC }) => ({
    day,
    a: endDay(link, "a", delivered.a, day, isDry),
    b: endDay(link, "b", delivered.b, day, isDry),
    ...{ hoursAsked, windMPerS, rainMm, lowestC },
  }));
}

function skiesOver(delivered: Delivered): SkyDay[] {
  const { a, b } = delivered;
  const from = Math.ceil(Math.min(a.fromHour, b.fromHour) / 24);
  const to = Math.floor(Math.max(a.fromHour + a.hours.slots, b.fromHour + b.hours.slots) / 24);
  return skyDays(delivered, from, to);
}

/** Whether nothing at all was told of a link on a day. */
export const isUntold = ({ a, b }: LinkDay): boolean => a === UNTOLD && b === UNTOLD;
