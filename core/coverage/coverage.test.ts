// What a cell is told is what a full answer says of somebody who stands there.
import { describe, expect, test } from "@jest/globals";
import { pointingOf } from "#core/aiming";
import { patternLossDb } from "#core/antenna";
import {
  cellBearings,
  cellPlace,
  classify,
  clientEnd,
  combined,
  COVERAGE_REASONS,
  freelyHeardKm,
  gridAround,
  LEAST_LOSS_DB,
  LOSS_STEP_DB,
  lossIndex,
  lossTable,
  newCells,
  newSwept,
  NO_SERVER,
  rateSteps,
  reachWords,
  sideOf,
  sweep,
  usualClient,
  weatherTable,
  withPattern,
  type CellLosses,
} from "#core/coverage";
import { answerLink, NO_TREES, pathLosses, tapeOf, wantedMarginDb } from "#core/link";
import { endOf, type LinkEnd } from "#core/plan";
import { gasAttenuation } from "#core/propagation";
import { plainTerrain, sampleProfile } from "#core/terrain";
import { valley, valleySurface } from "#core/testing";

const { world } = valley(14, (rows) => {
  // The sector's place is noisy from outside.
  rows.radios.find(({ id }) => id === "sector")!.interferenceDb = 3;
});
const terrain = plainTerrain(valleySurface(14));
const sector = world.radios.get("sector")!;
const kit = usualClient(world, sector)!;
const near = endOf(world, "sector");
const grid = gridAround(near.place, 4000, 100);
const losses = newSwept(grid);
sweep(
  grid,
  (look) => look(terrain),
  {
    txHeightM: sector.heightM,
    rxHeightM: kit.heightM,
    frequencyGHz: sector.frequencyMHz / 1000,
    kFactor: world.plan.kFactor,
    season: world.plan.season,
  },
  losses,
);
const beam = {
  antenna: near.antenna,
  polarization: sector.polarization,
  azimuthDeg: sector.azimuthDeg ?? 0,
  mechanicalTiltDownDeg: 3,
};
const total = new Float32Array(losses.lossDb.length);
withPattern(losses, cellBearings(grid), beam, total);
const tilted = { ...sector, azimuthDeg: beam.azimuthDeg, tiltDownDeg: 3 };
const table = lossTable(world, sector, kit);
const marginDb = wantedMarginDb(world.plan, sector.frequencyMHz);
const weather = weatherTable(world.plan, sector, 30, 4);
const cells = newCells(grid);
const QUIET = { downRiseDb: null, upRiseDb: 0 };
classify(grid, losses, total, table, weather, marginDb, QUIET, cells);

/** The full answer to a customer in a cell. */
function fullAnswer(column: number, row: number) {
  const place = cellPlace(grid, column, row);
  const profile = sampleProfile(terrain, near.place, place);
  const a = { ...near, radio: tilted };
  const b = { ...clientEnd(world, sector, kit), place };
  return { profile, answer: answerLink({ plan: world.plan, kind: "access", foliageDepthM: 0, a, b, profile }) };
}
const side = sideOf(grid);
const some = Array.from({ length: 400 }, (_, i) => [(i * 37) % side, (i * 53 + 11) % side] as const).filter(
  ([column, row]) => Number.isFinite(losses.lossDb[row * side + column]),
);

test("the usual customer is the one whose kit most have, at the middle of their heights", () => {
  const client = world.radios.get("farm-radio")!;
  const { radioModelId, antennaModelId, heightM } = client;
  expect(kit).toEqual({ radioModelId, antennaModelId, heightM });
  const alone = valley(0, (rows) => void (rows.links = rows.links.filter(({ kind }) => kind !== "access"))).world;
  const model = alone.radioModels.get(usualClient(alone, sector)!.radioModelId)!;
  expect([model.use, model.widthsMHz.includes(sector.widthMHz)]).toEqual(["subscriber", true]);
  expect(() => clientEnd(world, sector, { ...kit, antennaModelId: "none" })).toThrow("not in the library");
});

test("the pattern counts in the true direction, both cuts, tilt and front-to-back ratio", () => {
  expect(some.length).toBeGreaterThan(100);
  for (const [column, row] of some) {
    const cell = row * side + column;
    const { profile } = fullAnswer(column, row);
    const end = { ...near, radio: tilted };
    const { azimuthOffDeg, elevationOffDeg } = pointingOf(end, profile.azimuthDeg, losses.tiltDownDeg[cell]!);
    const wanted = patternLossDb(near.antenna, sector.polarization, azimuthOffDeg, elevationOffDeg);
    expect(Math.abs(total[cell]! - losses.lossDb[cell]! - wanted)).toBeLessThan(0.3);
  }
});

test("level, SNR and rates of a cell are those of the tapes, to a step of its loss", () => {
  for (const [column, row] of some) {
    const cell = row * side + column;
    const { path } = fullAnswer(column, row).answer;
    const { aToB, bToA } = path!;
    const tapeLossDb =
      aToB.question.path.freeSpaceDb + aToB.gasDb + path!.diffractionDb + path!.trees.lossDb + aToB.fromOffDb;
    const i = lossIndex(tapeLossDb);
    expect(table.downDbm[i]! - aToB.chainLevelDbm).toBeGreaterThan(-LOSS_STEP_DB - 1e-3);
    expect(table.downDbm[i]! - aToB.chainLevelDbm).toBeLessThanOrEqual(1e-3);
    expect(Math.abs(table.upDbm[i]! - bToA.chainLevelDbm)).toBeLessThanOrEqual(LOSS_STEP_DB + 1e-3);
    expect(table.downNoise).toEqual({ dbm: aToB.noiseDbm, riseDb: aToB.noise.riseDb });
    expect(table.upNoise).toEqual({ dbm: bToA.noiseDbm, riseDb: bToA.noise.riseDb });
    // Over this ground a cell's own loss is the answer's to a decibel nearly everywhere.
    if (Math.abs(total[cell]! + aToB.gasDb - tapeLossDb) < 0.05)
      expect(Math.abs(cells.downDbm[cell]! - aToB.chainLevelDbm)).toBeLessThan(0.3);
  }
  const errors = some
    .map(([column, row]) => {
      const { path } = fullAnswer(column, row).answer;
      return Math.abs(cells.downDbm[row * side + column]! - path!.aToB.chainLevelDbm);
    })
    .sort((x, y) => x - y);
  expect(errors[Math.floor(errors.length * 0.9)]).toBeLessThan(1);
});

describe("why a cell gets nothing", () => {
  const one = gridAround(near.place, 100, 100);
  const told = (lossDb: number, diffractionDb: number, patternDb: number, downDb = 0, upRiseDb = 0, by = table) => {
    const cell = new Float32Array(9).fill(NaN);
    const of: CellLosses = {
      lossDb: cell.slice(),
      diffractionDb: cell.slice(),
      tiltDownDeg: cell.slice(),
    };
    of.lossDb[1] = lossDb;
    of.diffractionDb[1] = diffractionDb;
    const sum = cell.slice();
    sum[1] = lossDb + patternDb;
    const into = newCells(one);
    const downRiseDb = new Float32Array(9).fill(downDb);
    classify(one, of, sum, by, weather, marginDb, { downRiseDb, upRiseDb }, into);
    return {
      reason: COVERAGE_REASONS[into.reason[1]!],
      rate: into.rateMbps[1]!,
      down: into.downMbps[1]!,
      up: into.upMbps[1]!,
      snrDb: into.snrDb[1]!,
      sinrDb: into.sinrDb[1]!,
      other: COVERAGE_REASONS[into.reason[0]!],
    };
  };
  const held = table.downFadeDb.findLastIndex(
    (margin, i) => Math.min(margin, table.upFadeDb[i]!) >= marginDb && table.upMbps[i]! > 0,
  );
  const mostDb = LEAST_LOSS_DB + held * LOSS_STEP_DB - 0.5;

  test("is said: its distance, the ground, the pattern; what is not known is called so", () => {
    expect(told(mostDb, 0, 0)).toMatchObject({ reason: "held", other: "unknown" });
    const index = lossIndex(mostDb);
    expect(told(mostDb, 0, 0).rate).toBe(Math.min(table.downMbps[index]!, table.upMbps[index]!));
    expect(told(mostDb + 1, 0, 0).reason).not.toBe("held");
    // So much more noise at the customer is to his receiver as so much more loss; the sector hears as before.
    const quiet = told(mostDb - 5, 0, 0);
    const noisy = told(mostDb - 5, 0, 0, 5);
    const sent = lossIndex(mostDb - 5);
    expect(noisy).toMatchObject({ reason: "held", down: table.downMbps[lossIndex(mostDb)], up: table.upMbps[sent] });
    expect(quiet.down).toBeGreaterThan(noisy.down);
    const [downSnrDb, upSnrDb] = [
      table.downDbm[sent]! - table.downNoise.dbm + table.downNoise.riseDb,
      table.upDbm[sent]! - table.upNoise.dbm + table.upNoise.riseDb,
    ];
    expect(table.upNoise.riseDb).toBeGreaterThan(0);
    for (const one of [quiet, noisy]) expect(one.snrDb).toBeCloseTo(Math.min(downSnrDb, upSnrDb), 5);
    expect(quiet.sinrDb).toBeCloseTo(Math.min(downSnrDb, upSnrDb - table.upNoise.riseDb), 4);
    expect(noisy.sinrDb).toBeCloseTo(Math.min(downSnrDb - 5, upSnrDb - table.upNoise.riseDb), 4);
    const loud = told(mostDb - 5, 0, 0, 0, 4);
    expect(loud).toMatchObject({ down: quiet.down, up: table.upMbps[lossIndex(mostDb - 1)] });
    expect(loud.sinrDb).toBeCloseTo(Math.min(downSnrDb, upSnrDb - table.upNoise.riseDb - 4), 4);
    // Where noise alone takes it away, it is called so, whichever receiver hears it.
    expect(told(mostDb - 5, 0, 0, 60)).toMatchObject({ reason: "noise", rate: 0 });
    expect(told(mostDb - 5, 0, 0, 0, 60)).toMatchObject({ reason: "noise", rate: 0 });
    expect(told(mostDb + 30, 40, 0, 60).reason).toBe("blocked");
    // A sector whose own place is too noisy, by what is set on it: noise too, though no rate is left in its own table.
    const drowned = valley(14, (rows) => {
      rows.radios.find(({ id }) => id === "sector")!.interferenceDb = 40;
    }).world;
    const noisyTable = lossTable(drowned, drowned.radios.get("sector")!, kit);
    expect(noisyTable.upMbps[lossIndex(mostDb - 8)]).toBe(0);
    expect(told(mostDb - 8, 0, 0, 0, 0, noisyTable)).toMatchObject({ reason: "noise", rate: 0 });
    // Where nobody asked what is heard, it counts as thermal noise, and no SINR is told.
    expect(told(mostDb - 5, 0, 0, NaN)).toMatchObject({ reason: "held", rate: quiet.rate, sinrDb: NaN });
    // A receiver that is overloaded is not helped by noise.
    expect(table.downMbps[0]).toBe(0);
    expect(told(LEAST_LOSS_DB, 0, 0, 45)).toMatchObject({ rate: 0 });
    expect(told(mostDb + 10, 0, 0).reason).toMatch(/range|uplink/);
    expect(told(mostDb + 30, 40, 0).reason).toBe("blocked");
    expect(told(mostDb - 5, 0, 20).reason).toBe("pattern");
    expect(told(mostDb + 30, 40, 20)).toMatchObject({ reason: "blocked", rate: 0 });
  });

  test("steps of rate rise and are the tapes' own", () => {
    const steps = rateSteps(table);
    expect(steps).toEqual([...steps].sort((x, y) => x - y));
    expect(steps.length).toBeGreaterThan(3);
  });
});

test("rain counts above 10 GHz as on a tape, gases always, both by distance", () => {
  const rainDbAt = (frequencyMHz: number) => weatherTable(world.plan, { ...sector, frequencyMHz }, 30, 4).rainDb[20]!;
  expect([rainDbAt(9_990), rainDbAt(10_000)]).toEqual([0, 0]);
  expect(rainDbAt(10_010)).toBeGreaterThan(0.5);
  const at60 = weatherTable(world.plan, { ...sector, frequencyMHz: 60_000 }, 30, 4);
  expect(at60.gasDb[10]).toBeCloseTo(15, -1);
  expect(at60.gasDb[20]! / at60.gasDb[10]!).toBeCloseTo(2, 3);
  expect(at60.rainDb[20]).toBeGreaterThan(at60.rainDb[10]!);
  expect(weather.rainDb[30]).toBe(0);
  expect(weather.gasDb[30]).toBeGreaterThan(0);
});

test("of several sectors the fastest serves, of equals the strongest; the lead is over the second strongest", () => {
  const one = gridAround(near.place, 100, 100);
  const cellsOf = (rateMbps: number, downDbm: number) => {
    const made = newCells(one);
    made.rateMbps.fill(rateMbps);
    made.downDbm.fill(downDbm);
    made.reason.fill(COVERAGE_REASONS.indexOf(rateMbps > 0 ? "held" : "blocked"));
    return made;
  };
  const of = (...sectors: ReturnType<typeof cellsOf>[]) => {
    const { server, leadDb, rateMbps, downDbm, reason } = combined(
      sectors.map((made) => ({ cells: made, placeOf: null })),
    );
    return [server[4], leadDb[4], rateMbps[4], downDbm[4], COVERAGE_REASONS[reason[4]!]];
  };
  expect(of(cellsOf(20, -70), cellsOf(30, -75))).toEqual([1, 5, 30, -75, "held"]);
  expect(of(cellsOf(30, -75), cellsOf(30, -60), cellsOf(0, -90))).toEqual([1, 15, 30, -60, "held"]);
  expect(of(cellsOf(0, -95), cellsOf(0, -90))).toEqual([NO_SERVER, 5, 0, -90, "blocked"]);
  expect(of(cellsOf(30, -60))).toEqual([0, NaN, 30, -60, "held"]);
  expect(of(cellsOf(0, NaN))).toEqual([NO_SERVER, NaN, 0, NaN, "unknown"]);
});

test("how far a sector hears is told beside where its cell ends: 6 dB more gain, twice as far but for what the air takes", () => {
  const kmOf = (of: typeof world) =>
    Number(/out to (\d+) km/.exec(reachWords(of, of.radios.get("sector")!, 3100)!)![1]);
  expect(reachWords(world, sector, 3100)).toContain("the cell ends at 3.1 km");
  expect(reachWords(world, sector, null)).toBeNull();
  const louder = {
    ...world,
    antennaModels: new Map(world.antennaModels).set(near.antenna.id, {
      ...near.antenna,
      gainAcrossBand: near.antenna.gainAcrossBand.map((one) => ({
        ...one,
        hDbi: one.hDbi + 6.0206,
        vDbi: one.vDbi + 6.0206,
      })),
    }),
  };
  const [km, louderKm] = [kmOf(world), kmOf(louder)];
  const airDb = (({ oxygenDbPerKm, vapourDbPerKm }) => oxygenDbPerKm + vapourDbPerKm)(
    gasAttenuation({ frequencyGHz: sector.frequencyMHz / 1000 }),
  );
  expect(20 * Math.log10(louderKm / km) + airDb * (louderKm - km)).toBeCloseTo(6.02, 0);
  expect(louderKm).toBeLessThan(2 * km);
});

test("at the distance to which a sector hears, a customer's tape arrives at thermal noise: cables, chains and air counted", () => {
  const kit = usualClient(world, sector)!;
  const far = clientEnd(world, sector, kit);
  const listens = { ...near, radio: { ...near.radio, cableLossDb: 1.5 } };
  const km = freelyHeardKm(listens, far);
  const { frequencyMHz, widthMHz } = sector;
  const at = (one: LinkEnd) => ({
    azimuthDeg: 0,
    mechanicalTiltDownDeg: -one.antenna.electricalTiltDownDeg,
    azimuthOffDeg: 0,
    elevationOffDeg: 0,
  });
  const tape = tapeOf({
    ...{ plan: world.plan, kind: "access", direction: "bToA", from: far, to: listens, heard: null, learnedNoise: null },
    ...{ fromPointing: at(far), toPointing: at(listens), turnedDownDb: 0, isMismatched: false },
    path: pathLosses({
      ...{
        learned: null,
        distanceKm: km,
        diffractionDb: 0,
        trees: NO_TREES,
        frequencyMHz,
        widthMHz,
        rainRate001MmPerH: 0,
      },
    }),
  });
  expect(tape.snrDb + tape.noise.riseDb + tape.backoffDb - tape.beamDb).toBeCloseTo(0, 1);
});
