import { expect, test } from "@jest/globals";
import { answering } from "#core/outcome";
import {
  putPatch,
  setPatch,
  withPatches,
  type Alarm,
  type Measurement,
  type Patch,
  type World,
  USUAL,
} from "#core/plan";
import { promisedBy } from "#core/proof";
import { reading, town, valley, type Valley } from "#core/testing";
import { type LinkWatch } from "#core/watch";
import { learnableOf, learnedPage, type Learnable } from "#core/calibration";

test("a proof teaches by how far it stood over physics alone; one that most likely stands on a side lobe does not", () => {
  const reading = (offDb: number) => {
    const { world, between } = valley();
    const link = world.links.get("bridge")!;
    const answer = answering(world, between)(link);
    const { aToB, bToA } = answer.path!;
    const kept = {
      ...{
        id: "m",
        planId: "valley",
        linkId: "bridge",
        measuredAt: "2026-11-20T10:00:00Z",
        measuredBy: "Ana",
        notes: "",
      },
      ...{
        levelA0Dbm: bToA.chainLevelDbm + offDb,
        levelA1Dbm: null,
        levelB0Dbm: aToB.chainLevelDbm + offDb,
        levelB1Dbm: null,
      },
      ...{ noiseADbm: null, noiseBDbm: null, downMbps: null, upMbps: null },
      ...USUAL.measurements,
      ...promisedBy(world.plan, answer.path!),
    };
    const read = withPatches(world, [putPatch("measurements", kept)]);
    return learnedPage(read, [learnableOf(read, link, answer)!], []);
  };
  const page = reading(-3);
  expect(page.taughtBy).toEqual([expect.objectContaining({ linkId: "bridge", from: "proof" })]);
  expect(page.taughtBy[0]!.physicsErrorDb).toBeCloseTo(-3, 1);
  expect(page.before).toBeCloseTo(3, 1);
  // Held out in its turn nothing is left to learn from.
  expect(page.after).toBeCloseTo(page.before, 10);
  expect(page.learned.terms.every(({ value }) => value < 0)).toBe(true);
  expect(reading(-12).taughtBy).toEqual([]);
});

/** The valley's town whose radios all count with so much noise from outside. */
const noisyTown = (interferenceDb: number): Valley =>
  valley(0, (rows) => {
    town(rows);
    for (const radio of rows.radios) {
      radio.interferenceDb = interferenceDb;
      // Beside each other instead of on one channel, so that not everybody is drowned.
      if (/^(nw|ne|sector-2|r\d)$/.test(radio.id)) radio.frequencyMHz += 20;
    }
  });

const learnableIn = ({ between }: Valley, world: World): Learnable[] => {
  const answerIn = answering(world, between);
  return [...world.links.values()].flatMap((link) => learnableOf(world, link, answerIn(link)) ?? []);
};

/** A week of a link whose ends tell no more than their noise. */
const week = (linkId: string, a: number | null, b: number | null): LinkWatch => ({
  ...{ linkId, state: "asPromised", lastDay: 1, deviationDb: null, levelDbm: { a: null, b: null } },
  ...{ noiseDbm: { a, b }, rateShare: null, upPercent: null, goodPercent: null, worstMonth: null, months: [] },
  promised: {
    ...{ availabilityPercent: 99, worstMonthPercent: 99, availabilityBound: null },
    levelDbm: { a: -60, b: -60 },
  },
});
const inMw = (dbm: number) => 10 ** (dbm / 10);
const inDbm = (mw: number) => 10 * Math.log10(mw);

test("noise teaches by how far what comes from outside stood over what was set, the plan's own left out, each receiver once", () => {
  const made = noisyTown(2);
  const learnable = learnableIn(made, made.world);
  // Every receiver hears four decibels more from outside than was set, and the plan's own as reckoned.
  const heard = ({ outsideDbm, ownMw }: Learnable["noise"]["a"]) => inDbm(inMw(outsideDbm + 4) + ownMw);
  const weeks = learnable.map(({ linkId, noise }) => week(linkId, heard(noise.a), heard(noise.b)));
  const page = learnedPage(made.world, learnable, weeks);
  const { taughtBy, before, after } = page.noise;
  const told = new Set(taughtBy.map(({ radioId }) => radioId));
  expect(told.size).toBe(taughtBy.length);
  // Three customers of the second sector tell of one access point.
  expect(taughtBy.filter(({ radioId }) => radioId === "sector-2")).toHaveLength(1);
  expect(told.size).toBeGreaterThan(5);
  for (const { physicsErrorDb } of taughtBy) expect(physicsErrorDb).toBeCloseTo(4, 6);
  expect(before).toBeCloseTo(4, 6);
  expect(after).toBeLessThan(1);
  expect(page.taughtBy).toEqual([]);
  // In use, the town is reckoned with by it: thermal noise stays, what comes from outside rises.
  const patch: Patch = setPatch("plans", made.world.plan.id, { learned: page.learned });
  const world = withPatches(made.world, [patch]);
  const [taught, plain] = [learnableIn(made, world), learnable];
  expect(taught.map(({ noise }) => noise.b.outsideDbm)).toEqual(
    plain.map(({ noise }) => expect.closeTo(noise.b.outsideDbm, 9)),
  );
  expect(taught.map(({ noise }) => noise.b.ownMw)).toEqual(plain.map(({ noise }) => expect.closeTo(noise.b.ownMw, 15)));
  for (const [i, { spareDb }] of taught.entries()) {
    expect(plain[i]!.spareDb - spareDb).toBeGreaterThan(0.5);
    expect(plain[i]!.spareDb - spareDb).toBeLessThan(4.1);
  }
});

test("less than thermal noise teaches no less, and what the plan's own drown teaches nothing", () => {
  const made = noisyTown(2);
  const learnable = learnableIn(made, made.world);
  const all = (dbm: (one: Learnable["noise"]["a"]) => number) =>
    learnedPage(
      made.world,
      learnable,
      learnable.map(({ linkId, noise }) => week(linkId, dbm(noise.a), dbm(noise.b))),
    ).noise.taughtBy;
  const quiet = all(({ thermalDbm, ownMw }) => inDbm(inMw(thermalDbm) * 0.5 + ownMw));
  for (const { physicsErrorDb } of quiet) expect(physicsErrorDb).toBeCloseTo(-2, 6);
  expect(quiet.length).toBeGreaterThan(0);
  const hearsOwn = learnable.flatMap(({ noise: { a, b } }) => [a, b].filter(({ ownMw }) => ownMw > 0));
  expect(hearsOwn.length).toBeGreaterThan(0);
  const own = all(({ ownMw, outsideDbm }) => (ownMw > 0 ? inDbm(ownMw / 0.71) : outsideDbm));
  for (const { radioId } of hearsOwn) expect(own.map((one) => one.radioId)).not.toContain(radioId);
  const almost = all(({ ownMw, outsideDbm }) => (ownMw > 0 ? inDbm(ownMw / 0.69) : outsideDbm));
  for (const { radioId } of hearsOwn) expect(almost.map((one) => one.radioId)).toContain(radioId);
});

test("a proof's noise teaches where no week is known; a link with an open alarm teaches nothing", () => {
  const made = valley();
  const learnable = learnableIn(made, made.world);
  const { noise } = learnable.find(({ linkId }) => linkId === "bridge")!;
  const proof: Measurement = reading(-50, -50, { noiseADbm: null, noiseBDbm: noise.b.outsideDbm + 6 });
  const proven = withPatches(made.world, [putPatch("measurements", proof)]);
  const taughtBy = (world: World, weeks: LinkWatch[]) => learnedPage(world, learnable, weeks).noise.taughtBy;
  expect(taughtBy(proven, [])).toMatchObject([{ radioId: noise.b.radioId, from: "proof", linkId: "bridge" }]);
  expect(taughtBy(proven, [])[0]!.physicsErrorDb).toBeCloseTo(
    inDbm(inMw(noise.b.outsideDbm + 6) - noise.b.ownMw) - noise.b.outsideDbm,
    6,
  );
  const watched = taughtBy(proven, [week("bridge", null, noise.b.outsideDbm + 9)]);
  expect(watched).toMatchObject([{ from: "watch" }]);
  expect(watched[0]!.physicsErrorDb).toBeGreaterThan(8);
  const alarm = { state: "open", linkIds: ["bridge"] } as Alarm;
  expect(taughtBy({ ...proven, alarms: new Map([["x", alarm]]) }, [])).toEqual([]);
  expect(taughtBy({ ...proven, alarms: new Map([["x", { ...alarm, state: "closed" }]]) }, [])).toHaveLength(1);
});
