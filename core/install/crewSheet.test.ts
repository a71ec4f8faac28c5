import { expect, test } from "@jest/globals";
import { answerOf } from "#core/outcome";
import { crewSheet } from "#core/install";
import { linkEnds } from "#core/plan";
import { EIGHTY_GHZ, onBridge, radioIn, valley, type ValleyRows } from "#core/testing";

const DAY = new Date("2026-06-01T00:00:00Z");

/** The sheets of both ends of a link of the valley, changed. */
function sheets(change: (rows: ValleyRows) => void = () => undefined, linkId = "bridge") {
  const { world, between } = valley(0, change);
  const link = world.links.get(linkId)!;
  const { a, b } = linkEnds(world, link);
  const path = answerOf(world, link, between).path!;
  return { ...crewSheet(world.plan, a, b, path, between(a.place, b.place), DAY), path, plan: world.plan };
}
const model = (id: string, rest: object) => (rows: ValleyRows) => {
  for (const item of rows.equipment) if (item.id === id && item.kind === "radio") Object.assign(item.body, rest);
};

test("each end has its own place, kit, height, dangers and way there", () => {
  const { a, b } = sheets((rows) => {
    Object.assign(rows.sites[0]!, { hazards: "power line to the north", access: "key at the school" });
    Object.assign(radioIn(rows, "west-east"), { heightM: 31.5 });
  });
  expect(a).toMatchObject({
    placeName: "west",
    hazards: "power line to the north",
    access: "key at the school",
    heightM: 31.5,
    radioName: "west-east",
    radioModel: "Brisote Tramo 5",
    antennaModel: "Brisote Plato 5-30",
    polarization: "HV",
    widthMHz: 20,
    txPowerDbm: 20,
  });
  expect(b).toMatchObject({ placeName: "east", hazards: "", access: "", heightM: 20, radioName: "east-west" });
  expect(a.place).toEqual({ latDeg: -1, lonDeg: 20 });
});

test("what an end should read is what arrives there, not what it sends", () => {
  const { a, b, path } = sheets((rows) => void (radioIn(rows, "west-east").txPowerDbm = 10));
  expect([a.expectedChainDbm, b.expectedChainDbm]).toEqual([path.bToA.chainLevelDbm, path.aToB.chainLevelDbm]);
  expect([a.expectedTotalDbm, b.expectedTotalDbm]).toEqual([path.bToA.totalLevelDbm, path.aToB.totalLevelDbm]);
  // West sends 10 dB less than east.
  expect(a.expectedChainDbm - b.expectedChainDbm).toBeCloseTo(10, 1);
});

test("the accepted band lies about the expected level, and ends where the receiver is overloaded", () => {
  const { a, plan } = sheets();
  expect(a.accept).toEqual({
    fromDbm: a.expectedChainDbm - plan.proofDeviationDb,
    toDbm: a.expectedChainDbm + plan.proofDeviationDb,
    endsAtOverload: false,
  });
  const near = sheets(model("brisote-tramo-5", { overloadDbm: Math.round(a.expectedChainDbm) + 1 })).a;
  expect(near.accept).toEqual({
    fromDbm: near.expectedChainDbm - plan.proofDeviationDb,
    toDbm: Math.round(a.expectedChainDbm) + 1,
    endsAtOverload: true,
  });
  // Where even the weak edge is too strong nothing is left of the band, and it is never told the wrong way round.
  const over = sheets(model("brisote-tramo-5", { overloadDbm: -90 })).a.accept;
  expect(over.toDbm).toBe(over.fromDbm);
});

test("volts at the jack run from the strong edge of the band to the weak one, and say which way is stronger", () => {
  const { a } = sheets();
  expect(a.meterVolts!.stronger).toBe("lower");
  expect(a.meterVolts!.low).toBeCloseTo(-0.01 * a.accept.toDbm, 9);
  expect(a.meterVolts!.high).toBeCloseTo(-0.01 * a.accept.fromDbm, 9);
  const rising = sheets(model("brisote-tramo-5", { meterVoltsPerDbm: 0.02 })).a.meterVolts!;
  expect(rising.stronger).toBe("higher");
  expect(rising.low).toBeCloseTo(0.02 * a.accept.fromDbm, 9);
  expect(rising.high).toBeCloseTo(0.02 * a.accept.toDbm, 9);
  expect(sheets(model("brisote-tramo-5", { meterVoltsPerDbm: null })).a.meterVolts).toBeNull();
});

test("an FDD pair's ends send and listen on each other's frequencies; a TDD pair's on one", () => {
  const { a, b } = sheets(onBridge(EIGHTY_GHZ));
  expect([a.sendsMHz, a.listensMHz]).toEqual([73_500, 83_500]);
  expect([b.sendsMHz, b.listensMHz]).toEqual([83_500, 73_500]);
  const plain = sheets();
  expect([plain.a.sendsMHz, plain.a.listensMHz, plain.b.sendsMHz]).toEqual([5800, 5800, 5800]);
});

test("an antenna is turned to the far end, a sector where it was planned; magnetic headings only in the model's years", () => {
  const { a, b } = sheets(undefined, "access");
  const turned = sheets((rows) => void (radioIn(rows, "sector").azimuthDeg = 120), "access");
  expect(turned.a.headingTrueDeg).toBe(120);
  expect(b.headingTrueDeg).toBeGreaterThan(270);
  expect(b.headingTrueDeg).toBeLessThan(280);
  const wrapped = ((a.headingTrueDeg - a.headingMagneticDeg! - a.declinationDeg! + 540) % 360) - 180;
  expect(wrapped).toBeCloseTo(0, 9);
});

test("the sweep goes past the first lobes: two and a half beamwidths, never more than half a turn", () => {
  const { a } = sheets();
  // 5.2° of beam at 3 dB for a dish of 30 dBi.
  expect(a.sweepDeg).toBeGreaterThanOrEqual(10);
  expect(a.sweepDeg).toBeLessThanOrEqual(20);
  expect(
    sheets((rows) => void (radioIn(rows, "sector").antennaModelId = "brisote-ronda-5-13"), "access").a.sweepDeg,
  ).toBe(180);
});

test("tilt is the antenna's own, down as plus, with what its bracket allows and lacks", () => {
  const { a } = sheets((rows) => {
    radioIn(rows, "west-east").heightM = 40;
    radioIn(rows, "east-west").heightM = 5;
    rows.sites[1]!.lonDeg = 20.001;
  });
  // 35 m over 111 m.
  expect(a.tiltDownDeg).toBeCloseTo((Math.atan(35 / 111.3) * 180) / Math.PI, 0);
  expect([a.bracketDownDeg, a.bracketUpDeg]).toEqual([10, 20]);
  expect(a.bracketBeyondDeg).toBeCloseTo(a.tiltDownDeg - 10, 9);
  expect(sheets().a.bracketBeyondDeg).toBe(0);
});
