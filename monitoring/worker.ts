// Lays what devices told into their series and looks what strayed, beside the serving thread. Started by jobs/watch/session.ts, one
// thread for each piece of work.
import { deflateRawSync, inflateRawSync } from "node:zlib";
import {
  addSample,
  alarmsOf,
  DAY_MS,
  daysIn,
  emptyFineDay,
  emptyMonth,
  firstDayOf,
  hoursOfDay,
  joinedHours,
  skyDays,
  toldSpan,
  layDay,
  linkDays,
  METRIC_COUNT,
  monthOfDay,
  monthOfHours,
  otherSeasonOf,
  packBuckets,
  packFineDay,
  unpackBuckets,
  unpackFineDay,
  watchSummary,
  type Buckets,
  type FineDay,
  type HourSeries,
  type LinkAlarm,
  type LinkWatch,
  type MonthOfSeries,
  type Sample,
  type WatchedLink,
} from "#core/watch";
import {
  askedHours,
  memoryOf,
  seedOf,
  simulateHours,
  weatherHours,
  type Memory,
  type SimulatedLink,
} from "#simulators";
import type { PackedDay, PackedMonth } from "#store";
import { unpackBatch } from "#wire";
import { exposeTasks, goBehindServing } from "../threads";

/** A series on a day. */
export interface DayKey {
  seriesId: string;
  day: number;
}
/** What is known of a series, packed. */
export interface KnownSeries {
  months: PackedMonth[];
  days: PackedDay[];
}
/** A link with all that was delivered of it. */
export interface LinkToLook {
  link: WatchedLink;
  a: KnownSeries;
  b: KnownSeries;
  /** What the radios tell of themselves; an end that does not tell a figure itself takes it from there. */
  radioA: KnownSeries;
  radioB: KnownSeries;
  /** Days of the plan's own changes of the link, and of work on it. */
  changes: number[];
  anew: number[];
}
export interface LookOrder {
  fromDay: number;
  toDay: number;
  weather: KnownSeries;
  asked: KnownSeries;
  links: LinkToLook[];
}
export interface Looked {
  alarms: LinkAlarm[];
  summaries: LinkWatch[];
}
/** Links of one place to be simulated over whole months. */
export interface YearOrder {
  seed: number;
  latDeg: number;
  fromMonth: number;
  toMonth: number;
  /** No hour from this one on is told: it has not come yet. */
  untilHour: number;
  links: { aSeries: string; bSeries: string; link: SimulatedLink }[];
  /** Series of the weather and of how many were asked, where they are wanted too. */
  shared: { weather: string; asked: string; told: number } | null;
}

goBehindServing();

const deflate = (bytes: Uint8Array) => new Uint8Array(deflateRawSync(bytes, { level: 3 }));
const fineOf = (packed: Uint8Array): FineDay => unpackFineDay(inflateRawSync(packed));
const hoursOf = ({ month, hours }: PackedMonth): HourSeries => ({
  fromHour: firstDayOf(month) * 24,
  hours: unpackBuckets(inflateRawSync(hours), daysIn(month) * 24),
});
const packedMonth = (
  seriesId: string,
  month: number,
  { hours, days }: { hours: Buckets; days: Buckets },
): PackedMonth => ({
  ...{ seriesId, month, hours: deflate(packBuckets(hours)), days: deflate(packBuckets(days)) },
});

/** Samples that wait to be laid into their days, by day and series. */
const waiting = new Map<string, { key: DayKey; samples: Sample[] }>();

const piecesOf = ({ months, days }: KnownSeries): HourSeries[] => [
  ...months.map(hoursOf),
  ...days.map(({ day, packed }) => hoursOfDay(day, fineOf(packed))),
];

const seriesOver = (known: KnownSeries, fromDay: number, toDay: number): Required<HourSeries> =>
  joinedHours(fromDay * 24, (toDay - fromDay) * 24, piecesOf(known));

/** The same from the first hour with figures to the last. A network that has just begun to report would otherwise be years of empty hours. */
function toldOver(pieces: readonly HourSeries[], fromDay: number, toDay: number): Required<HourSeries> {
  const [from, to] = toldSpan(fromDay * 24, (toDay - fromDay) * 24, pieces);
  return joinedHours(from, to - from, pieces);
}

/** An end's hours with what only its radio tells. */
function endOver(end: KnownSeries, radio: KnownSeries, fromDay: number, toDay: number): HourSeries {
  const [own, ofRadio] = [piecesOf(end), piecesOf(radio)];
  if (ofRadio.length === 0 || own.length === 0) return toldOver([...own, ...ofRadio], fromDay, toDay);
  const [from, to] = toldSpan(fromDay * 24, (toDay - fromDay) * 24, [...own, ...ofRadio]);
  const joined = joinedHours(from, to - from, own);
  const { hours } = joinedHours(from, to - from, ofRadio);
  for (let cell = 0; cell < hours.slots * METRIC_COUNT; cell++)
    if (joined.hours.count[cell] === 0 && hours.count[cell]! > 0)
      for (const key of ["least", "mean", "most", "count"] as const) joined.hours[key][cell] = hours[key][cell]!;
  return { ...joined, toldHours: [from, to] };
}

const memories = new Map<string, Memory>();
function memoryFor(seed: number, latDeg: number): Memory {
  const key = `${seed} ${latDeg}`;
  let found = memories.get(key);
  if (!found) memories.set(key, (found = memoryOf(seed, latDeg)));
  return found;
}

const tasks = {
  /** Takes batches in; tells which days of which series they are of. */
  take(batches: Uint8Array[]): DayKey[] {
    waiting.clear();
    for (const batch of batches)
      for (const sample of unpackBatch(inflateRawSync(batch))) {
        const day = Math.floor(sample.atMs / DAY_MS);
        const name = `${day} ${sample.seriesId}`;
        const known = waiting.get(name);
        if (known) known.samples.push(sample);
        else waiting.set(name, { key: { seriesId: sample.seriesId, day }, samples: [sample] });
      }
    return [...waiting.values()].map(({ key }) => key);
  },

  /** Lays what was taken into those days; what they had before goes along. */
  fold(keys: DayKey[], before: PackedDay[]): PackedDay[] {
    const known = new Map(before.map((one) => [`${one.day} ${one.seriesId}`, one.packed]));
    return keys.map(({ seriesId, day }) => {
      const name = `${day} ${seriesId}`;
      const packed = known.get(name);
      const fine = packed ? fineOf(packed) : emptyFineDay();
      for (const sample of waiting.get(name)?.samples ?? []) addSample(fine, day * DAY_MS, sample);
      waiting.delete(name);
      return { seriesId, day, packed: deflate(packFineDay(fine)) };
    });
  },

  /** Lays days into their months. */
  roll(days: PackedDay[], before: PackedMonth[]): PackedMonth[] {
    const months = new Map<string, { seriesId: string; month: number; laid: MonthOfSeries }>();
    for (const one of before) {
      const { seriesId, month } = one;
      const laid = {
        hours: hoursOf(one).hours,
        days: unpackBuckets(inflateRawSync(one.days), daysIn(month)),
      };
      months.set(`${month} ${seriesId}`, { seriesId, month, laid });
    }
    for (const { seriesId, day, packed } of days) {
      const month = monthOfDay(day);
      const name = `${month} ${seriesId}`;
      const known = months.get(name) ?? { seriesId, month, laid: emptyMonth(month) };
      layDay(known.laid, month, day, fineOf(packed));
      months.set(name, known);
    }
    return [...months.values()].map(({ seriesId, month, laid }) => packedMonth(seriesId, month, laid));
  },

  /** What strayed of some links, and how each does. */
  look({ fromDay, toDay, weather, asked, links }: LookOrder): Looked {
    const shared = { weather: seriesOver(weather, fromDay, toDay), asked: seriesOver(asked, fromDay, toDay) };
    const skies = skyDays(shared, fromDay, toDay);
    const looked: Looked = { alarms: [], summaries: [] };
    for (const { link, a, b, radioA, radioB, changes, anew } of links) {
      const delivered = {
        a: endOver(a, radioA, fromDay, toDay),
        b: endOver(b, radioB, fromDay, toDay),
        ...shared,
      };
      const days = linkDays(link, delivered, skies);
      const alarms = alarmsOf(link, days, { changes, anew });
      const otherSeason = otherSeasonOf(link, days, alarms, [...changes, ...anew]);
      looked.summaries.push({ ...watchSummary(link, delivered, days), otherSeason });
      looked.alarms.push(...alarms);
    }
    return looked;
  },

  /** Hours of some series as they lie, for a chart. */
  hours(known: KnownSeries[], fromDay: number, toDay: number): HourSeries[] {
    return known.map((one) => seriesOver(one, fromDay, toDay));
  },

  /** Months of links that are played, faster than life. */
  year({ seed, latDeg, fromMonth, toMonth, untilHour, links, shared }: YearOrder): PackedMonth[] {
    const memory = memoryFor(seedOf(seed, "weather"), latDeg);
    const packed: PackedMonth[] = [];
    for (let month = fromMonth; month <= toMonth; month++) {
      const fromHour = firstDayOf(month) * 24;
      const all = daysIn(month) * 24;
      const count = Math.max(0, Math.min(all, untilHour - fromHour));
      const keep = (seriesId: string, told: HourSeries) =>
        packed.push(packedMonth(seriesId, month, monthOfHours(joinedHours(fromHour, all, [told]).hours)));
      for (const { aSeries, bSeries, link } of links) {
        keep(aSeries, simulateHours(link, "a", fromHour, count, memory));
        keep(bSeries, simulateHours(link, "b", fromHour, count, memory));
      }
      if (shared) {
        keep(shared.weather, weatherHours(fromHour, count, memory));
        keep(shared.asked, askedHours(fromHour, count, shared.told));
      }
    }
    return packed;
  },
};
export type WatchTasks = typeof tasks;

exposeTasks(tasks);
