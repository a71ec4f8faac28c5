import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { runChanges, type ChannelAdapter, type RunGroup, type RunLine } from "#core/channels";
import { alarmsOf, linkDays, type CauseKind } from "#core/watch";
import {
  liveNetwork,
  memoryOf,
  pointingLossDb,
  polarizationLossDb,
  seedOf,
  simulateHours,
  toldAt,
  weatherHours,
  type Fault,
  type LiveFault,
  type SimulatedLink,
} from "#simulators";

const SEED = 77;
const FROM_HOUR = Date.UTC(2025, 6, 1) / 3_600_000;
const DAYS = 150;
const memory = memoryOf(SEED, 41);
const link = (faults: Fault[], set: Partial<SimulatedLink> = {}): SimulatedLink => ({
  ...{
    linkId: "one",
    chains: 2,
    levelDbm: { a: -58, b: -59 },
    noiseDbm: { a: -92, b: -92 },
    rateMbps: { a: 150, b: 120 },
  },
  ...{
    bandDb: 4,
    latDeg: 41,
    leafDb: 0,
    offDeg: { a: { azimuthDeg: 0, elevationDeg: 0 }, b: { azimuthDeg: 0, elevationDeg: 0 } },
    isSolar: { a: true, b: false },
    availabilityPercent: 99.9,
    worstMonthPercent: 99,
    availabilityBound: null,
  },
  ...{ seed: seedOf(SEED, "one"), rainDbPerMmPerH: 0.1, biasDb: 1, leafFactor: 1.1, busyMbps: 20, airtimePercent: 40 },
  growth: { percentAYear: 0, fromHour: FROM_HOUR },
  ...{ supplyV: { a: 24, b: 48 }, faults },
  ...set,
});
const alarms = (one: SimulatedLink) => {
  const played = (side: "a" | "b") => simulateHours(one, side, FROM_HOUR, DAYS * 24, memory);
  const weather = weatherHours(FROM_HOUR, DAYS * 24, memory);
  return alarmsOf(one, linkDays(one, { a: played("a"), b: played("b"), weather, asked: null }));
};
const fromHour = FROM_HOUR + 24 * 60;

test("the same link tells the same at the same moment, whatever was asked before", () => {
  const one = link([]);
  const first = toldAt(one, "a", fromHour + 0.25, memory);
  toldAt(one, "b", fromHour + 900, memory);
  expect(toldAt(one, "a", fromHour + 0.25, memoryOf(SEED, 41))).toEqual(first);
  expect(toldAt(one, "a", fromHour + 0.5, memory)).not.toEqual(first);
  expect([pointingLossDb(3, 6), polarizationLossDb(60)]).toEqual([3, expect.closeTo(6.02, 2)]);
});

test("traffic grows by the year, and a sector's time with it", () => {
  const still = link([]);
  const growing = link([], { growth: { percentAYear: 50, fromHour: FROM_HOUR } });
  // Noon, a year and two years on: the busy hours are the same ones.
  for (const years of [0, 1, 2]) {
    const hour = FROM_HOUR + years * 8766 + 12;
    const [was, is] = [toldAt(still, "a", hour, memory)!, toldAt(growing, "a", hour, memory)!];
    expect(is.airtimePercent! / was.airtimePercent!).toBeCloseTo(1.5 ** (years + 12 / 8766), 6);
    if (is.throughputMbps! < is.rateMbps! * 0.8) expect(is.throughputMbps).toBeGreaterThanOrEqual(was.throughputMbps!);
    expect(is.level0Dbm).toBe(was.level0Dbm);
  }
});

test("a quiet year raises nothing; each fault is found and named", () => {
  expect(alarms(link([]))).toEqual([]);
  const cases: [Fault, CauseKind][] = [
    [{ kind: "moved", side: "a", degrees: 3.2, beamwidthDeg: 6, fromHour: stormiest() }, "moved"],
    [{ kind: "water", side: "b", chain: 1, dbPerWetWeek: 0.8, fromHour }, "water"],
    [{ kind: "chainDead", side: "a", chain: 0, fromHour }, "chainDead"],
    [{ kind: "restarts", side: "b", atHour: 4, fromHour }, "firmware"],
    [{ kind: "outsider", side: "a", riseDb: 9, onlyByDay: true, fromHour }, "outsider"],
    [{ kind: "battery", side: "a", voltsPerMonth: 0.9, fromHour }, "battery"],
    [{ kind: "shade", side: "a", fromHour }, "shade"],
  ];
  for (const [fault, cause] of cases) {
    const found = alarms(link([fault]));
    expect([fault.kind, found.length, found[0]?.causes[0]?.cause]).toEqual([fault.kind, 1, cause]);
    expect(found[0]!.raisedDay).toBeGreaterThanOrEqual(Math.floor(fault.fromHour / 24));
  }
});
function stormiest(): number {
  let best = fromHour;
  for (let hour = fromHour; hour < fromHour + 24 * 40; hour++)
    if (memory.weather(hour).windMPerS > memory.weather(best).windMPerS) best = hour;
  return best;
}

test("what went by itself ends its alarm", () => {
  const [one, ...more] = alarms(
    link([{ kind: "outsider", side: "a", riseDb: 9, onlyByDay: false, fromHour, untilHour: fromHour + 24 * 20 }]),
  );
  expect(more).toEqual([]);
  const gone = Math.floor(fromHour / 24) + 20;
  expect(one!.endedDay).toBeGreaterThanOrEqual(gone);
  expect(one!.endedDay).toBeLessThanOrEqual(gone + 6);
});

const group = (number: number, followers: number, radarWaitS = 0): RunGroup => ({
  ...{ name: `group ${number}`, leaderId: `ap-${number}`, fromMHz: 5500, toMHz: 5640, radarWaitS, hasSpareWay: null },
  powers: {},
  followerIds: Array.from({ length: followers }, (_, i) => `client-${number}-${i}`),
});

test("a change of channels that nothing disturbs is done, farthest first, the leader last", async () => {
  const live = liveNetwork([group(1, 3, 60)], { seed: 1, faults: [], lostShare: 0 });
  const lines: RunLine[] = [];
  const reports = await runChanges([group(1, 3, 60)], live.adapter, {
    say: (line) => lines.push(line),
    isStopped: () => false,
  });
  expect(reports).toEqual([{ name: "group 1", state: "done", why: "", missing: [] }]);
  const tried = lines.filter(({ text }) => text.startsWith("on trial")).map(({ radioId }) => radioId);
  expect(tried).toEqual(["client-1-0", "client-1-1", "client-1-2", "ap-1"]);
  expect(await live.adapter.ask("client-1-0")).toMatchObject({ frequencyMHz: 5640, hearsFarEnd: true });
});

test("a radio that does not answer before keeps its group where it is, and those after it", async () => {
  const faults: LiveFault[] = [{ radioId: "client-1-1", atS: 0, kind: "powerCut", lastsS: 9000 }];
  const live = liveNetwork([group(1, 3), group(2, 2)], { seed: 1, faults, lostShare: 0 });
  const reports = await runChanges([group(1, 3), group(2, 2)], live.adapter, {
    say: () => undefined,
    isStopped: () => false,
  });
  expect(reports.map(({ state, missing }) => [state, missing])).toEqual([
    ["notBegun", ["client-1-1"]],
    ["notBegun", []],
  ]);
  expect(await live.adapter.ask("ap-1")).toMatchObject({ frequencyMHz: 5500 });
});

/** A group whose channel stays and of which some radios send with another power. */
const powered = (powers: RunGroup["powers"]): RunGroup => ({ ...group(1, 3), toMHz: 5500, powers });
const runPowers = async (powers: RunGroup["powers"], marginDb: number) => {
  const live = liveNetwork([powered(powers)], {
    ...{ seed: 1, faults: [], lostShare: 0 },
    marginDb: new Map([["client-1-1", marginDb]]),
  });
  const lines: RunLine[] = [];
  const say = (line: RunLine) => void lines.push(line);
  const [report] = await runChanges([powered(powers)], live.adapter, { say, isStopped: () => false });
  const says = async (id: string) => (await live.adapter.ask(id))!;
  return { report: report!, lines, says };
};

test("where only powers change, only those radios are told, on trial as well", async () => {
  const { report, lines, says } = await runPowers({ "client-1-1": { fromDbm: 20, toDbm: 16 } }, 5);
  expect(report.state).toBe("done");
  expect(lines.flatMap(({ radioId, text }) => (radioId === null ? [] : [[radioId, text]]))).toEqual([
    [
      "client-1-1",
      expect.stringMatching(/^on trial on 5500 MHz with 16 dBm, all chains together, back by itself after \d+ min$/),
    ],
    ["client-1-1", "keeps it"],
  ]);
  expect(await says("client-1-1")).toMatchObject({ powerDbm: 16, hearsFarEnd: true });
  expect(await says("ap-1")).toMatchObject({ powerDbm: 20, frequencyMHz: 5500 });
});

test("a power that carries no more goes back by itself, whichever end it is of", async () => {
  const tooLow: RunGroup["powers"][] = [
    { "client-1-1": { fromDbm: 20, toDbm: 14 } },
    { "ap-1": { fromDbm: 23, toDbm: 17 }, "client-1-0": { fromDbm: 20, toDbm: 19 } },
  ];
  for (const powers of tooLow) {
    const { report, says } = await runPowers(powers, 5);
    expect(report).toMatchObject({ state: "wentBack", why: "not everyone was found as it shall be", missing: [] });
    for (const [id, { fromDbm }] of Object.entries(powers))
      expect(await says(id)).toMatchObject({ powerDbm: fromDbm, hearsFarEnd: true });
    expect((await runPowers(powers, 7)).report.state).toBe("done");
  }
});

test("a radio that sends with another power than the plan says keeps its group as it is", async () => {
  const live = liveNetwork([group(1, 3)], { seed: 1, faults: [], lostShare: 0 });
  const [report] = await runChanges([powered({ "client-1-1": { fromDbm: 23, toDbm: 20 } })], live.adapter, {
    ...{ say: () => undefined, isStopped: () => false },
  });
  expect(report).toMatchObject({
    state: "notBegun",
    why: "a radio stands on 5500 MHz with 20 dBm, all chains together instead of 5500 MHz with 23 dBm, all chains together",
  });
});

test("stopped in the middle, everyone goes back", async () => {
  const live = liveNetwork([group(1, 4)], { seed: 3, faults: [], lostShare: 0 });
  let told = 0;
  const reports = await runChanges([group(1, 4)], live.adapter, { say: () => told++, isStopped: () => told > 3 });
  expect(reports[0]).toMatchObject({ state: "wentBack", why: "stopped", missing: [] });
  expect(await live.adapter.ask("client-1-0")).toMatchObject({ frequencyMHz: 5500, hearsFarEnd: true });
});

test("a leader that kept the channel without a word is fetched back, and its clients find it meanwhile", async () => {
  // Every answer to "keep it" is lost, and the first three orders to go back are not heard.
  const live = liveNetwork([group(1, 2)], { seed: 1, faults: [], lostShare: 0 });
  let unheard = 3;
  const adapter: ChannelAdapter = {
    ...live.adapter,
    keep: async (radioId) => (await live.adapter.keep(radioId)) && radioId !== "ap-1",
    giveBack: (radioId, air) =>
      radioId === "ap-1" && unheard-- > 0 ? Promise.resolve(false) : live.adapter.giveBack(radioId, air),
  };
  const [report] = await runChanges([group(1, 2)], adapter, { say: () => undefined, isStopped: () => false });
  expect(report).toMatchObject({
    state: "wentBack",
    why: "a radio did not say that it keeps what it is on",
    missing: [],
  });
  for (const id of ["ap-1", "client-1-0", "client-1-1"])
    expect(await live.adapter.ask(id)).toMatchObject({ frequencyMHz: 5500, hearsFarEnd: true });
});

test("who is never reached again is told as missing, though it is heard on the other channel", async () => {
  const live = liveNetwork([group(1, 2)], { seed: 1, faults: [], lostShare: 0 });
  const adapter: ChannelAdapter = {
    ...live.adapter,
    keep: async (radioId) => (await live.adapter.keep(radioId)) && radioId !== "ap-1",
    giveBack: () => Promise.resolve(false),
  };
  const [report] = await runChanges([group(1, 2)], adapter, { say: () => undefined, isStopped: () => false });
  expect(report).toMatchObject({ state: "lost", missing: ["client-1-0", "client-1-1", "ap-1"] });
  expect(live.lost()).toEqual([]);
});

test("whatever restarts, loses its power, meets a radar or is not answered: no device is lost", async () => {
  const fault = fc.record({
    radioId: fc.constantFrom("ap-1", "client-1-0", "client-1-1", "client-1-2"),
    atS: fc.nat(900),
    kind: fc.constantFrom("restart", "powerCut", "radar", "deaf"),
    lastsS: fc.integer({ min: 30, max: 1500 }),
  }) as fc.Arbitrary<LiveFault>;
  await fc.assert(
    fc.asyncProperty(
      fc.array(fault, { maxLength: 5 }),
      fc.nat(1e6),
      fc.double({ min: 0, max: 0.15, noNaN: true }),
      fc.boolean(),
      fc.array(fc.tuple(fc.constantFrom("ap-1", "client-1-0", "client-1-1"), fc.integer({ min: -20, max: 6 }))),
      async (faults, seed, lostShare, isMoved, powered) => {
        const all = {
          ...group(1, 3, 60),
          ...(isMoved ? {} : { toMHz: 5500 }),
          powers: Object.fromEntries(powered.map(([id, byDb]) => [id, { fromDbm: 20, toDbm: 20 + byDb }])),
        };
        const live = liveNetwork([all], { seed, faults, lostShare });
        await runChanges([all], live.adapter, { say: () => undefined, isStopped: () => false });
        live.settle(7200);
        expect(live.lost()).toEqual([]);
      },
    ),
    { numRuns: 200 },
  );
});
