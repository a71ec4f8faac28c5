import { expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  addSample,
  alarmsOf,
  AT,
  DAY_MS,
  daysIn,
  departures,
  emptyBuckets,
  emptyFineDay,
  emptyMonth,
  firstDayOf,
  joinedHours,
  layDay,
  leafShare,
  linkDays,
  METRIC_COUNT,
  monthOfDay,
  packBuckets,
  packFineDay,
  pushedSampleSchema,
  rankCauses,
  receive,
  rollUp,
  rootAlarms,
  unpackBuckets,
  unpackFineDay,
  watchedOf,
  watchSummary,
  type Delivered,
  type LinkAlarm,
  type WatchedLink,
} from "#core/watch";
import { answering } from "#core/outcome";
import { valley } from "#core/testing";

const cell = (slot: number, metric: keyof typeof AT) => slot * METRIC_COUNT + AT[metric];

test("five-minute slots keep least, mean, most and count, and a minute counts once", () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.nat(1439), fc.integer({ min: -900, max: -400 })), { maxLength: 60 }), (told) => {
      const day = emptyFineDay();
      const first = new Map<number, number>();
      for (const [minute, tenths] of told) {
        const isNew = addSample(day, 0, { seriesId: "x", atMs: minute * 60_000, values: { level0Dbm: tenths / 10 } });
        expect(isNew).toBe(!first.has(minute));
        if (isNew) first.set(minute, tenths / 10);
      }
      const hours = emptyBuckets(24);
      rollUp(day, 12, hours, 0);
      for (let hour = 0; hour < 24; hour++) {
        const own = [...first].filter(([minute]) => Math.floor(minute / 60) === hour).map(([, level]) => level);
        expect(hours.count[cell(hour, "level0Dbm")]).toBe(own.length);
        if (own.length === 0) continue;
        expect(hours.least[cell(hour, "level0Dbm")]).toBeCloseTo(Math.min(...own), 4);
        expect(hours.most[cell(hour, "level0Dbm")]).toBeCloseTo(Math.max(...own), 4);
        expect(hours.mean[cell(hour, "level0Dbm")]).toBeCloseTo(own.reduce((x, y) => x + y, 0) / own.length, 3);
      }
      // To within half a step of what it was, and nothing where nothing was.
      const back = unpackFineDay(packFineDay(day));
      expect([...back.minutes]).toEqual([...day.minutes]);
      expect([...back.count]).toEqual([...day.count]);
      const farthest = day.mean.reduce((most, level, i) => Math.max(most, Math.abs(back.mean[i]! - level)), 0);
      expect(farthest).toBeLessThanOrEqual(0.0251);
    }),
    { numRuns: 40 },
  );
  expect(() => unpackBuckets(new Uint8Array(7), 3)).toThrow("7 bytes are no 3 slots");
  expect(() => addSample(emptyFineDay(), DAY_MS, { seriesId: "x", atMs: 5, values: {} })).toThrow("another day");
  // Highest and lowest of what a metric can be.
  const edge = emptyBuckets(1);
  for (const key of ["least", "mean", "most"] as const) {
    edge[key][cell(0, "supplyV")] = 320;
    edge[key][cell(0, "level0Dbm")] = -140;
  }
  edge.count[cell(0, "supplyV")] = 65_535;
  edge.count[cell(0, "level0Dbm")] = 1;
  const kept = unpackBuckets(packBuckets(edge), 1);
  expect([kept.mean[cell(0, "supplyV")], kept.count[cell(0, "supplyV")], kept.mean[cell(0, "level0Dbm")]]).toEqual([
    320, 65_535, -140,
  ]);
});

test("months know their days, and a day laid in again takes the place of what stood there", () => {
  const day = Date.UTC(2028, 1, 29) / DAY_MS;
  const month = monthOfDay(day);
  expect([daysIn(month), day - firstDayOf(month), monthOfDay(0), monthOfDay(firstDayOf(month) - 1)]).toEqual([
    ...[29, 28, 0, month - 1],
  ]);
  const kept = emptyMonth(month);
  const fine = emptyFineDay();
  addSample(fine, 0, { seriesId: "x", atMs: 0, values: { rainMmPerH: 4 } });
  layDay(kept, month, day, fine);
  layDay(kept, month, day, fine);
  expect([kept.hours.count[cell(28 * 24, "rainMmPerH")], kept.days.count[cell(28, "rainMmPerH")]]).toEqual([1, 1]);
  layDay(kept, month, day, emptyFineDay());
  expect(kept.days.count[cell(28, "rainMmPerH")]).toBe(0);
  // Later pieces go before earlier ones, and what lies outside is left out.
  const piece = (fromHour: number, value: number) => {
    const hours = emptyBuckets(3);
    for (let slot = 0; slot < 3; slot++)
      [hours.mean[cell(slot, "windMPerS")], hours.count[cell(slot, "windMPerS")]] = [value, 1];
    return { fromHour, hours };
  };
  const joined = joinedHours(10, 4, [piece(9, 1), piece(11, 2), piece(50, 3)]).hours;
  expect([0, 1, 2, 3].map((slot) => joined.mean[cell(slot, "windMPerS")])).toEqual([1, 2, 2, 2]);
});

test("what comes from the future, too late or of nobody known is left out and counted", () => {
  const now = Date.UTC(2026, 10, 20, 12);
  const at = (shiftMs: number) => new Date(now + shiftMs).toISOString();
  const { samples, received } = receive(
    [
      { series: "a", at: at(0), level0Dbm: -60 },
      { series: "a", at: at(4 * 60_000) },
      { series: "a", at: at(6 * 60_000) },
      { series: "a", at: at(-11 * DAY_MS) },
      { series: "b", at: at(0) },
    ],
    (id) => id === "a",
    now,
  );
  expect(received).toEqual({ kept: 2, ahead: 1, tooLate: 1, unknown: 1, skewMs: 360_000 });
  expect(samples[0]).toEqual({ seriesId: "a", atMs: now, values: { level0Dbm: -60 } });
  expect(pushedSampleSchema.safeParse({ series: "a", at: at(0), level0Dbm: 21 }).error!.issues[0]!.message).toBe(
    "must be 20 dBm or less",
  );
  expect(pushedSampleSchema.safeParse({ series: "a", at: at(0), levle: 1 }).success).toBe(false);
});

test("leaves come in spring and go in autumn, half a year apart on either side of the equator", () => {
  expect([leafShare(10, 50), leafShare(120, 50), leafShare(200, 50), leafShare(300, 50), leafShare(340, 50)]).toEqual([
    ...[0, 0.5, 1, 0.5, 0],
  ]);
  expect(leafShare(10, -50)).toBe(1);
  expect(leafShare(200, -50)).toBe(0);
});

test("a figure that left its usual value is told by the day on which the sum passes its limit, and ends when it is back", () => {
  const bounds = { learnDays: 3, slack: 1, limit: 3, backDays: 2 };
  // Usual 0. From the fourth day on −3: each day adds 2, the second passes 3.
  const figures = [0, 0.2, -0.2, 0, -3, -3, -3, null, -3, 0.5, 0, 0, -0.9, -0.9, -0.9];
  const [one, ...more] = departures(figures, bounds);
  expect(more).toEqual([]);
  expect(one).toMatchObject({ since: 4, raisedAt: 5, endedAt: 10, usual: 0, direction: -1, reached: -3 });
  // Within the slack for ever is nothing; upward only where upward is asked for.
  expect(departures([0, 0, 0, ...Array(50).fill(-0.99)], bounds)).toEqual([]);
  expect(departures([0, 0, 0, -9, -9], bounds, "up")).toEqual([]);
  expect(departures([0, 0, 0, 9, 9], bounds, "up")[0]).toMatchObject({ direction: 1 });
  // Learned anew after work: what it came to is the usual now.
  expect(departures([0, 0, 0, -9, -9, -9, -9, -9, -9], bounds, "both", [5])).toEqual([
    expect.objectContaining({ raisedAt: 3, endedAt: 5 }),
  ]);
});

const LINK: WatchedLink = {
  ...{
    linkId: "bridge",
    chains: 2,
    levelDbm: { a: -60, b: -61 },
    noiseDbm: { a: -92, b: -92 },
    rateMbps: { a: 100, b: 100 },
  },
  ...{
    bandDb: 4,
    latDeg: 40,
    leafDb: 0,
    offDeg: { a: { azimuthDeg: 0, elevationDeg: 0 }, b: { azimuthDeg: 0, elevationDeg: 0 } },
    isSolar: { a: false, b: false },
  },
  ...{ availabilityPercent: 99.9, worstMonthPercent: 99.5, availabilityBound: null },
};
/** A link as it should be for so many days, but for what is said otherwise of an end at an hour. */
function delivered(
  days: number,
  told: (side: "a" | "b", hour: number) => Partial<Record<keyof typeof AT, number>> | null,
): Delivered {
  const fromHour = (Date.UTC(2026, 0, 1) / DAY_MS) * 24;
  const series = (of: (hour: number) => Partial<Record<keyof typeof AT, number>> | null) => {
    const hours = emptyBuckets(days * 24);
    for (let slot = 0; slot < hours.slots; slot++)
      for (const [key, value] of Object.entries(of(slot) ?? {})) {
        const at = cell(slot, key as keyof typeof AT);
        hours.least[at] = hours.mean[at] = hours.most[at] = value;
        hours.count[at] = 1;
      }
    return { fromHour, hours };
  };
  const end = (side: "a" | "b") =>
    series((hour) => {
      const said = told(side, hour);
      const level = LINK.levelDbm[side];
      return (
        said && {
          level0Dbm: level,
          level1Dbm: level,
          noiseDbm: -92,
          rateMbps: 100,
          uptimeMin: 60 * (1 + hour),
          ...said,
        }
      );
    });
  return {
    a: end("a"),
    b: end("b"),
    weather: series(() => ({ windMPerS: 5, rainMmPerH: 0, temperatureC: 15 })),
    asked: series(() => ({ seriesTold: 2 })),
  };
}
const alarms = (given: Delivered, changes: number[] = []) => alarmsOf(LINK, linkDays(LINK, given), { changes });

test("nothing strays on a link that does what it promised", () => {
  expect(alarms(delivered(90, () => ({})))).toEqual([]);
});

test("each kind of straying is one alarm with its size, its end and its causes", () => {
  const from = 40 * 24;
  const both = (db: number) =>
    delivered(70, (side, hour) =>
      hour < from ? {} : { level0Dbm: LINK.levelDbm[side] - db, level1Dbm: LINK.levelDbm[side] - db },
    );
  const [fell, ...rest] = alarms(both(3));
  expect(rest).toEqual([]);
  expect(fell).toMatchObject({
    kind: "level",
    side: null,
    what: "the level fell by 3.0 dB, both ways",
    endedDay: null,
  });
  expect(fell!.sinceDay - Date.UTC(2026, 0, 1) / DAY_MS).toBe(40);
  expect(fell!.raisedDay - fell!.sinceDay).toBeLessThanOrEqual(3);
  expect(fell!.causes.reduce((sum, { odds }) => sum + odds, 0)).toBeCloseTo(1);
  expect(alarms(both(0.8))).toEqual([]);

  const [chain] = alarms(delivered(70, (side, hour) => (side === "b" && hour >= from ? { level1Dbm: -85 } : {})));
  expect(chain!.causes[0]).toMatchObject({ cause: "chainDead" });

  const noisy = delivered(70, (side, hour) => (side === "b" && hour >= from ? { noiseDbm: -84 } : {}));
  expect(alarms(noisy)[0]).toMatchObject({ kind: "noise", side: "b", what: "noise rose by 8.0 dB" });
  expect(alarms(noisy)[0]!.causes[0]!.cause).toBe("outsider");
  const evenings = (hour: number) => hour >= from && (hour % 24 >= 20 || hour % 24 < 4);
  const byHours = delivered(70, (side, hour) => (side === "b" && evenings(hour) ? { noiseDbm: -82 } : {}));
  expect(alarms(byHours)[0]!.what).toMatch(/^noise rose by \d+\.\d dB, from 20 to 4 h UTC$/);
  // The same on the day on which the plan was changed is most likely its doing.
  expect(alarms(noisy, [Date.UTC(2026, 0, 1) / DAY_MS + 40])[0]!.causes[0]!.cause).toBe("ownChange");

  const nightly = delivered(70, (side, hour) =>
    side === "a" && hour >= from ? { uptimeMin: 60 * (((hour + 21) % 24) + 0.5) } : {},
  );
  expect(alarms(nightly)[0]).toMatchObject({ kind: "restarts", side: "a" });
  expect(alarms(nightly)[0]!.causes[0]!.cause).toBe("firmware");

  const silent = delivered(70, (_, hour) => (hour >= from && hour < from + 30 ? null : {}));
  expect(alarms(silent)).toEqual([
    expect.objectContaining({ kind: "silence", what: "silent for up to 24 hours a day" }),
  ]);
  // Nobody was asked in that time: a gap is no outage.
  const unasked = { ...silent, asked: delivered(70, () => ({})).asked! };
  for (let hour = from; hour < from + 30; hour++) unasked.asked.hours.count[cell(hour, "seriesTold")] = 0;
  expect(alarms(unasked)).toEqual([]);

  const full = delivered(70, (side, hour) => (side === "a" && hour >= from ? { airtimePercent: 97 } : {}));
  expect(alarms(full)[0]).toMatchObject({
    kind: "airtime",
    causes: [expect.objectContaining({ cause: "overload", odds: 1 })],
  });

  const wrong = delivered(40, (side) => ({ level0Dbm: LINK.levelDbm[side] - 7, level1Dbm: LINK.levelDbm[side] - 7 }));
  expect(alarms(wrong)).toEqual([
    expect.objectContaining({ kind: "prediction", what: "7.0 dB under the prediction from the first day on" }),
  ]);
});

test("what strays months later on a link that strayed before is another alarm", () => {
  const [from, later] = [30 * 24, 90 * 24];
  const found = alarms(
    delivered(130, (side, hour) => ({
      ...(hour >= from && side === "a" ? { noiseDbm: -82 } : {}),
      ...(hour >= later ? { level0Dbm: LINK.levelDbm[side] - 4, level1Dbm: LINK.levelDbm[side] - 4 } : {}),
    })),
  );
  expect(found.map(({ kind, endedDay }) => [kind, endedDay])).toEqual([
    ["noise", null],
    ["level", null],
  ]);
});

test("evidence against a cause lowers its odds", () => {
  const features = {
    ...{
      lossDb: 3,
      suddenness: 1,
      imbalanceDb: { a: 0, b: 0 },
      noiseDb: { a: 0, b: 0 },
      rateLost: 0,
      windRank: 0.99,
      rainRank: 0.2,
    },
    ...{
      lowestC: 12,
      leavesGrown: 0,
      noisyHours: [],
      sameHourShare: 0,
      fullSupplyPercent: 0,
      hasEnded: false,
      lastedDays: 30,
    },
  };
  const odds = (set: Partial<typeof features>, cause: string) =>
    rankCauses(new Set(["level"]), { ...features, ...set }, false).find((one) => one.cause === cause)!.odds;
  expect(odds({}, "moved")).toBeGreaterThan(0.7);
  expect(odds({ windRank: 0.3 }, "moved")).toBeLessThan(odds({}, "moved"));
  expect(odds({ suddenness: 0.1, leavesGrown: 0.6 }, "pathGrown")).toBeGreaterThan(0.6);
  expect(odds({ lowestC: -4, hasEnded: true, lastedDays: 6 }, "ice")).toBeGreaterThan(0.7);
});

test("a bridge that falls silent takes all behind it along; an access point that strays is one alarm", () => {
  const { world } = valley(0, (rows) => {
    for (const site of rows.sites) site.isFeed = site.id === "east";
    for (const number of [2, 3]) {
      rows.radios.push({ ...rows.radios.find(({ id }) => id === "farm-radio")!, id: `farm-radio-${number}` });
      rows.links.push({
        ...rows.links.find(({ id }) => id === "access")!,
        id: `access-${number}`,
        bRadioId: `farm-radio-${number}`,
      });
    }
  });
  const alarm = (linkId: string, kind: LinkAlarm["kind"], raisedDay = 100): LinkAlarm => ({
    ...{
      linkId,
      kind,
      kinds: [kind],
      side: null,
      sinceDay: raisedDay,
      raisedDay,
      endedDay: null,
      what: "",
      size: { value: 1, unit: "" },
      changeDb: null,
      causes: [],
      noiseChangeDb: { a: 0, b: 0 },
    },
  });
  const near = [...world.links.values()].filter(({ kind }) => kind === "access").map(({ id }) => id);
  const silent = rootAlarms(world, [...near.map((id) => alarm(id, "silence")), alarm("bridge", "silence")]);
  expect(silent).toEqual([expect.objectContaining({ linkId: "bridge", linkIds: ["bridge", ...near], radioId: null })]);
  const jammed = rootAlarms(
    world,
    near.slice(0, 2).map((id) => alarm(id, "noise")),
  );
  expect(jammed).toEqual([
    expect.objectContaining({ radioId: world.links.get(near[0]!)!.aRadioId, linkIds: near.slice(0, 2) }),
  ]);
  // One of three alone is his own, and weeks apart are two.
  expect(rootAlarms(world, [alarm(near[0]!, "noise")])).toEqual([expect.objectContaining({ radioId: null })]);
  expect(rootAlarms(world, [alarm(near[0]!, "noise"), alarm(near[1]!, "noise", 130)])).toHaveLength(2);
});

test("a link's year is summed up against what its tape promised", () => {
  const given = delivered(60, (side, hour) =>
    hour >= 240 && hour < 252 ? null : hour >= 252 && hour < 276 && side === "a" ? { rateMbps: 20 } : {},
  );
  const summary = watchSummary(LINK, given);
  expect(summary).toMatchObject({ state: "asPromised", deviationDb: 0, rateShare: 1, levelDbm: { a: -60, b: -61 } });
  expect(summary.upPercent).toBeCloseTo(100 * (1 - 12 / 1440));
  expect(summary.goodPercent).toBeCloseTo(100 * (1 - 36 / 1440));
  expect(summary.worstMonth).toMatchObject({ month: monthOfDay(Date.UTC(2026, 0, 5) / DAY_MS) });
  expect(summary.months.map(({ hoursAsked }) => hoursAsked)).toEqual([744, 672, 24]);
  const weak = watchSummary(
    LINK,
    delivered(30, (side) => ({ level0Dbm: LINK.levelDbm[side] - 5, level1Dbm: LINK.levelDbm[side] - 5 })),
  );
  expect([weak.state, weak.deviationDb]).toEqual(["below", -5]);
  const gone = watchSummary(
    LINK,
    delivered(30, (_, hour) => (hour > 480 ? null : {})),
  );
  expect(gone.state).toBe("silent");
  const never = watchSummary(
    LINK,
    delivered(30, () => null),
  );
  expect(never).toMatchObject({ state: "unknown", upPercent: null, goodPercent: null, worstMonth: null });
});

test("what is promised is what the tape says: one chain's level, noise and rate toward each end", () => {
  const { world, between } = valley();
  const link = world.links.get("bridge")!;
  const answer = answering(world, between)(link);
  const { aToB, bToA } = answer.path!;
  const promised = watchedOf(world, link, answer)!;
  expect(promised.levelDbm).toEqual({ a: bToA.chainLevelDbm, b: aToB.chainLevelDbm });
  expect(promised.noiseDbm).toEqual({ a: bToA.noiseDbm, b: aToB.noiseDbm });
  expect(promised.rateMbps).toEqual({ a: bToA.rateMbps, b: aToB.rateMbps });
  expect(promised).toMatchObject({ leafDb: 0, bandDb: world.plan.proofDeviationDb, isSolar: { a: false, b: false } });
  expect(promised.worstMonthPercent).toBeLessThanOrEqual(promised.availabilityPercent);
  expect(watchedOf(world, link, { ...answer, path: null })).toBeNull();
});
