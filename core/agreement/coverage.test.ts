import { expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  cellBearings,
  cellPlace,
  classify,
  clientEnd,
  COVERAGE_REASONS,
  customerHears,
  downRise,
  gridAround,
  heardInCells,
  lossTable,
  newCells,
  newSwept,
  sectorRiseDb,
  sideOf,
  sweep,
  weatherTable,
  withPattern,
  type ClientKit,
} from "#core/coverage";
import { climateOf } from "#core/climate";
import { hearingAt, listeningIn } from "#core/interference";
import { noiseSteps, rateUnder, wantedMarginDb, type Tape } from "#core/link";
import { answerOf } from "#core/outcome";
import { endOf, linksOn, type World } from "#core/plan";
import { plainTerrain } from "#core/terrain";
import { radioIn, town, valley, valleySurface } from "#core/testing";

const HILLS_M = 14;
const RADIUS_M = 3500;
const terrain = plainTerrain(valleySurface(HILLS_M));
const grid = (world: World, sectorId: string) => gridAround(endOf(world, sectorId).place, RADIUS_M, 60);

/** Two sectors with customers in the middles of cells, so near in channel that they hear each other, timed together or not. */
const anyTown = fc.record({
  apartMHz: fc.constantFrom(0, 10, 20, 60),
  isTimed: fc.boolean(),
  sectorDbm: fc.tuple(fc.integer({ min: 5, max: 24 }), fc.integer({ min: 5, max: 24 })),
  azimuthDeg: fc.integer({ min: 0, max: 359 }),
  interferenceDb: fc.constantFrom(0, 4),
  cells: fc.array(fc.tuple(fc.integer({ min: 5, max: 50 }), fc.integer({ min: -25, max: 25 })), {
    minLength: 4,
    maxLength: 4,
  }),
});
type Asked = typeof anyTown extends fc.Arbitrary<infer One> ? One : never;
const townOf = ({ apartMHz, isTimed, sectorDbm, azimuthDeg, interferenceDb, cells }: Asked) =>
  valley(HILLS_M, (rows) => {
    town(rows);
    const [sector, other] = [radioIn(rows, "sector"), radioIn(rows, "sector-2")];
    Object.assign(sector, { txPowerDbm: sectorDbm[0], azimuthDeg, interferenceDb });
    Object.assign(other, { txPowerDbm: sectorDbm[1] });
    for (const one of rows.radios)
      if (isTimed && (one.role === "sector" || one.role === "subscriber")) one.timingGroup = "g";
    for (const one of rows.radios) if (one.carrierId === "sector-2") one.frequencyMHz = sector.frequencyMHz + apartMHz;
    const around = gridAround(
      rows.sites.find(({ id }) => id === sector.siteId)!,
      6000,
      60,
    );
    const { rings } = around;
    rows.subscribers.forEach((one, i) => {
      const [east, south] = cells[i % cells.length]!;
      Object.assign(one, cellPlace(around, rings + east, rings + south));
    });
    // As coverage has customers: their usual kit, at the power that their caps leave, without losses of their own.
    for (const one of rows.radios)
      if (one.role === "subscriber") Object.assign(one, { cableLossDb: 0, interferenceDb: 0, azimuthDeg: null });
  });

/** What coverage says of some cells round a sector to customers of one kit. */
function told(world: World, between: ReturnType<typeof valley>["between"], sectorId: string, kit: ClientKit) {
  const sector = world.radios.get(sectorId)!;
  const near = endOf(world, sectorId);
  const own = grid(world, sectorId);
  const losses = newSwept(own);
  const { kFactor, season } = world.plan;
  const frequencyGHz = sector.frequencyMHz / 1000;
  sweep(
    own,
    (look) => look(terrain),
    { txHeightM: sector.heightM, rxHeightM: kit.heightM, frequencyGHz, kFactor, season },
    losses,
  );
  const total = new Float32Array(losses.lossDb.length);
  const beam = {
    antenna: near.antenna,
    polarization: sector.polarization,
    azimuthDeg: sector.azimuthDeg ?? 0,
    mechanicalTiltDownDeg: sector.tiltDownDeg ?? 0,
  };
  withPattern(losses, cellBearings(own), beam, total);
  const table = lossTable(world, sector, kit);
  const cells = newCells(own);
  const heard = hearingAt(listeningIn(world), linksOn(world, sectorId)[0]!, sectorId, between).noise;
  const hears = customerHears(world, sector, kit, between);
  const { rainRate001MmPerH } = climateOf(world.plan, near.place.latDeg);
  return (cell: number) => {
    const heardDbm = new Float32Array(total.length).fill(NaN);
    heardDbm[cell] = heardInCells(hears, own, [cell])[0]!;
    classify(
      own,
      losses,
      total,
      table,
      weatherTable(world.plan, sector, rainRate001MmPerH, RADIUS_M / 1000),
      wantedMarginDb(world.plan, sector.frequencyMHz),
      {
        downRiseDb: downRise(table.downNoise, null, heardDbm),
        upRiseDb: sectorRiseDb(world, sector, table, heard),
      },
      cells,
    );
    return {
      downDbm: cells.downDbm[cell]!,
      upDbm: cells.upDbm[cell]!,
      sinrDb: cells.sinrDb[cell]!,
      rateMbps: cells.rateMbps[cell]!,
      reason: COVERAGE_REASONS[cells.reason[cell]!]!,
    };
  };
}

/** What both directions carry with so much more signal, or so much less. */
const rateNear = (aToB: Tape, bToA: Tape, db: number) =>
  Math.min(...[aToB, bToA].map((tape) => rateUnder(noiseSteps(tape), tape.noiseDbm - db)));

test("what coverage says of a customer's cell is what his tapes say: level, SINR with all that he hears, rate, served or not", () => {
  let [compared, disturbed, held] = [0, 0, 0];
  fc.assert(
    fc.property(anyTown, (asked) => {
      const { world: planned, between } = townOf(asked);
      const [link] = linksOn(planned, "sector");
      const client = planned.radios.get(link!.bRadioId)!;
      const sector = planned.radios.get("sector")!;
      const { radioModelId, antennaModelId, heightM } = client;
      const kit = { radioModelId, antennaModelId, heightM };
      const { txPowerDbm } = clientEnd(planned, sector, kit).radio;
      const world = { ...planned, radios: new Map(planned.radios).set(client.id, { ...client, txPowerDbm }) };
      const own = grid(world, "sector");
      const [east, south] = asked.cells[0]!;
      const cell = (own.rings + south) * sideOf(own) + own.rings + east;
      const coverage = told(world, between, "sector", kit)(cell);
      const { path } = answerOf(world, link!, between);
      const { aToB, bToA } = path!;
      const pathErrorDb = Math.abs(coverage.downDbm - aToB.chainLevelDbm);
      // Where the ray itself stands otherwise, at the very edge of an obstacle, nothing else can agree.
      if (pathErrorDb > 1) return;
      compared++;
      expect(Math.abs(coverage.upDbm - bToA.chainLevelDbm)).toBeLessThan(1.01);
      const wantedDb = wantedMarginDb(world.plan, sector.frequencyMHz);
      const spareDb = Math.min(aToB.marginLeftDb, bToA.marginLeftDb) - wantedDb;
      const isHeld = Math.min(aToB.rateMbps, bToA.rateMbps) > 0 && spareDb >= 0;
      if (Math.abs(spareDb) > 1.3) expect(coverage.reason === "held").toBe(isHeld);
      if (Number.isNaN(coverage.sinrDb)) return;
      expect(Math.abs(coverage.sinrDb - Math.min(aToB.snrDb, bToA.snrDb))).toBeLessThan(1.3);
      if (aToB.noise.riseDb > 1) disturbed++;
      if (coverage.reason !== "held") return;
      held++;
      // A rate may lie a step beside the tape's where the SINR lies between both.
      const steps = [1.3, -1.3].map((db) => rateNear(aToB, bToA, db));
      expect(coverage.rateMbps).toBeGreaterThanOrEqual(steps[1]! - 0.001);
      expect(coverage.rateMbps).toBeLessThanOrEqual(steps[0]! + 0.001);
    }),
    { numRuns: 30 },
  );
  expect(compared).toBeGreaterThan(12);
  expect(disturbed).toBeGreaterThan(1);
  expect(held).toBeGreaterThan(2);
});
