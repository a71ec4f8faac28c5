import { describe, expect, test } from "@jest/globals";
import { evaluate } from "#core/evaluate";
import { destination, signedAngleDeg } from "#core/geodesy";
import { optimizeSectors, strayKm2, tradeCurve, worthOf, type Freedom, type TradePoint } from "#core/optimize";
import { checkPatches, setPatch, withPatches, type World } from "#core/plan";
import { sectorHeardKm } from "#core/coverage";
import { radioIn, valley, type ValleyRows } from "#core/testing";

let next = 0;
const makeId = () => `new-${next++}`;

/** Houses along an arc round the sector's mast, which looks away from them. */
const arcFrom = (fromDeg: number, toDeg: number) => (rows: ValleyRows) => {
  const [west] = rows.sites;
  const client = radioIn(rows, "farm-radio");
  const access = rows.links.find(({ id }) => id === "access")!;
  Object.assign(radioIn(rows, "sector"), { azimuthDeg: (fromDeg + 150) % 360 });
  rows.subscribers.length = 0;
  rows.radios.splice(rows.radios.indexOf(client), 1);
  rows.links.splice(rows.links.indexOf(access), 1);
  for (let i = 0; i < 7; i++) {
    const id = `arc-${i}`;
    const place = destination(west!, fromDeg + ((toDeg - fromDeg) * i) / 6, 1500);
    rows.subscribers.push({ ...house, id, name: id, ...place });
    rows.radios.push({ ...client, id: `r-${id}`, name: id, subscriberId: id });
    rows.links.push({ ...access, id: `l-${id}`, bRadioId: `r-${id}` });
  }
};
const usual = valley().rows.subscribers[0]!;
const house = { ...usual, demandMbps: 5, demandUpMbps: 1 };

function optimized(world: World, between: Parameters<typeof optimizeSectors>[2], may: readonly Freedom[]) {
  const points: TradePoint[] = [];
  let share = 0;
  for (const { point, doneShare } of optimizeSectors(world, { siteIds: ["west"], may, reachKm: 5 }, between, makeId)) {
    if (point) points.push(point);
    expect(doneShare).toBeGreaterThanOrEqual(share - 1e-9);
    expect(doneShare).toBeLessThanOrEqual(1);
    share = doneShare;
  }
  return points;
}

describe("sectors that better themselves", () => {
  test.each([
    [60, 130],
    [100, 150],
    [70, 100],
  ])("turn to an arc of customers from %i to %i°, its middle to two degrees", (fromDeg, toDeg) => {
    const { world, between } = valley(0, arcFrom(fromDeg, toDeg));
    const [best] = tradeCurve(optimized(world, between, ["heading"]));
    const { azimuthDeg } = withPatches(world, best!.patches).radios.get("sector")!;
    expect(Math.abs(signedAngleDeg(azimuthDeg! - (fromDeg + toDeg) / 2))).toBeLessThanOrEqual(2);
    expect(best!.customersServed).toBe(7);
    expect(best!.steps[0]).toMatch(/^sector: turn \d+° → \d+°$/);
  });

  const made = valley(0, (rows) => {
    arcFrom(60, 130)(rows);
    rows.subscribers.push({ ...house, id: "new", name: "new", ...destination(rows.sites[0]!, 118, 1800) });
    rows.radios.push({ ...radioIn(rows, "sector"), id: "idle", name: "idle", carrierId: "idle", azimuthDeg: 270 });
    Object.assign(radioIn(rows, "sector"), { azimuthDeg: 0 });
  });
  const points = optimized(made.world, made.between, ["heading", "tilt", "power", "antenna", "customers"]);

  test("tell of every point what the plan says once it is taken, and no point is worse than where it began", () => {
    expect(points.length).toBeGreaterThan(2);
    const sites = new Set(["west"]);
    for (const point of points) {
      expect(checkPatches(made.world, point.patches)).toEqual([]);
      const {
        customersServed,
        peopleServed,
        strayKm2: stray,
        costEur,
        rateScore,
      } = worthOf(evaluate(withPatches(made.world, point.patches), made.between), sites);
      expect(point).toMatchObject({ customersServed, peopleServed, costEur });
      expect(point.strayKm2).toBeCloseTo(stray, 6);
      expect(point.rateScore).toBeCloseTo(rateScore, 9);
    }
    const most = Math.max(...points.map(({ peopleServed }) => peopleServed));
    expect(most).toBeGreaterThan(points[0]!.peopleServed);
    expect(points[0]!.steps).toEqual([]);
  });

  test("link who was not linked, and turn power down where nobody is lost by it", () => {
    const steps = points.flatMap((point) => point.steps);
    expect(steps).toContain("link new to sector");
    const most = Math.max(...points.map(({ peopleServed }) => peopleServed));
    const serving = points.filter(({ peopleServed }) => peopleServed === most);
    expect(Math.min(...serving.map((one) => one.strayKm2))).toBeLessThan(serving[0]!.strayKm2);
  });

  test("the trade keeps what nothing beats, most people first", () => {
    const curve = tradeCurve(points);
    const beats = (x: TradePoint, y: TradePoint) =>
      x.peopleServed > y.peopleServed && x.strayKm2 < y.strayKm2 && x.costEur < y.costEur && x.rateScore > y.rateScore;
    for (const one of curve) expect(points.some((other) => beats(other, one))).toBe(false);
    for (const one of points)
      if (!curve.includes(one))
        expect(
          curve.some(
            (other) =>
              other.peopleServed >= one.peopleServed && other.strayKm2 <= one.strayKm2 && other.costEur <= one.costEur,
          ),
        ).toBe(true);
    expect(curve.map(({ peopleServed }) => peopleServed)).toEqual(
      curve.map(({ peopleServed }) => peopleServed).sort((x, y) => y - x),
    );
  });
});

test("ground lit for nobody is the disc in which an omni would serve, less the wedges that are used", () => {
  const made = valley(0, (rows) => {
    const omni = rows.equipment.find(
      ({ kind, body }) => kind === "antenna" && body.shape === "omni" && body.bandMHz[0] < 5200,
    )!;
    Object.assign(radioIn(rows, "sector"), { antennaModelId: omni.id, azimuthDeg: null, txPowerDbm: -10 });
  });
  const sector = made.world.radios.get("sector")!;
  const model = made.world.radioModels.get(sector.radioModelId)!;
  const servesKm =
    sectorHeardKm(made.world, sector)! * 10 ** (-(model.modulations[0]!.snrDb + made.world.plan.marginTargetDb) / 20);
  expect(servesKm).toBeLessThan(40);
  expect(strayKm2(made.world, sector, [])).toBeCloseTo(Math.PI * servesKm ** 2, 6);
  const served = [{ bearingDeg: 90, distanceM: 500 * servesKm }] as never;
  // Ten degrees either side and his own: 21 of 360, half as far.
  expect(strayKm2(made.world, sector, served)).toBeCloseTo(Math.PI * servesKm ** 2 * (1 - (21 / 360) * 0.25), 6);
  const louder = withPatches(made.world, [setPatch("radios", "sector", { txPowerDbm: -4 })]);
  expect(strayKm2(louder, louder.radios.get("sector")!, [])).toBeCloseTo(Math.PI * servesKm ** 2 * 10 ** 0.6, 2);
});
