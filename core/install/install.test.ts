import { expect, test } from "@jest/globals";
import { answerOf } from "#core/outcome";
import { combinedLevelDbm, judge } from "#core/proof";
import { crewSheet } from "#core/install";
import { linkEnds } from "#core/plan";
import { radioIn, reading, valley } from "#core/testing";

const made = valley();
const link = made.world.links.get("bridge")!;
const { a, b } = linkEnds(made.world, link);
const { plan } = made.world;

/** A reading chain by chain, where as much was predicted for either end. */
const chains = (levels: [a0: number, a1: number | null, b0: number, b1: number | null], expected = -50) =>
  reading(0, 0, {
    levelA0Dbm: levels[0],
    levelA1Dbm: levels[1],
    levelB0Dbm: levels[2],
    levelB1Dbm: levels[3],
    expectedADbm: expected,
    expectedBDbm: expected,
  });

test("two equal chains are 3 dB above one", () => {
  expect(combinedLevelDbm([-53, -53])).toBeCloseTo(-50, 1);
  expect(combinedLevelDbm([-53])).toBe(-53);
});

test("both schools make proven, one doubtful, none failed", () => {
  expect(judge(plan, a, b, chains([-53, -53, -52, -53])).state).toBe("proven");
  expect(judge(plan, a, b, chains([-60, null, -60, null])).state).toBe("doubtful");
  expect(judge(plan, a, b, chains([-70, null, -70, null], -68)).state).toBe("doubtful");
  expect(judge(plan, a, b, chains([-80, null, -80, null])).state).toBe("failed");
});

test("the likely cause is named with its figures", () => {
  const lead = (...levels: Parameters<typeof chains>[0]) => judge(plan, a, b, chains(levels)).causes[0]?.kind;
  expect(lead(-62, null, -61.5, null)).toBe("sideLobe");
  expect(lead(-72, null, -72.5, null)).toBe("swappedPolarization");
  expect(lead(-53, -80, -53, -53)).toBe("deadChain");
  expect(lead(-57, null, -58, null)).toBe("foliage");
  expect(lead(-50, null, -50, null)).toBeUndefined();
  const noisy = judge(plan, a, b, { ...chains([-56, null, -56, null]), noiseADbm: -80 });
  expect(noisy.causes.map((cause) => cause.kind)).toContain("noise");
});

test("the crew sheet carries the tape's own level, and the compass its declination", () => {
  const answer = answerOf(made.world, link, made.between);
  const profile = made.between(a.place, b.place);
  const sheet = crewSheet(plan, a, b, answer.path!, profile, new Date("2026-11-24T00:00:00Z"));
  expect(sheet.b.expectedChainDbm).toBe(answer.path!.aToB.chainLevelDbm);
  expect(sheet.a.expectedChainDbm).toBe(answer.path!.bToA.chainLevelDbm);
  expect(sheet.a.expectedTotalDbm - sheet.a.expectedChainDbm).toBeCloseTo(10 * Math.log10(2), 9);
  expect(sheet.a.chain).toBe("each chain");
  expect(sheet.a.headingTrueDeg).toBeCloseTo(90, 0);
  expect(sheet.a.work.procedures).toEqual(["In general", "G. Long-range dish with petals"]);
  expect(sheet.a.work.steps.map(({ id }) => id)).toEqual(expect.arrayContaining(["petals", "power", "sweep", "leave"]));
  expect(sheet.b.headingTrueDeg).toBeCloseTo(270, 0);
  const difference = ((sheet.a.headingTrueDeg - sheet.a.headingMagneticDeg! + 540) % 360) - 180;
  expect(difference).toBeCloseTo(sheet.a.declinationDeg!, 6);
  // −0.01 V per dBm: the band runs from the strong edge to the weak one, and less volts is more signal.
  const { expectedChainDbm, meterVolts } = sheet.a;
  expect(meterVolts!.expected).toBeCloseTo(-0.01 * expectedChainDbm, 9);
  expect(meterVolts!.low).toBeCloseTo(-0.01 * (expectedChainDbm + plan.proofDeviationDb), 9);
  expect(meterVolts!.high).toBeCloseTo(-0.01 * (expectedChainDbm - plan.proofDeviationDb), 9);
  expect(meterVolts!.stronger).toBe("lower");
  expect(crewSheet(plan, a, b, answer.path!, profile, new Date("2040-01-01")).a.headingMagneticDeg).toBeNull();
});

test("tilt beyond the bracket is said, and a bracket turned over reaches the other way", () => {
  const steep = valley(0, (rows) => {
    radioIn(rows, "farm-radio").antennaModelId = "brisote-losa-5-16";
    rows.subscribers[0]!.lonDeg = 20.0012;
    rows.subscribers[0]!.latDeg = -1;
  });
  const access = steep.world.links.get("access")!;
  const ends = linkEnds(steep.world, access);
  const answer = answerOf(steep.world, access, steep.between);
  const up = -answer.path!.bPointing.mechanicalTiltDownDeg;
  expect(up).toBeGreaterThan(5);
  const sheet = crewSheet(
    steep.world.plan,
    ends.a,
    ends.b,
    answer.path!,
    { azimuthDeg: 90, backAzimuthDeg: 270 },
    new Date("2026-01-01"),
  );
  expect(sheet.b.bracketUpDeg).toBe(20);
  expect(sheet.b.bracketBeyondDeg).toBe(Math.max(0, up - 20));
});
