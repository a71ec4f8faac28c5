// What a network of ten thousand devices costs that report each minute: keeping them, laying them into their series while pages are
// served, a year of one link, and the disk.
import { mkdtempSync, rmSync, statSync, readdirSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { deflateRawSync } from "node:zlib";
import { DAY_MS, daysIn, endSeries, firstDayOf, monthOfDay, monthOfHours, packBuckets, type Sample } from "#core/watch";
import { memoryOf, normalAt, seedOf, simulateHours, uniformAt, type SimulatedLink } from "#simulators";
import { addBatch, createPlan, openStore, signedBy, writeMonths } from "#store";
import { foldPlan, readKnown, withWatchThread } from "#monitoring";
import { valley } from "#core/testing";
import { print } from "./print";

const DEVICES = 10_000;
const MINUTES = 60;
const directory = mkdtempSync(join(tmpdir(), "tejado-series-"));
const store = await openStore(directory);
const PLAN = "valley";
await createPlan(store.db, valley().rows, signedBy("bench"), "Began");

const seed = seedOf(20_261_204, "series");
const start = Math.floor(Date.UTC(2026, 10, 20) / DAY_MS) * DAY_MS;
const ids = Array.from({ length: DEVICES }, (_, i) => endSeries(`link-${i >> 1}`, i % 2 ? "b" : "a"));
const batch = (minute: number): Sample[] =>
  ids.map((seriesId, i) => ({
    seriesId,
    atMs: start + minute * 60_000,
    values: {
      level0Dbm: Math.round(-60 + 8 * uniformAt(seed, i) + 0.7 * normalAt(seed + i, minute)),
      level1Dbm: Math.round(-60 + 8 * uniformAt(seed, i) + 0.7 * normalAt(seed + i, minute + 5000)),
      noiseDbm: -92 + 0.3 * normalAt(seed + i + 1, minute),
      rateMbps: 80 + 2 * normalAt(seed + i + 2, minute),
      throughputMbps: 10 * uniformAt(seed + i + 3, minute),
      airtimePercent: 40 * uniformAt(seed + i + 4, minute),
      uptimeMin: minute,
      temperatureC: 25 + uniformAt(seed + i + 5, minute),
      supplyV: 24 + 0.1 * normalAt(seed + i + 6, minute),
    },
  }));

// What the serving thread waits for meanwhile: a timer that should fire each 5 ms.
let longestMs = 0;
let last = performance.now();
const watching = setInterval(() => {
  const now = performance.now();
  longestMs = Math.max(longestMs, now - last - 5);
  last = now;
}, 5);

const kept: number[] = [];
for (let minute = 0; minute < MINUTES; minute++) {
  const samples = batch(minute);
  last = performance.now();
  const begun = performance.now();
  await addBatch(store.db, PLAN, samples);
  kept.push(performance.now() - begun);
}
kept.sort((x, y) => x - y);
print("a minute of 10 000 devices kept, 95 % under", kept[Math.floor(0.95 * MINUTES)]!, "ms", 2000);
print("the serving thread stood still for at most, keeping", longestMs, "ms", 200);
longestMs = 0;
last = performance.now();
const folding = performance.now();
await foldPlan(store, PLAN, start + DAY_MS / 2);
print("an hour of them laid into its series", (performance.now() - folding) / 1000, "s", 600);
print("the serving thread stood still for at most, laying", longestMs, "ms", 100);
clearInterval(watching);

// A year of one link, as it is kept: the figures of the simulated network.
const link: SimulatedLink = {
  ...{
    linkId: "year",
    chains: 2,
    levelDbm: { a: -58, b: -59 },
    noiseDbm: { a: -92, b: -92 },
    rateMbps: { a: 150, b: 120 },
  },
  ...{
    bandDb: 4,
    latDeg: 41,
    leafDb: 2,
    offDeg: { a: { azimuthDeg: 0, elevationDeg: 0 }, b: { azimuthDeg: 0, elevationDeg: 0 } },
    isSolar: { a: true, b: false },
  },
  ...{
    availabilityPercent: 99.9,
    worstMonthPercent: 99,
    availabilityBound: null,
    seed,
    rainDbPerMmPerH: 0.1,
    biasDb: 1,
  },
  ...{
    leafFactor: 1.1,
    busyMbps: 20,
    airtimePercent: 40,
    growth: { percentAYear: 0, fromHour: 0 },
    supplyV: { a: 24, b: 48 },
    faults: [],
  },
};
const memory = memoryOf(seed, 41);
const toMonth = monthOfDay(start / DAY_MS);
let bytes = 0;
const deflate = (packed: Uint8Array) => new Uint8Array(deflateRawSync(packed, { level: 3 }));
for (let month = toMonth - 11; month <= toMonth; month++)
  for (const side of ["a", "b"] as const) {
    const { hours, days } = monthOfHours(
      simulateHours(link, side, firstDayOf(month) * 24, daysIn(month) * 24, memory).hours,
    );
    const one = {
      seriesId: endSeries("year", side),
      month,
      hours: deflate(packBuckets(hours)),
      days: deflate(packBuckets(days)),
    };
    bytes += one.hours.length + one.days.length;
    await store.db.transaction((tx) => writeMonths(tx, PLAN, [one]));
  }
const [fromDay, toDay] = [firstDayOf(toMonth - 11), firstDayOf(toMonth + 1)];
const yearIds = [endSeries("year", "a"), endSeries("year", "b")];
const times: number[] = [];
await withWatchThread(async (thread) => {
  for (let i = 0; i < 8; i++) {
    const begun = performance.now();
    const known = await readKnown(store, PLAN, yearIds, fromDay, toDay);
    await thread.hours(yearIds.map(known), fromDay, toDay);
    times.push(performance.now() - begun);
  }
});
times.sort((x, y) => x - y);
print("a year of one link, both ends, hour by hour", times[4]!, "ms", 200);
print("disk for a year of 10 000 devices by hours and days", ((bytes / 2) * DEVICES) / 1e9, "GB", 5);
const { rows } = await store.db.query<{ bytes: number }>("SELECT avg(length(packed))::float8 AS bytes FROM watch_days");
// An hour of a day fills a twenty-fourth of it; the bounds of what is kept are fourteen days and a week's part.
print("and for their five-minute slots of 14 to 21 days", (rows[0]!.bytes * 24 * DEVICES * 21) / 1e9, "GB", 15);
await store.close();
const size = (folder: string): number =>
  readdirSync(folder, { withFileTypes: true }).reduce(
    (sum, entry) =>
      sum + (entry.isDirectory() ? size(join(folder, entry.name)) : statSync(join(folder, entry.name)).size),
    0,
  );
console.log(`  the data directory after an hour: ${(size(directory) / 1e6).toFixed(0)} MB`);
rmSync(directory, { recursive: true, force: true });
process.exit();
