import { describe, expect, test } from "@jest/globals";
import { answerOf } from "#core/outcome";
import { crewSheet, sendingWords } from "#core/install";
import { noiseTermsOf, type Learned } from "#core/learn";
import {
  answerLink,
  carriesDemand,
  holds,
  isServed,
  spareDb,
  tapeLines,
  wantedMarginDb,
  weakestMarginDb,
} from "#core/link";
import { linkEnds, setPatch, withPatches, type Radio } from "#core/plan";
import { EIGHTY_GHZ, onBridge, radioIn, valley, type ValleyRows } from "#core/testing";

/** The valley's bridge with its ends altered after the plan was read, as a sheet of another origin could. */
function answered(change: { radio?: Partial<Radio>; overloadDbm?: number } = {}) {
  const { world, between } = valley();
  const link = world.links.get("bridge")!;
  const { a, b } = linkEnds(world, link);
  return answerLink({
    plan: world.plan,
    kind: "bridge",
    foliageDepthM: 0,
    a: { ...a, radio: { ...a.radio, ...change.radio } },
    b: { ...b, model: { ...b.model, overloadDbm: change.overloadDbm ?? b.model.overloadDbm } },
    profile: between(a.place, b.place),
  });
}

test("an answer that would hold a figure which is none is a problem that names it", () => {
  expect(answered().problem).toBeNull();
  expect(answered({ overloadDbm: NaN })).toEqual({
    distanceM: expect.any(Number),
    state: "unknown",
    problem: { kind: "notFinite", figure: "overloadDb" },
    path: null,
  });
  expect(answered({ radio: { txPowerDbm: Infinity } }).problem).toMatchObject({ kind: "notFinite", figure: "eirpDbm" });
  // Plans are parsed before they are answered, so a height that is no number is a mistake of the caller, and throws.
  expect(() => answered({ radio: { heightM: NaN } })).toThrow("both must be finite");
});

test("both directions share the path and stand on their own radios", () => {
  const { path } = answerOf(
    ...((made) => [made.world, made.world.links.get("bridge")!, made.between] as const)(
      valley(0, (rows) => Object.assign(radioIn(rows, "west-east"), { txPowerDbm: 11, cableLossDb: 2 })),
    ),
  );
  const { aToB, bToA } = path!;
  expect(aToB.question.path).toBe(bToA.question.path);
  expect([aToB.question.from.radio.id, bToA.question.from.radio.id]).toEqual(["west-east", "east-west"]);
  // Nine decibels less power and the cable both ways.
  expect(bToA.totalLevelDbm - aToB.totalLevelDbm).toBeCloseTo(9, 6);
  expect(aToB.eirpDbm - bToA.eirpDbm).toBeCloseTo(-11, 6);
});

test("an FDD pair has a path of its own each way: more loss on the higher frequency", () => {
  const made = valley(0, onBridge(EIGHTY_GHZ));
  const { path } = answerOf(made.world, made.world.links.get("bridge")!, made.between);
  const [go, back] = [path!.aToB.question.path, path!.bToA.question.path];
  expect([go.frequencyMHz, back.frequencyMHz]).toEqual([73_500, 83_500]);
  expect(back.freeSpaceDb - go.freeSpaceDb).toBeCloseTo(20 * Math.log10(83.5 / 73.5), 9);
});

test("tilts are those of the path as it bends, alike but for the sign where one mast stands higher", () => {
  const made = valley(0, (rows) => void (radioIn(rows, "west-east").heightM = 40));
  const { path } = answerOf(made.world, made.world.links.get("bridge")!, made.between);
  const turning = ((12.24 / (2 * (4 / 3) * 6371)) * 180) / Math.PI;
  const slope = (Math.atan(20 / 12_240) * 180) / Math.PI;
  expect(path!.aTiltDownDeg).toBeCloseTo(slope + turning, 3);
  expect(path!.bTiltDownDeg).toBeCloseTo(-slope + turning, 3);
  expect([path!.aAmslM, path!.bAmslM]).toEqual([expect.closeTo(50, 1), expect.closeTo(30, 1)]);
});

test("a link holds when both directions have a modulation and the margin that is wanted", () => {
  const made = (change: (rows: ValleyRows) => void) => {
    const { world, between } = valley(0, change);
    return { world, answer: answerOf(world, world.links.get("bridge")!, between) };
  };
  const plain = made(() => undefined);
  expect(holds(plain.world.plan, 5800, plain.answer)).toBe(true);
  const margin = weakestMarginDb(plain.answer)!;
  expect(margin).toBe(Math.min(plain.answer.path!.aToB.marginLeftDb, plain.answer.path!.bToA.marginLeftDb));
  const wanting = (marginTargetDb: number) => holds({ ...plain.world.plan, marginTargetDb }, 5800, plain.answer);
  expect([wanting(margin), wanting(margin + 1e-6)]).toEqual([true, false]);
  // Above 10 GHz the margin in rain is asked for instead.
  expect(wantedMarginDb(plain.world.plan, 24_000)).toBe(plain.world.plan.rainMarginDb);
  const deaf = made((rows) => void (radioIn(rows, "east-west").interferenceDb = 70));
  expect(holds(deaf.world.plan, 5800, deaf.answer)).toBe(false);
  const holed = made((rows) => void (rows.sites[1]!.lonDeg = 20.4));
  expect([holds(holed.world.plan, 5800, holed.answer), weakestMarginDb(holed.answer)]).toEqual([false, null]);
});

test("served means that the customer gets what he asked for, both ways, to the last Mbit/s", () => {
  const { world, between } = valley();
  const link = world.links.get("access")!;
  const ends = linkEnds(world, link);
  const answer = answerOf(world, link, between);
  const { aToB, bToA } = answer.path!;
  const asks = (downMbps: number, upMbps: number) => carriesDemand({ downMbps, upMbps }, answer);
  expect(asks(aToB.rateMbps, bToA.rateMbps)).toBe(true);
  expect(asks(aToB.rateMbps + 0.01, 0)).toBe(false);
  expect(asks(0, bToA.rateMbps + 0.01)).toBe(false);
  expect(carriesDemand(null, answer)).toBe(true);
  expect(carriesDemand(null, { ...answer, path: null })).toBe(false);
  const served = (downMbps: number) =>
    isServed(world.plan, { a: ends.a, b: { ...ends.b, demand: { downMbps, upMbps: 0 } } }, answer);
  expect([served(10), served(10_000)]).toEqual([true, false]);
});

test("ends of other duplex spacing do not meet, and the reason names both", () => {
  const made = valley(0, (rows) => {
    onBridge(EIGHTY_GHZ)(rows);
    const salto = rows.equipment.find(({ id }) => id === "kestrane-salto-80")!;
    if (salto.kind !== "radio") return;
    rows.equipment.push({
      ...salto,
      id: "near-salto",
      body: { ...salto.body, id: "near-salto", model: "Salto N", duplexSpacingMHz: 5000 },
    });
    radioIn(rows, "east-west").radioModelId = "near-salto";
  });
  const { path } = answerOf(made.world, made.world.links.get("bridge")!, made.between);
  expect(path!.mismatches).toEqual(["the frequencies of Salto 80 stand 10000 MHz apart, those of Salto N 5000 MHz"]);
  expect([path!.aToB.modulation, path!.bToA.modulation]).toEqual([null, null]);
});

describe("an access point's power plan", () => {
  const under = (arriveAtDbm: number | null, kind: "access" | "bridge" = "access") => {
    const made = valley();
    const carriers = [...made.world.carriers.keys()].map((id) => setPatch("carriers", id, { arriveAtDbm }));
    const world = withPatches(made.world, carriers);
    const link = [...world.links.values()].find((one) => one.kind === kind)!;
    return { link, path: answerOf(world, link, made.between).path! };
  };

  test("turns a customer down in the radio's steps until it arrives at the level, and not below it", () => {
    const asSet = under(null).path.bToA;
    const wanted = asSet.chainLevelDbm - 7.4;
    const { path } = under(wanted);
    const { powerStepDb } = path.bToA.question.from.model;
    const stepsDb = Math.floor(7.4 / powerStepDb) * powerStepDb;
    expect(path.bToA.question.turnedDownDb).toBeCloseTo(stepsDb, 9);
    expect(path.bToA.chainLevelDbm).toBeCloseTo(asSet.chainLevelDbm - stepsDb, 6);
    expect(path.bToA.chainLevelDbm).toBeGreaterThanOrEqual(wanted);
    expect(asSet.eirpDbm - path.bToA.eirpDbm).toBeCloseTo(stepsDb, 6);
    expect(path.aToB.totalLevelDbm).toBeCloseTo(under(null).path.aToB.totalLevelDbm, 9);
  });

  test("leaves one who arrives weaker as it is set, and ends at the least power of the radio", () => {
    expect(under(-20).path.bToA.question.turnedDownDb).toBe(0);
    const { question } = under(-100).path.bToA;
    expect(question.from.radio.txPowerDbm).toBe(question.from.model.powerMinDbm);
  });

  test("is not for bridges", () => {
    expect(under(-100, "bridge").path.bToA.question.turnedDownDb).toBe(0);
  });

  test("is told on the tape and on the crew's sheet", () => {
    const { path, link } = under(under(null).path.bToA.chainLevelDbm - 5);
    const { question } = path.bToA;
    expect(question.turnedDownDb).toBeGreaterThan(0);
    const [power] = tapeLines(path.bToA);
    expect(power!.stepDb).toBe(question.from.radio.txPowerDbm);
    expect(power!.inputs).toContainEqual(["turned down by", expect.stringMatching(/^\d+\.\d dB$/)]);
    const { world } = valley();
    const { a, b } = linkEnds(world, link);
    const sheet = crewSheet(world.plan, a, b, path, { azimuthDeg: 90, backAzimuthDeg: 270 }, new Date("2026-06-01"));
    expect(sheet.b.txPowerDbm + sheet.b.turnedDownDb).toBe(b.radio.txPowerDbm);
    expect(sendingWords(sheet.b)).toMatch(/ at most: the access point turns it down to /);
    expect(sendingWords(sheet.a)).not.toContain("at most");
  });
});

test("what was learned is one line of its own: the level moves by it, and not a figure of the physics", () => {
  const { world, between } = valley(60);
  const link = world.links.get("bridge")!;
  const learned: Learned = {
    ...{ isOn: true, strayDb: 2, readings: 7 },
    terms: [{ key: "everywhere", value: -2.5, sd: 0.5, readings: 7 }],
  };
  const under = (own: Learned | null) =>
    answerOf(withPatches(world, [setPatch("plans", world.plan.id, { learned: own })]), link, between);
  const [plain, taught, off] = [under(null), under(learned), under({ ...learned, isOn: false })];
  expect(taught.path!.aToB.totalLevelDbm).toBeCloseTo(plain.path!.aToB.totalLevelDbm - 2.5, 10);
  expect(taught.path!.bToA.marginLeftDb).toBeCloseTo(plain.path!.bToA.marginLeftDb - 2.5, 10);
  expect(taught.path!.diffractionDb).toBe(plain.path!.diffractionDb);
  expect(off.path!.aToB.totalLevelDbm).toBe(plain.path!.aToB.totalLevelDbm);
  const lines = (answer: typeof plain) => tapeLines(answer.path!.aToB);
  const own = lines(taught).find(({ key }) => key === "learned")!;
  expect(own).toMatchObject({ label: "Learned here", stepDb: -2.5 });
  expect(own.inputs.slice(0, 2)).toEqual([
    ["give or take", "8.1 dB"],
    ["readings", "7"],
  ]);
  expect(lines(plain).some(({ key }) => key === "learned")).toBe(false);
  // The rest of the tape stands as it stood.
  const rest = (answer: typeof plain) =>
    lines(answer).flatMap(({ key, stepDb }) => (key === "learned" || stepDb === null ? [] : [[key, stepDb]]));
  expect(rest(taught)).toEqual(rest(plain));
});

test("learned noise is a line of its own at the end that hears it: the noise floor moves by it, and no level", () => {
  const { world, between } = valley(60);
  const link = world.links.get("bridge")!;
  const { b } = linkEnds(world, link);
  const area = noiseTermsOf({ frequencyGHz: b.radio.frequencyMHz / 1000, ...b.place })[1]![0];
  const learned: Learned = {
    ...{ isOn: true, strayDb: 2, readings: 0, terms: [] },
    noise: { strayDb: 2, readings: 5, terms: [{ key: area, value: 3.5, sd: 0.5, readings: 5 }] },
  };
  const under = (own: Learned | null) =>
    answerOf(withPatches(world, [setPatch("plans", world.plan.id, { learned: own })]), link, between).path!;
  const [plain, taught, off] = [under(null), under(learned), under({ ...learned, isOn: false })];
  expect(taught.aToB.noiseDbm).toBeCloseTo(plain.aToB.noiseDbm + 3.5, 10);
  expect(taught.aToB.marginLeftDb).toBeCloseTo(plain.aToB.marginLeftDb - 3.5, 10);
  expect(taught.aToB.snrDb).toBeCloseTo(plain.aToB.snrDb - 3.5, 10);
  expect(taught.aToB.totalLevelDbm).toBe(plain.aToB.totalLevelDbm);
  // Nothing was read of levels.
  expect(taught.aToB.question.path.learned).toBeNull();
  // The near end lies elsewhere.
  expect(taught.bToA.noiseDbm).toBe(plain.bToA.noiseDbm);
  expect(off.aToB.noiseDbm).toBe(plain.aToB.noiseDbm);
  const own = tapeLines(taught.aToB).find(({ key }) => key === "learnedNoise")!;
  expect(own).toMatchObject({ label: `Noise learned around ${b.placeName}`, stepDb: null });
  expect(own.inputs.slice(0, 2)).toEqual([
    ["give or take", "4.0 dB"],
    ["readings", "5"],
  ]);
  expect(
    tapeLines(taught.bToA)
      .concat(tapeLines(plain.aToB))
      .some(({ key }) => key === "learnedNoise"),
  ).toBe(false);
});

test("what is to spare is the smaller of margin and rate, and to the point where the link no longer serves", () => {
  const { world, between } = valley();
  const link = world.links.get("access")!;
  const { a, b } = linkEnds(world, link);
  const answer = answerOf(world, link, between);
  const asking = (downMbps: number) => ({ a, b: { ...b, demand: { downMbps, upMbps: 0 } } });
  const margin = weakestMarginDb(answer)! - wantedMarginDb(world.plan, a.radio.frequencyMHz);
  expect(spareDb(world.plan, asking(0), answer)).toBeCloseTo(margin, 10);
  const { rateMbps } = answer.path!.aToB;
  const tight = spareDb(world.plan, asking(rateMbps), answer)!;
  expect(tight).toBeGreaterThanOrEqual(0);
  expect(tight).toBeLessThanOrEqual(margin);
  expect(spareDb(world.plan, asking(10_000), answer)).toBe(-99);
  expect(spareDb(world.plan, asking(1), { ...answer, path: null })).toBeNull();
});
