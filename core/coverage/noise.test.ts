import { expect, test } from "@jest/globals";
import { downRise, gridAround, HeardField, lossTable, sectorRiseDb, sideOf, usualClient } from "#core/coverage";
import { hearingAt, hearingOver, listeningIn } from "#core/interference";
import { endOf } from "#core/plan";
import { crowd, town, valley } from "#core/testing";

const grid = gridAround({ latDeg: 38, lonDeg: 20 }, 3000, 30);
const side = sideOf(grid);
const THERMAL_DBM = -95;
const everywhere = () => true;

/** Asks a field until nothing is left; how many cells that took. */
function askAll(
  field: HeardField,
  heard: (column: number, row: number) => number,
  isWanted = everywhere as (cell: number) => boolean,
) {
  const asked = new Set<number>();
  for (let cells = field.asked(isWanted); cells.length > 0; cells = field.asked(isWanted)) {
    for (const cell of cells) {
      expect(asked.has(cell)).toBe(false);
      asked.add(cell);
    }
    field.take(
      cells,
      cells.map((cell) => heard(cell % side, Math.floor(cell / side))),
    );
  }
  return asked;
}

test("what changes slowly is asked far apart and laid out evenly; an edge is followed to every second cell", () => {
  const slope = (column: number, row: number) => -90 + 0.04 * column - 0.02 * row;
  const smooth = new HeardField(grid, THERMAL_DBM);
  const asked = askAll(smooth, slope);
  expect(asked.size).toBeLessThan((side / 16 + 2) ** 2);
  smooth.laidOut(everywhere).forEach((dbm, cell) => {
    expect(Math.abs(dbm - slope(cell % side, Math.floor(cell / side)))).toBeLessThan(0.01);
  });
  const edge = (column: number) => (column < 77 ? -70 : -92);
  const sharp = new HeardField(grid, THERMAL_DBM);
  const followed = askAll(sharp, edge);
  expect(followed.size).toBeLessThan(side * side * 0.05);
  const off = [...sharp.laidOut(everywhere)].filter((dbm, cell) => Math.abs(dbm - edge(cell % side)) > 0.01);
  expect(off.length).toBeLessThanOrEqual(2 * side);
  expect(askAll(new HeardField(grid, THERMAL_DBM, true), edge).size).toBeLessThan(followed.size / 2);
});

test("cells that would not be served are not asked about, and interference far under thermal noise is one value", () => {
  const isWanted = (cell: number) => cell % side > 150;
  const field = new HeardField(grid, THERMAL_DBM);
  const asked = askAll(field, (column) => -200 - column, isWanted);
  for (const cell of asked) expect(cell % side).toBeGreaterThanOrEqual(144);
  const laidOut = field.laidOut(isWanted);
  expect(laidOut[100 * side + 100]).toBeNaN();
  expect(laidOut[100 * side + 180]).toBeCloseTo(THERMAL_DBM - 25, 5);
});

test("noise rises as powers add, what was learned first", () => {
  const noise = { dbm: -95, riseDb: 0 };
  const heard = Float32Array.from([-95, -120, NaN]);
  expect([...downRise(noise, null, heard)!].map((db) => Math.round(db * 100) / 100)).toEqual([3.01, 0.01, NaN]);
  // 3 dB learned: −92 dBm, and as much again heard.
  expect(downRise(noise, Float32Array.from([3]), Float32Array.from([-92]))![0]).toBeCloseTo(6.01, 2);
  const learned = Float32Array.from([2]);
  expect(downRise(noise, learned, null)).toBe(learned);
  expect(downRise(noise, null, null)).toBeNull();
});

test("a sector's rise is that of its own tapes, by what it hears", () => {
  const { world, between } = valley(0, town);
  const sector = world.radios.get("sector")!;
  const table = lossTable(world, sector, usualClient(world, sector)!);
  const link = [...world.links.values()].find(({ aRadioId }) => aRadioId === "sector")!;
  const { noise } = hearingAt(listeningIn(world), link, "sector", between);
  expect(noise.dbm).not.toBeNull();
  expect(sectorRiseDb(world, sector, table, noise)).toBeCloseTo(
    10 * Math.log10(1 + 10 ** ((noise.dbm! - table.upNoise.dbm) / 10)),
    9,
  );
  expect(sectorRiseDb(world, sector, table, null)).toBe(0);
  expect(sectorRiseDb(world, sector, table, { dbm: null, radios: [], faintCount: 0 })).toBe(0);
});

test("hearing at one place after another equals hearing at each place alone", () => {
  const { world, between } = valley(0, crowd);
  const listening = listeningIn(world);
  let heard = 0;
  for (const link of world.links.values()) {
    if (link.kind !== "access") continue;
    const end = endOf(world, link.bRadioId);
    const hears = hearingOver(listening, link, end, between);
    // Elsewhere first: what was loud there is asked first here.
    for (const east of [0.02, 0.01, 0.005]) hears({ ...end.place, lonDeg: end.place.lonDeg + east });
    const there = hearingAt(listening, link, link.bRadioId, between).noise;
    expect(hears(end.place)).toEqual(there);
    heard += there.radios.length;
  }
  expect(heard).toBeGreaterThan(10);
});
