import { rmSync } from "node:fs";
import { createServer } from "node:http";
import type { AddressInfo } from "node:net";
import { inflateRawSync } from "node:zlib";
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import { valley, valleySurface } from "#core/testing";
import {
  AT,
  clientSamples,
  DAY_MS,
  endSeries,
  METRIC_COUNT,
  NO_WATCH,
  radioSeries,
  snmpFigures,
  WEATHER_SERIES,
} from "#core/watch";
import { planContext, stopEngine } from "#engine";
import { readSamples } from "#formats/samples";
import { memoryOf, standInModel, standInSettings, startStandIns, STAND_IN_COMMUNITY } from "#simulators";
import { createPlan, openStore, packLayer, readBatches, signedBy, type Store } from "#store";
import { unpackBatch } from "#wire";
import { begunDirectory } from "../store/testing";
import { foldPlan } from "./fold";
import { readKnown } from "./known";
import { withWatchThread } from "./session";
import { askDevice } from "./snmp";
import { endStandInsBut, isStandInToken, pollStandIns, standInDevices } from "./standIns";
import { mayReport } from "./reports";

const directory = await begunDirectory("stand-ins");
let store: Store;
const PLAN = "valley";
beforeAll(async () => {
  store = await openStore(directory);
  const { layer, tiles } = packLayer(PLAN, "ground", "bare", valleySurface(0));
  await createPlan(store.db, { ...valley().rows, layers: [layer] }, signedBy("test"), "Began", {
    tiles: tiles.map((tile) => ({ layerId: layer.id, ...tile })),
    photos: [],
  });
});
afterAll(async () => {
  endStandInsBut(new Set());
  await stopEngine();
  await store.close();
  rmSync(directory, { recursive: true, force: true });
});

const live = { ...NO_WATCH, source: "simulated" as const };

/** The mean of one figure over the hour that is now. */
async function meanNow(seriesId: string, metric: keyof typeof AT): Promise<number | null> {
  const day = Math.floor(Date.now() / DAY_MS);
  await foldPlan(store, PLAN, Date.now());
  const known = await readKnown(store, PLAN, [seriesId], day, day + 1);
  const [found] = await withWatchThread((thread) => thread.hours([known(seriesId)], day, day + 1));
  const { count, mean } = found!.hours;
  const told = Array.from({ length: 24 }, (_, slot) => slot * METRIC_COUNT + AT[metric]).filter(
    (cell) => count[cell]! > 0,
  );
  return told.length === 0 ? null : mean[told.at(-1)!]!;
}

test("stand-ins answer SNMP as devices do: levels near the promise at both ends, an access point by its table, weather beside them", async () => {
  const context = (await planContext(store, PLAN))!;
  const { world } = await context.load();
  const watched = await context.ask("watched");
  const devices = standInDevices(world, watched, live)!;
  expect(devices.map(({ radioId }) => radioId).sort()).toEqual([...world.radios.keys()].sort());
  const round = await pollStandIns(store, PLAN, context, live);
  expect(round).toEqual({ asked: devices.length, answered: devices.length });
  for (const { linkId, levelDbm, noiseDbm } of watched)
    for (const side of ["a", "b"] as const) {
      const level = (await meanNow(endSeries(linkId, side), "level0Dbm"))!;
      // What a simulated link differs by from its promise, with a minute's fading.
      expect(Math.abs(level - levelDbm[side])).toBeLessThan(9);
      expect(Math.abs((await meanNow(endSeries(linkId, side), "noiseDbm"))! - noiseDbm[side])).toBeLessThan(8);
    }
  expect(await meanNow(radioSeries("sector"), "supplyV")).toBeGreaterThan(20);
  expect(await meanNow(WEATHER_SERIES, "temperatureC")).not.toBeNull();
  // Throughput comes of two readings' counters; within a minute the series keep the first.
  const carried = async () => {
    const [batch] = await readBatches(store.db, PLAN, 1);
    const samples = unpackBatch(inflateRawSync(batch!.packed));
    return samples.find(({ seriesId }) => seriesId === endSeries("bridge", "a"))!.values.throughputMbps;
  };
  await pollStandIns(store, PLAN, context, live);
  expect(await carried()).toBeGreaterThan(1);
  expect(await carried()).toBeLessThan(100);
}, 60_000);

test("a link whose power fails is asked and silent; what it told before stays", async () => {
  const context = (await planContext(store, PLAN))!;
  const cut = { ...live, faults: [{ kind: "outage" as const, linkId: "bridge", fromDay: "2026-01-01", untilDay: "" }] };
  const round = (await pollStandIns(store, PLAN, context, cut))!;
  expect(round.asked - round.answered).toBe(2);
  // Whatever else goes wrong is told, too.
  const restarting = {
    kind: "restarts" as const,
    linkId: "bridge",
    fromDay: "2026-01-01",
    untilDay: "",
    side: "a" as const,
  };
  const faulty = { ...live, faults: [{ ...restarting, atHour: 3 }] };
  expect((await pollStandIns(store, PLAN, context, faulty))!.answered).toBe(round.asked);
  endStandInsBut(new Set([PLAN]));
  expect((await pollStandIns(store, PLAN, context, live))!.answered).toBe(round.asked);
}, 60_000);

test("of a radio with one chain no second level is told, by itself or in its access point's table", async () => {
  const context = (await planContext(store, PLAN))!;
  const { world } = await context.load();
  const watched = (await context.ask("watched")).map((one) => ({ ...one, chains: 1 as const }));
  const standIns = startStandIns(standInDevices(world, watched, live)!, memoryOf(1, 0), null);
  const secrets = { community: STAND_IN_COMMUNITY, password: "", key: "" };
  const asked = async (radioId: string, hasTable: boolean) =>
    (await askDevice("127.0.0.1", standInModel("any", hasTable), standInSettings(standIns.portOf(radioId)!), secrets))!;
  try {
    await standIns.tellAt(Date.now() / 3_600_000);
    const client = await asked("farm-radio", false);
    expect(snmpFigures(client, null).level0Dbm).toBeLessThan(-20);
    expect(snmpFigures(client, null).level1Dbm).toBeUndefined();
    const { samples, strangers } = clientSamples(world, "sector", await asked("sector", true));
    expect([samples.length, strangers]).toEqual([1, 0]);
    expect(samples[0]!.values.level0Dbm).toBeLessThan(-20);
    expect(samples[0]!.values.level1Dbm).toBeUndefined();
  } finally {
    standIns.stop();
  }
}, 60_000);

test("customers' stand-ins report at a door by themselves, as JSON and as CSV, and are not asked besides", async () => {
  const got: { type: string; by: string; text: string }[] = [];
  const server = createServer((request, response) => {
    const chunks: Buffer[] = [];
    request.on("data", (chunk: Buffer) => chunks.push(chunk));
    request.on("end", () => {
      const bytes = Buffer.concat(chunks);
      const type = request.headers["content-type"] ?? "";
      const token = (request.headers.authorization ?? "").replace("Bearer ", "");
      got.push({ type, by: token, text: bytes.toString() });
      void mayReport(store, PLAN, token).then((may) => {
        response.statusCode = may === "may" && got.length < 3 ? 200 : 503;
        response.end(may);
      });
    });
  });
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  const { port } = server.address() as AddressInfo;
  endStandInsBut(new Set());
  const context = (await planContext(store, PLAN))!;
  const { world } = await context.load();
  const door = () => `http://127.0.0.1:${port}/`;
  const round = await pollStandIns(store, PLAN, context, live, door);
  // The valley has one customer; an access point and both ends of a bridge are asked.
  expect(round).toEqual({ asked: world.radios.size - 1, answered: world.radios.size - 1 });
  expect(got.map(({ type }) => type)).toEqual(["application/json"]);
  const [sample, ...more] = await readSamples(Buffer.from(got[0]!.text), false);
  expect(more).toEqual([]);
  expect(sample).toMatchObject({ series: endSeries("access", "b"), noiseDbm: expect.any(Number) });
  expect(isStandInToken(PLAN, got[0]!.by)).toBe(true);
  expect(await mayReport(store, PLAN, `${got[0]!.by}x`)).toBe("notKnown");
  expect(isStandInToken("another", got[0]!.by)).toBe(false);

  // The same figures as CSV.
  const watched = await context.ask("watched");
  const devices = standInDevices(world, watched, live)!.map((one) => ({ ...one, speaks: "csv" as const }));
  const some = devices.filter(({ radioId }) => radioId === "farm-radio");
  const standIns = startStandIns(some, memoryOf(77, -1), { address: door(), token: got[0]!.by });
  await standIns.tellAt(Date.now() / 3_600_000);
  expect(got[1]!.type).toBe("text/csv");
  expect((await readSamples(Buffer.from(got[1]!.text), true))[0]).toMatchObject({ series: endSeries("access", "b") });
  expect(standIns.portOf("farm-radio")).toBeNull();
  // What is not taken is told with what was said.
  await expect(standIns.tellAt(Date.now() / 3_600_000)).rejects.toThrow("a report was not taken (503): may");
  standIns.stop();
  await expect(pollStandIns(store, PLAN, context, live, door)).rejects.toThrow("not taken");
  endStandInsBut(new Set());
  expect(isStandInToken(PLAN, got[0]!.by)).toBe(false);
  server.close();
}, 60_000);
