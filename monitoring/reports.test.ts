import { rmSync } from "node:fs";
import { inflateRawSync } from "node:zlib";
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import { NO_WATCH, PLAN_SERIES, type PushedSample } from "#core/watch";
import { unpackBatch } from "#wire";
import { valley } from "#core/testing";
import {
  createPlan,
  openStore,
  putToken,
  putWatchSettings,
  readBatches,
  readWatch,
  signedBy,
  type Store,
} from "#store";
import { begunDirectory } from "../store/testing";
import { mayReport, samplesTokenHash, takeSamples, trustNobody } from "./reports";

const directory = await begunDirectory("reports");
let store: Store;
const PLAN = "valley";
const NOW = Date.UTC(2026, 10, 27, 12);
beforeAll(async () => {
  store = await openStore(directory);
  await createPlan(store.db, valley().rows, signedBy("test"), "Began");
});
afterAll(async () => {
  await store.close();
  rmSync(directory, { recursive: true, force: true });
});
const told = (series: string, minutesAgo = 1): PushedSample => ({
  series,
  at: new Date(NOW - minutesAgo * 60_000).toISOString(),
  level0Dbm: -60,
});

test("what many devices report within a moment is kept together, and each is told of his own", async () => {
  const reports = [
    [told("bridge/a")],
    [told("bridge/b")],
    [told("bridge/b", -20)],
    [told("bridge/a", 2), told("nowhere/a"), told("radio/nobody")],
    [told("weather")],
  ];
  const answers = await Promise.all(reports.map((one) => takeSamples(store, PLAN, one, "pushed", NOW)));
  expect(answers.map(({ kept, ahead, unknown }) => [kept, ahead, unknown])).toEqual([
    [1, 0, 0],
    [1, 0, 0],
    [0, 1, 0],
    [1, 0, 2],
    [1, 0, 0],
  ]);
  const batches = await readBatches(store.db, PLAN, 1000);
  expect(batches).toHaveLength(1);
  const [samples] = batches.map(({ packed }) => unpackBatch(inflateRawSync(packed)));
  const minute = (minutesAgo: number) => samples!.filter(({ atMs }) => atMs === NOW - minutesAgo * 60_000);
  expect(minute(1).map(({ seriesId, values }) => [seriesId, values.seriesTold ?? values.level0Dbm])).toEqual([
    ["bridge/a", -60],
    ["bridge/b", -60],
    ["weather", -60],
    [PLAN_SERIES, 3],
  ]);
  expect(minute(2).at(-1)!.values.seriesTold).toBe(1);
  const { received } = await readWatch(store.db, PLAN);
  expect(received.pushed).toMatchObject({ kept: 4, ahead: 1, tooLate: 0, unknown: 2, skewMs: 20 * 60_000 });
});

test("where keeping fails everybody who waits is told, and the next report is kept", async () => {
  const lost = await Promise.allSettled(
    [1, 2].map(() => takeSamples(store, "no-such-plan", [told("weather")], "x", NOW)),
  );
  expect(lost.map(({ status }) => status)).toEqual(["rejected", "rejected"]);
  expect(await takeSamples(store, PLAN, [told("bridge/a")], "pushed", NOW)).toMatchObject({ kept: 1 });
});

test("a token lets its own plan be told, while that listens to real devices", async () => {
  const token = "a-token-of-some-twenty-letters";
  await putToken(store.db, PLAN, samplesTokenHash(token));
  await putWatchSettings(store.db, PLAN, { ...NO_WATCH, source: "simulated" });
  expect(await mayReport(store, PLAN, token)).toBe("simulated");
  await putWatchSettings(store.db, PLAN, { ...NO_WATCH, source: "devices" });
  expect(await mayReport(store, PLAN, token)).toBe("may");
  expect(await mayReport(store, PLAN, `${token}s`)).toBe("notKnown");
  expect(await mayReport(store, "no-such-plan", token)).toBe("notKnown");
  // It was good a moment ago; what takes it back here has it asked for again.
  await putToken(store.db, PLAN, null);
  expect(await mayReport(store, PLAN, token)).toBe("may");
  trustNobody();
  expect(await mayReport(store, PLAN, token)).toBe("notKnown");
});
