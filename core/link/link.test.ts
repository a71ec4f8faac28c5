import { expect, test } from "@jest/globals";
import { answerOf } from "#core/outcome";
import { answerLink, clearanceConditions, isServed, tapeLines } from "#core/link";
import type { Polarization } from "#core/antenna";
import { linkEnds, worldOf } from "#core/plan";
import { freeSpaceLossDb } from "#core/propagation";
import { coverCode, type CoverKind } from "#core/terrain";
import { radioIn, valley } from "#core/testing";

const bridgeOf = (made: ReturnType<typeof valley>) =>
  answerOf(made.world, made.world.links.get("bridge")!, made.between);

test("the tape adds up line by line, and the worked check stands on it", () => {
  const { path, distanceM } = bridgeOf(valley());
  const tape = path!.aToB;
  let total = 0;
  for (const line of tapeLines(tape)) {
    if (line.stepDb === null || line.key === "rain") continue;
    total += line.stepDb;
    expect(line.total).toBeCloseTo(total, 9);
  }
  expect(tape.chainLevelDbm).toBeCloseTo(total, 9);
  expect(tape.totalLevelDbm).toBeCloseTo(total + 10 * Math.log10(2), 9);
  const gain = 30 - 0.4 * ((5800 - 5500) / 350);
  expect(tape.eirpDbm).toBeCloseTo(20 + gain, 6);
  const free = freeSpaceLossDb({ distanceKm: distanceM / 1000, frequencyGHz: 5.8 });
  expect(tape.totalLevelDbm).toBeCloseTo(20 + 2 * gain - free - path!.diffractionDb, 0);
});

test("equal ends hear each other equally", () => {
  const { path } = bridgeOf(valley(30));
  expect(path!.aToB.totalLevelDbm).toBeCloseTo(path!.bToA.totalLevelDbm, 6);
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
  expect(isServed(made.world.plan, { a, b }, same)).toBe(false);
});

test("crossed polarizations lose the antennas' isolation; a receiver on two chains gathers all that arrives", () => {
  const facing = (west: Polarization, east: Polarization) =>
    bridgeOf(
      valley(0, (rows) => {
        radioIn(rows, "west-east").polarization = west;
        radioIn(rows, "east-west").polarization = east;
      }),
    ).path!;
  const half = 10 * Math.log10(2);
  const plain = facing("HV", "HV").aToB;
  expect([plain.crossedDb, plain.splitDb, plain.chains]).toEqual([0, half, 2]);
  // ±45° against H/V: each chain gets half of both, so the sum is whole.
  const slant = facing("HV", "X45").aToB;
  expect(slant.totalLevelDbm).toBeCloseTo(plain.totalLevelDbm, 9);
  expect([slant.crossedDb, slant.splitDb, slant.chains]).toEqual([0, half, 2]);
  // V sent to H and V: all of it on one of the two. Sent to ±45°: half of it on each.
  const onOne = facing("V", "HV").aToB;
  const vGainDb = facing("V", "V").aToB.fromGainDbi - plain.fromGainDbi;
  expect(onOne.totalLevelDbm).toBeCloseTo(plain.totalLevelDbm + vGainDb, 6);
  expect([onOne.crossedDb, onOne.splitDb, onOne.chains]).toEqual([0, 0, 1]);
  expect(facing("V", "X45").aToB).toMatchObject({ crossedDb: 0, splitDb: half, chains: 1 });
  // H and V sent to V: the half on H is not heard.
  const lost = facing("HV", "V").aToB;
  expect([lost.crossedDb, lost.splitDb, lost.chains]).toEqual([half, 0, 1]);
  expect(lost.rateMbps).toBeLessThan(plain.rateMbps);
  expect(facing("H", "V").aToB.crossedDb).toBe(22);
});

test("a wall, trees and rain each take their line", () => {
  const walled = valley(0, (rows) => void (rows.subscribers[0]!.behind = "thermally_efficient"));
  const trees = valley(0, (rows) => void (rows.links[1]!.foliageDepthM = 60));
  const keys = (made: ReturnType<typeof valley>) =>
    tapeLines(answerOf(made.world, made.world.links.get("access")!, made.between).path!.aToB).map((line) => line.key);
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
  rows.radios.find(({ id }) => id === "sector")!.antennaModelId = "nothing";
  const world = worldOf(rows);
  expect(() => linkEnds(world, world.links.get("access")!)).toThrow("antenna model nothing is not in the plan");
});

test("the two-condition school asks for the whole zone at median k, and less at the k of the worst weather", () => {
  const plan = { clearanceSchool: "twoCondition", climate: "temperate", kFactor: 4 / 3 } as const;
  expect(clearanceConditions({ ...plan, clearanceSchool: "sixtyPercent" }, 50)).toEqual([
    { kFactor: 4 / 3, wantedShare: 0.6 },
  ]);
  expect(clearanceConditions(plan, 50)).toEqual([
    { kFactor: 4 / 3, wantedShare: 1 },
    { kFactor: 0.78, wantedShare: 0, extendedShare: 0.3 },
  ]);
  expect(clearanceConditions({ ...plan, climate: "tropical" }, 50)[1]!.wantedShare).toBe(0.6);
  expect(clearanceConditions({ ...plan, climate: "tropical" }, 10)[1]!.wantedShare).toBe(0);
  const sixty = bridgeOf(valley(12)).path!.clearance;
  const two = bridgeOf(valley(12, (rows) => void (rows.plan.clearanceSchool = "twoCondition"))).path!.clearance;
  expect(two.leastHeightAM).toBeGreaterThan(sixty.leastHeightAM);
  expect(two.checks).toHaveLength(2);
});

test("trees in the ray are measured unless set by hand, and the signal takes the way that loses less", () => {
  const wood = (
    kind: CoverKind,
    heightM: number,
    foliageDepthM: number | null,
    season: "inLeaf" | "bare" = "inLeaf",
  ) => {
    const made = valley();
    const { a, b } = linkEnds(made.world, made.world.links.get("bridge")!);
    const profile = made.between(a.place, b.place);
    const middle = profile.coverHeightM.length >> 1;
    for (let i = middle; i < middle + 2; i++) {
      profile.coverHeightM[i] = heightM;
      profile.coverCode[i] = coverCode(kind);
    }
    return answerLink({ plan: { ...made.world.plan, season }, kind: "bridge", foliageDepthM, a, b, profile });
  };
  const measured = wood("wood", 60, null);
  expect(measured).toMatchObject({ state: "blocked", path: { treesAlone: true, trees: { isMeasured: true } } });
  expect(measured.path!.trees.depthM).toBeGreaterThan(50);
  const [through, solid, rock] = [measured, wood("wood", 60, 0), wood("building", 60, null)];
  expect(through.path!.trees.way).toBe("through");
  expect(through.path!.aToB.totalLevelDbm).toBeGreaterThan(solid.path!.aToB.totalLevelDbm);
  expect(rock.path!.aToB.totalLevelDbm).toBeCloseTo(solid.path!.aToB.totalLevelDbm, 6);
  expect(rock.path!.treesAlone).toBe(false);
  expect(wood("wood", 60, null, "bare").path!.trees.lossDb).toBeCloseTo(0.65 * through.path!.trees.lossDb, 6);
  expect(wood("evergreen", 60, null, "bare").path!.trees.lossDb).toBeCloseTo(through.path!.trees.lossDb, 6);
  expect(wood("wood", 60, 30)).toMatchObject({ state: "clear", path: { trees: { depthM: 30, isMeasured: false } } });
  // Trees that the ray just brushes are passed over.
  expect(wood("wood", 20.5, null).path!.trees.way).not.toBe("through");
});

test("a pointing error costs what the pattern says, only where nobody has set the direction", () => {
  const off = (errorDeg: number) => bridgeOf(valley(0, (rows) => void (rows.plan.pointingErrorDeg = errorDeg))).path!;
  expect(off(1).aToB.fromOffDb).toBeGreaterThan(0.1);
  expect(off(1).aToB.totalLevelDbm).toBeCloseTo(
    off(0).aToB.totalLevelDbm - off(1).aToB.fromOffDb - off(1).aToB.toOffDb,
    6,
  );
  const set = valley(0, (rows) => void (rows.plan.pointingErrorDeg = 2));
  const access = answerOf(set.world, set.world.links.get("access")!, set.between).path!;
  const straight = answerOf(valley().world, valley().world.links.get("access")!, set.between).path!;
  expect(access.aToB.fromOffDb).toBe(straight.aToB.fromOffDb);
});

test("every line of a tape names its formula and source, and what the rule set asks stands at the EIRP", () => {
  const made = valley(0, (rows) => {
    rows.plan.pointingErrorDeg = 1;
    for (const id of ["west-east", "east-west"])
      Object.assign(radioIn(rows, id), { frequencyMHz: 5600, cableLossDb: 1.5, txPowerDbm: 2 });
  });
  const lines = tapeLines(bridgeOf(made).path!.aToB);
  for (const { formula, source, label } of lines)
    expect([label, formula !== "" && source !== ""]).toEqual([label, true]);
  const eirp = lines.find(({ key }) => key === "eirp")!;
  const inputs = new Map(eirp.inputs);
  expect(eirp.inputs.filter(([name]) => name === "asks for").map(([, value]) => value)).toEqual([
    "radar avoidance (DFS)",
    "power control (TPC)",
  ]);
  expect(inputs.get("licence")).toBe("no licence");
  expect(inputs.get("cap")).toBe("30.0 dBm EIRP");
  expect(eirp.source).toContain("check with your regulator");
  expect(lines.map(({ key }) => key)).toEqual(expect.arrayContaining(["cable", "farCable", "offA", "offB", "margin"]));
  expect(lines.find(({ key }) => key === "offA")!.inputs).toContainEqual(["pointing error allowed for", "1°"]);
  const keys = lines.map(({ key }) => key);
  expect(new Set(keys).size).toBe(keys.length);
});

test("rain stands below the level with the rate it was taken for: the plan's own, or the latitude's", () => {
  const eighty = {
    radioModelId: "kestrane-salto-80",
    antennaModelId: "kestrane-plato-80-50",
    frequencyMHz: 73500,
    widthMHz: 500,
    txPowerDbm: 10,
  };
  const rainLine = (rainRate001MmPerH: number | null) => {
    const made = valley(0, (rows) => {
      rows.plan.rainRate001MmPerH = rainRate001MmPerH;
      for (const id of ["west-east", "east-west"]) Object.assign(radioIn(rows, id), eighty);
    });
    return tapeLines(bridgeOf(made).path!.aToB).find(({ key }) => key === "rain")!;
  };
  expect(rainLine(40).inputs[0]).toEqual(["rain rate 0.01 %", "40 mm/h, the plan's"]);
  expect(rainLine(null).inputs[0]).toEqual(["rain rate 0.01 %", "95 mm/h, by the latitude"]);
  expect(rainLine(null).stepDb!).toBeLessThan(rainLine(40).stepDb!);
});
