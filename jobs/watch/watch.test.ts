import { rmSync } from "node:fs";
import { inflateRawSync } from "node:zlib";
import { createServer as createHttp } from "node:http";
import { createServer as createTcp } from "node:net";
import type { AddressInfo } from "node:net";
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import {
  AT,
  DAY_MS,
  endSeries,
  firstDayOf,
  METRIC_COUNT,
  monthOfDay,
  PLAN_SERIES,
  radioSeries,
  watchSettingsSchema,
  UPTIME_OID,
  type Sample,
  type WatchedLink,
} from "#core/watch";
import { putPatch, worldOf, type Alarm } from "#core/plan";
import { valley } from "#core/testing";
import { foldPlan, pollPlan, readKnown, SNMP_SECRETS, withWatchThread } from "#monitoring";
import { startSnmpAgent, type SimulatedLink } from "#simulators";
import {
  addBatch,
  createPlan,
  openStore,
  putSecret,
  readBatches,
  readMonths,
  readWatch,
  recordChange,
  signedBy,
  readPlan,
  type Store,
} from "#store";
import { alarmText, isQuiet, tellOfAlarms, type Told } from "./tell";
import { unpackBatch } from "#wire";
import { begunDirectory } from "../../store/testing";

const directory = await begunDirectory("watch");
let store: Store;
const PLAN = "valley";
beforeAll(async () => {
  store = await openStore(directory);
  await createPlan(store.db, valley().rows, signedBy("test"), "Began");
});
afterAll(async () => {
  await store.close();
  rmSync(directory, { recursive: true, force: true });
});

const DAY = Math.floor(Date.UTC(2026, 10, 20) / DAY_MS);
const sample = (seriesId: string, minute: number, level0Dbm: number): Sample => ({
  ...{ seriesId, atMs: DAY * DAY_MS + minute * 60_000, values: { level0Dbm } },
});

async function hours(seriesId: string, fromDay: number, toDay: number) {
  const known = await readKnown(store, PLAN, [seriesId], fromDay, toDay);
  const [found] = await withWatchThread((thread) => thread.hours([known(seriesId)], fromDay, toDay));
  return found!;
}

test("what arrives is laid into five minutes, hours and days; sent twice, late or in pieces it comes to the same", async () => {
  const id = endSeries("bridge", "a");
  const first = [sample(id, 0, -60), sample(id, 1, -62), sample(id, 125, -70)];
  await addBatch(store.db, PLAN, first);
  await addBatch(store.db, PLAN, [...first, sample(id, 60 * 23, -50)]);
  await foldPlan(store, PLAN, (DAY + 1) * DAY_MS);
  expect(await readBatches(store.db, PLAN, 1000)).toEqual([]);
  const at = (slot: number) => slot * METRIC_COUNT + AT.level0Dbm;
  const same = async (fromDay: number) => {
    const { hours: found } = await hours(id, fromDay, DAY + 1);
    const shift = (DAY - fromDay) * 24;
    expect([found.count[at(shift)], found.least[at(shift)], found.most[at(shift)]]).toEqual([2, -62, -60]);
    expect(found.mean[at(shift)]).toBeCloseTo(-61);
    expect(found.count[at(shift + 1)]).toBe(0);
    expect([found.mean[at(shift + 2)], found.mean[at(shift + 23)]]).toEqual([-70, -50]);
  };
  await same(DAY);
  // The day is over: its month has it now, by hours and by days.
  await foldPlan(store, PLAN, (DAY + 3) * DAY_MS);
  const [month] = await readMonths(store.db, PLAN, [id], 0, 10_000);
  expect(month!.days.length).toBeGreaterThan(0);
  await same(DAY - 2);
  // A late one opens it again, and nothing of before is counted twice.
  await addBatch(store.db, PLAN, [...first, sample(id, 126, -72)]);
  await foldPlan(store, PLAN, (DAY + 3) * DAY_MS);
  const { hours: late } = await hours(id, DAY, DAY + 1);
  expect([late.count[at(0)], late.count[at(2)], late.mean[at(2)]]).toEqual([2, 2, -71]);
});

test("a year's look tells what a link through trees did at the other time of the year, unless it was changed since", async () => {
  const [aSeries, bSeries] = [endSeries("wooded", "a"), endSeries("wooded", "b")];
  const promised: WatchedLink = {
    ...{ linkId: "wooded", chains: 2, levelDbm: { a: -60, b: -61 }, noiseDbm: { a: -95, b: -95 } },
    ...{ rateMbps: { a: 80, b: 80 }, bandDb: 4, latDeg: -38, leafDb: 6, isSolar: { a: false, b: false } },
    ...{ availabilityPercent: 99.9, worstMonthPercent: 99.9, availabilityBound: null },
    offDeg: { a: { azimuthDeg: 0, elevationDeg: 0 }, b: { azimuthDeg: 0, elevationDeg: 0 } },
  };
  // Its leaves take half as much again as they should.
  const link: SimulatedLink = {
    ...{ ...promised, seed: 5, rainDbPerMmPerH: 0, biasDb: 0, leafFactor: 1.5, busyMbps: 20, airtimePercent: 30 },
    ...{ growth: { percentAYear: 0, fromHour: 0 }, supplyV: { a: 48, b: 48 }, faults: [] },
  };
  const untilDay = Math.floor(Date.UTC(2026, 6, 25) / DAY_MS);
  const [fromMonth, toMonth] = [untilDay - 300, untilDay].map(monthOfDay) as [number, number];
  const year = {
    seed: 5,
    latDeg: -38,
    fromMonth,
    toMonth,
    untilHour: untilDay * 24,
    links: [{ aSeries, bSeries, link }],
  };
  const looked = await withWatchThread(async (thread) => {
    const months = await thread.year({ ...year, shared: { weather: "weather", asked: "asked", told: 2 } });
    const known = (id: string) => ({ months: months.filter(({ seriesId }) => seriesId === id), days: [] });
    const [a, b, none] = [known(aSeries), known(bSeries), known("none")];
    const one = { link: promised, a, b, radioA: none, radioB: none, changes: [], anew: [] };
    const shared = { weather: known("weather"), asked: known("asked") };
    const links = [one, { ...one, changes: [untilDay - 20] }, { ...one, anew: [untilDay - 20] }];
    return thread.look({ fromDay: firstDayOf(fromMonth), toDay: untilDay, ...shared, links });
  });
  const [kept, changed, workedOn] = looked.summaries.map(({ otherSeason }) => otherSeason);
  expect(kept!.leaves).toBeGreaterThan(0.75);
  expect(Math.abs(kept!.deviationDb + 2.8)).toBeLessThan(0.5);
  expect([changed, workedOn]).toEqual([null, null]);
});

test("a fold that died is begun again and comes to the same", async () => {
  const id = endSeries("bridge", "b");
  await addBatch(store.db, PLAN, [sample(id, 10, -60), sample(id, 11, -64)]);
  // Laid, but its batch is still there: as if the process had died between the two.
  const [batch] = await readBatches(store.db, PLAN, 10);
  await foldPlan(store, PLAN, (DAY + 1) * DAY_MS);
  await store.db.query("INSERT INTO watch_batches (plan_id, samples, packed) VALUES ($1, 2, $2)", [
    PLAN,
    batch!.packed,
  ]);
  await foldPlan(store, PLAN, (DAY + 1) * DAY_MS);
  const { hours: found } = await hours(id, DAY, DAY + 1);
  const cell = AT.level0Dbm;
  expect([found.count[cell], found.mean[cell]]).toEqual([2, -62]);
});

test("devices are asked by SNMP, signed and in the open: uptime, throughput over a wrap, and what the model's objects mean", async () => {
  const LEVEL = "1.3.6.1.4.1.99999.1.1.0";
  const port = 16_100 + Math.floor(Math.random() * 2000);
  const near = 2n ** 64n - 1_000_000n;
  const user = { name: "watch", password: "password-of-watch", key: "key-of-the-watch" };
  const agent = await startSnmpAgent({
    ...{ port, community: "valley", user },
    objects: { [UPTIME_OID]: 360_000, [LEVEL]: -615 },
    counters: { index: 3, in: near, out: 0n },
  });
  const plan = (await readPlan(store.db, PLAN))!;
  const world = worldOf({
    ...plan,
    radios: plan.radios.map((radio) => ({ ...radio, address: radio.id === "west-east" ? "127.0.0.1" : "" })),
  });
  const radioModelId = world.radios.get("west-east")!.radioModelId;
  const settings = (version: "2c" | "3") =>
    watchSettingsSchema.parse({
      source: "devices",
      snmp: {
        ...{ isOn: true, version, user: user.name, port },
        models: [{ radioModelId, airInterface: 3, objects: [{ metric: "level0Dbm", oid: LEVEL, scale: 0.1 }] }],
      },
    });
  await putSecret(store, PLAN, SNMP_SECRETS.community, "valley");
  await putSecret(store, PLAN, SNMP_SECRETS.password, user.password);
  await putSecret(store, PLAN, SNMP_SECRETS.key, user.key);
  try {
    expect(await pollPlan(store, PLAN, world, settings("2c"))).toEqual({ asked: 1, answered: 1 });
    // The counter wraps: 1 000 000 to its end and 500 000 beyond.
    agent.tellCounters({ index: 3, in: 500_000n, out: 0n });
    agent.tell(UPTIME_OID, 366_000);
    expect(await pollPlan(store, PLAN, world, settings("3"))).toEqual({ asked: 1, answered: 1 });
    await putSecret(store, PLAN, SNMP_SECRETS.community, "another");
    expect(await pollPlan(store, PLAN, world, settings("2c"))).toEqual({ asked: 1, answered: 0 });
  } finally {
    agent.stop();
  }
  const batches = await readBatches(store.db, PLAN, 1000);
  const today = Math.floor(Date.now() / DAY_MS);
  expect(batches).toHaveLength(2);
  // 1 500 000 octets, 12 Mbit, within what went by between the two answers.
  const answers = batches.map(({ packed }) => unpackBatch(inflateRawSync(packed))[0]!);
  const seconds = (answers[1]!.atMs - answers[0]!.atMs) / 1000;
  expect(answers[0]!.values.throughputMbps).toBeUndefined();
  expect(answers[1]!.values.throughputMbps! * seconds).toBeCloseTo(12, 0);
  await foldPlan(store, PLAN, Date.now());
  const series = await hours(endSeries("bridge", "a"), today, today + 1);
  const told = await hours(PLAN_SERIES, today, today + 1);
  const known = [...Array(24).keys()].find((slot) => series.hours.count[slot * METRIC_COUNT + AT.level0Dbm]! > 0)!;
  const figure = (key: keyof typeof AT) => series.hours.most[known * METRIC_COUNT + AT[key]]!;
  expect(figure("level0Dbm")).toBeCloseTo(-61.5);
  expect(figure("uptimeMin")).toBeGreaterThanOrEqual(60);
  expect(told.hours.most[known * METRIC_COUNT + AT.seriesTold]).toBe(1);
  const { received } = await readWatch(store.db, PLAN);
  expect(received.snmp).toMatchObject({ kept: 0, silent: 1 });
});

test("an access point's table of clients gives each customer on it its own figures, by address or name; others are counted", async () => {
  const ENTRY = "1.3.6.1.4.1.99999.2.1";
  const port = 18_200 + Math.floor(Math.random() * 2000);
  const agent = await startSnmpAgent({
    ...{ port, community: "valley", objects: { [UPTIME_OID]: 360_000 } },
    table: {
      entryOid: ENTRY,
      rows: [
        ["10.9.8.7", -701, 45],
        ["Nobody's", -600, 90],
      ],
    },
  });
  const plan = (await readPlan(store.db, PLAN))!;
  const addresses: Record<string, string> = { sector: "127.0.0.1", "farm-radio": "10.9.8.7" };
  const world = worldOf({
    ...plan,
    radios: plan.radios.map((radio) => ({ ...radio, address: addresses[radio.id] ?? "" })),
  });
  const { radioModelId } = world.radios.get("sector")!;
  const clients = {
    whoColumn: `${ENTRY}.2`,
    objects: [
      { metric: "level0Dbm", oid: `${ENTRY}.3`, scale: 0.1 },
      { metric: "rateMbps", oid: `${ENTRY}.4`, scale: 1 },
    ],
  };
  const settings = watchSettingsSchema.parse({
    source: "devices",
    snmp: {
      isOn: true,
      version: "2c",
      user: "",
      port,
      models: [{ radioModelId, airInterface: 0, objects: [], clients }],
    },
  });
  await putSecret(store, PLAN, SNMP_SECRETS.community, "valley");
  const today = Math.floor(Date.now() / DAY_MS);
  try {
    // The farm's own radio answers at another address: nobody is there.
    expect(await pollPlan(store, PLAN, world, settings)).toEqual({ asked: 2, answered: 1 });
  } finally {
    agent.stop();
  }
  await foldPlan(store, PLAN, Date.now());
  const ofFarm = await hours(endSeries("access", "a"), today, today + 1);
  const known = [...Array(24).keys()].find((slot) => ofFarm.hours.count[slot * METRIC_COUNT + AT.level0Dbm]! > 0)!;
  const figure = (series: typeof ofFarm, key: keyof typeof AT) => series.hours.mean[known * METRIC_COUNT + AT[key]]!;
  expect([figure(ofFarm, "level0Dbm"), figure(ofFarm, "rateMbps")]).toEqual([expect.closeTo(-70.1, 1), 45]);
  // What the access point says of itself is its own, though it serves but one.
  expect(figure(await hours(radioSeries("sector"), today, today + 1), "uptimeMin")).toBe(60);
  expect((await readWatch(store.db, PLAN)).received.snmp).toMatchObject({ kept: 2, silent: 1, strangers: 1 });
});

test("alarms are told once, outside quiet hours, by e-mail and to a program; what failed is tried again", async () => {
  expect([isQuiet({ quietHours: { from: 22, to: 6 } }, 23), isQuiet({ quietHours: { from: 22, to: 6 } }, 6)]).toEqual([
    true,
    false,
  ]);
  expect([isQuiet({ quietHours: { from: 8, to: 10 } }, 9), isQuiet({ quietHours: null }, 9)]).toEqual([true, false]);
  const alarm: Alarm = {
    ...{ id: "alarm-1", planId: PLAN, linkId: "bridge", linkIds: ["bridge"], radioId: null, kind: "level" },
    ...{
      sinceDay: "2026-11-20",
      raisedDay: "2026-11-21",
      endedDay: "",
      what: "the level fell by 3.0 dB, both ways",
      value: 3,
      unit: "dB",
    },
    ...{
      causes: [{ cause: "moved", odds: 0.9, because: "in a storm" }],
      state: "open",
      seenBy: "",
      closedWhy: "",
      visitId: null,
    },
  };
  await recordChange(store.db, {
    planId: PLAN,
    ...signedBy("Tejado"),
    op: "a",
    what: "alarm",
    patches: [putPatch("alarms", alarm)],
  });
  const world = worldOf((await readPlan(store.db, PLAN))!);
  expect(alarmText(world, world.alarms.get("alarm-1")!)).toMatch(
    /since 2026-11-20 the level fell by 3.0 dB, both ways\.\n {2}90 %: An antenna has moved/,
  );
  const mails: string[] = [];
  const mail = createTcp((socket) => {
    let isData = false;
    socket.write("220 stand-in\r\n");
    socket.on("data", (bytes) => {
      const text = bytes.toString();
      if (isData) {
        mails.push(text);
        if (text.endsWith("\r\n.\r\n")) {
          isData = false;
          socket.write("250 taken\r\n");
        }
        return;
      }
      isData = text.startsWith("DATA");
      socket.write(isData ? "354 go on\r\n" : text.startsWith("EHLO") ? "250 stand-in\r\n" : "250 fine\r\n");
    });
    socket.on("error", () => undefined);
  });
  const posted: unknown[] = [];
  let status = 500;
  const hook = createHttp((request, response) => {
    let body = "";
    request.on("data", (bytes) => (body += bytes));
    request.on("end", () => {
      posted.push(JSON.parse(body));
      response.writeHead(status).end();
    });
  });
  const listen = (server: {
    listen: (port: number, host: string, done: () => void) => unknown;
    address: () => unknown;
  }) =>
    new Promise<number>((resolve) =>
      server.listen(0, "127.0.0.1", () => resolve((server.address() as AddressInfo).port)),
    );
  const [mailPort, hookPort] = [await listen(mail), await listen(hook)];
  const settings = watchSettingsSchema.parse({
    emails: ["ana@example.org"],
    webhook: `http://127.0.0.1:${hookPort}/alarms`,
    quietHours: { from: 22, to: 6 },
  });
  const tell = (hour: number) =>
    tellOfAlarms(store, PLAN, world, settings, new Date(Date.UTC(2026, 10, 21, hour)), `smtp://127.0.0.1:${mailPort}`);
  await tell(23);
  expect([mails.length, posted.length]).toEqual([0, 0]);
  await tell(7);
  const told = async () => (await readWatch(store.db, PLAN)).received.told as Told;
  expect(await told()).toMatchObject({ alarmIds: [], problem: "the webhook answered 500" });
  status = 200;
  await tell(8);
  expect(await told()).toMatchObject({ alarmIds: ["alarm-1"], problem: "" });
  const before = [mails.length, posted.length];
  await tell(9);
  expect([mails.length, posted.length]).toEqual(before);
  expect(mails.join("")).toMatch(/An antenna has moved/);
  expect(posted.at(-1)).toMatchObject({ alarms: [{ id: "alarm-1", kind: "level" }] });
  mail.close();
  hook.close();
});
