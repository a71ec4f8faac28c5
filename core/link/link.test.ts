import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { answerOf } from "#core/findings";
import { answerLink, clearanceOf, isServed, obstructionHeightsM } from "#core/link";
import { linkEnds, worldOf } from "#core/plan";
import { freeSpaceLossDb } from "#core/propagation";
import { radioIn, valley } from "#core/testing";

const bridgeOf = (made: ReturnType<typeof valley>) =>
  answerOf(made.world, made.world.links.get("bridge")!, made.between);

test("the tape adds up line by line, and the worked check stands on it", () => {
  const { path, distanceM } = bridgeOf(valley());
  const tape = path!.aToB;
  let total = 0;
  for (const line of tape.lines) {
    if (line.stepDb === null || line.key === "rain") continue;
    total += line.stepDb;
    expect(line.total).toBeCloseTo(total, 9);
  }
  expect(tape.levelDbm).toBeCloseTo(total, 9);
  const gain = 30 - 0.4 * ((5800 - 5500) / 350);
  expect(tape.eirpDbm).toBeCloseTo(20 + gain, 6);
  const free = freeSpaceLossDb({ distanceKm: distanceM / 1000, frequencyGHz: 5.8 });
  expect(tape.levelDbm).toBeCloseTo(20 + 2 * gain - free - path!.diffractionDb, 0);
});

test("equal ends hear each other equally", () => {
  const { path } = bridgeOf(valley(30));
  expect(path!.aToB.levelDbm).toBeCloseTo(path!.bToA.levelDbm, 6);
});

test("raising an antenna never worsens the clearance of the same obstruction, and the least height is just enough", () => {
  const made = valley(45);
  const { a, b } = linkEnds(made.world, made.world.links.get("bridge")!);
  const profile = made.between(a.place, b.place);
  const heightsM = obstructionHeightsM(profile, false);
  const at = (heightA: number, heightB: number) =>
    clearanceOf({
      profile,
      heightsM,
      aAmslM: profile.groundAmslM[0]! + heightA,
      bAmslM: profile.groundAmslM.at(-1)! + heightB,
      frequencyGHz: 5.8,
      kFactor: 4 / 3,
    });
  const height = fc.double({ min: 2, max: 80, noNaN: true });
  fc.assert(
    fc.property(height, height, fc.double({ min: 0.1, max: 20, noNaN: true }), (heightA, heightB, more) => {
      const here = at(heightA, heightB);
      expect(at(heightA + more, heightB).worstShare).toBeGreaterThanOrEqual(here.worstShare - 1e-9);
      if (here.leastHeightAM > 0) {
        expect(at(here.leastHeightAM + 0.01, heightB).state).toBe("clear");
        expect(at(here.leastHeightAM - 0.01, heightB).state).not.toBe("clear");
      }
    }),
  );
});

test("a ridge blocks, a lower one intrudes on the zone, and flat ground does not", () => {
  expect(bridgeOf(valley(0)).state).toBe("clear");
  expect(bridgeOf(valley(13)).state).toBe("tight");
  expect(bridgeOf(valley(60)).state).toBe("blocked");
});

test("a hole or one place for both ends gives no answer, and says why", () => {
  const made = valley();
  const { a, b } = linkEnds(made.world, made.world.links.get("bridge")!);
  const profile = made.between(a.place, { latDeg: -1, lonDeg: 20.3 });
  const beyond = answerLink({ plan: made.world.plan, kind: "bridge", foliageDepthM: 0, a, b, profile });
  expect(beyond).toMatchObject({ state: "unknown", path: null, problem: { kind: "hole" } });
  const same = answerLink({
    plan: made.world.plan,
    kind: "bridge",
    foliageDepthM: 0,
    a,
    b: a,
    profile: made.between(a.place, a.place),
  });
  expect(same.problem).toEqual({ kind: "samePlace", distanceM: 0 });
  expect(isServed(made.world.plan, 5800, same)).toBe(false);
});

test("crossed polarizations lose the antennas' isolation, half-fitting ones 3 dB and a chain", () => {
  const plain = bridgeOf(valley()).path!.aToB;
  const half = bridgeOf(valley(0, (rows) => void (radioIn(rows, "east-west").polarization = "V"))).path!.aToB;
  const crossed = bridgeOf(
    valley(0, (rows) => {
      radioIn(rows, "west-east").polarization = "H";
      radioIn(rows, "east-west").polarization = "V";
    }),
  ).path!.aToB;
  expect(half.levelDbm).toBeCloseTo(plain.levelDbm - 3, 1);
  expect(half.rateMbps).toBeLessThan(plain.rateMbps);
  expect(crossed.levelDbm).toBeCloseTo(plain.levelDbm - 22, 0);
});

test("a wall, trees and rain each take their line", () => {
  const walled = valley(0, (rows) => void (rows.subscribers[0]!.behind = "thermally_efficient"));
  const trees = valley(0, (rows) => void (rows.links[1]!.foliageDepthM = 60));
  const keys = (made: ReturnType<typeof valley>) =>
    answerOf(made.world, made.world.links.get("access")!, made.between).path!.aToB.lines.map((line) => line.key);
  expect(keys(walled)).toContain("wall-farm-radio");
  expect(keys(trees)).toContain("foliage");
  expect(keys(valley())).not.toContain("rain");
  const eighty = {
    radioModelId: "kestrane-salto-80",
    antennaModelId: "kestrane-plato-80-44",
    frequencyMHz: 73500,
    widthMHz: 500,
    txPowerDbm: 15,
  };
  const high = valley(0, (rows) => {
    Object.assign(radioIn(rows, "west-east"), eighty);
    Object.assign(radioIn(rows, "east-west"), eighty);
  });
  const tape = bridgeOf(high).path!.aToB;
  expect(tape.rainDb).toBeGreaterThan(30);
  expect(tape.marginLeftDb).toBeCloseTo(tape.fadeMarginDb - tape.rainDb, 9);
});

test("a plan that names kit it does not hold is refused by name", () => {
  const { rows } = valley();
  radioIn(rows, "sector").antennaModelId = "nothing";
  const world = worldOf(rows);
  expect(() => linkEnds(world, world.links.get("access")!)).toThrow("antenna model nothing is not in the plan");
});
