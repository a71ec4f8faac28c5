import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { cellPlace, gridAround, gridExtent, newSwept, raysOf, sideOf, sweep, wedgeOf, WEDGES } from "#core/coverage";
import { inverseGeodesic } from "#core/geodesy";
import { bullingtonLossDb, freeSpaceLossDb } from "#core/propagation";
import { tiltDownDeg } from "#core/aiming";

const grid = gridAround({ latDeg: 38, lonDeg: 20 }, 1200, 30);
const side = sideOf(grid);
const ask = { txHeightM: 15, rxHeightM: 6, frequencyGHz: 5.6, kFactor: 4 / 3, season: "inLeaf" as const };
const ground = (heightOf: (east: number, south: number) => number, coverOf: typeof heightOf = () => 0) => {
  const cells = {
    groundAmslM: new Float32Array(side * side),
    coverHeightM: new Float32Array(side * side),
    coverCode: new Uint8Array(side * side),
  };
  for (let row = 0; row < side; row++)
    for (let column = 0; column < side; column++) {
      cells.groundAmslM[row * side + column] = heightOf(column - grid.rings, row - grid.rings);
      cells.coverHeightM[row * side + column] = coverOf(column - grid.rings, row - grid.rings);
    }
  return cells;
};
const at = (east: number, south: number) => (grid.rings + south) * side + grid.rings + east;
const swept = (cells: ReturnType<typeof ground>) => {
  const losses = newSwept(grid);
  sweep(grid, cells, ask, losses);
  return losses;
};

test("a grid's cells are as long as asked on the ground, and its edges lie half a cell beyond the last", () => {
  const { distanceM, azimuthDeg } = inverseGeodesic(grid.middle, cellPlace(grid, grid.rings + 40, grid.rings));
  expect(distanceM).toBeCloseTo(1200, 1);
  expect(azimuthDeg).toBeCloseTo(90, 1);
  expect(inverseGeodesic(grid.middle, cellPlace(grid, grid.rings, 0)).distanceM).toBeCloseTo(1200, 1);
  const [west, south, east, north] = gridExtent(grid);
  expect([(east - west) / grid.cellLonDeg, (north - south) / grid.cellLatDeg].map(Math.round)).toEqual([side, side]);
});

describe("a sweep", () => {
  test("over flat ground is free space, every cell of the circle once, none beyond it", () => {
    const { lossDb, diffractionDb } = swept(ground(() => 100));
    for (let south = -grid.rings; south <= grid.rings; south++)
      for (let east = -grid.rings; east <= grid.rings; east++) {
        const km = Math.hypot(east, south) * 0.03;
        // A cell is answered on a ray that passes its middle by half a cell at most.
        if (Math.abs(km - 1.2) < 0.015) continue;
        if (km === 0 || km > 1.2) expect(lossDb[at(east, south)]).toBeNaN();
        else {
          expect(lossDb[at(east, south)]).toBeCloseTo(freeSpaceLossDb({ distanceKm: km, frequencyGHz: 5.6 }), 1);
          expect(diffractionDb[at(east, south)]).toBe(0);
        }
      }
  });

  // Straight along rows, columns and diagonals the ray's points are the cells' own middles: there it must be Bullington to the hundredth.
  test("is Bullington over the same points, whatever the ground", () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 60 }), { minLength: side, maxLength: side }),
        fc.constantFrom([1, 0], [0, 1], [-1, 0], [0, -1], [1, 1], [-1, 1], [1, -1], [-1, -1]),
        (heights, [alongEast, alongSouth]) => {
          const step = (east: number, south: number) => Math.max(Math.abs(east), Math.abs(south));
          const { lossDb, tiltDownDeg: tilts } = swept(ground((east, south) => heights[step(east, south)]!));
          const spacingKm = 0.03 * Math.hypot(alongEast!, alongSouth!);
          for (let n = 2; n * spacingKm <= 1.2; n++) {
            const distancesKm = Array.from({ length: n + 1 }, (_, i) => i * spacingKm);
            const heightsM = heights.slice(0, n + 1);
            const [txAmslM, rxAmslM] = [heightsM[0]! + 15, heightsM[n]! + 6];
            const wanted =
              freeSpaceLossDb({ distanceKm: n * spacingKm, frequencyGHz: 5.6 }) +
              bullingtonLossDb({ distancesKm, heightsM, txAmslM, rxAmslM, frequencyGHz: 5.6, kFactor: 4 / 3 });
            const cell = at(n * alongEast!, n * alongSouth!);
            expect(Math.abs(lossDb[cell]! - wanted)).toBeLessThan(0.02);
            expect(tilts[cell]).toBeCloseTo(tiltDownDeg(txAmslM, rxAmslM, n * spacingKm * 1000, 4 / 3), 3);
          }
        },
      ),
      { numRuns: 25 },
    );
  });

  test("a wood before a customer is in the way, the cell in which he stands is not", () => {
    const wood = (from: number, to: number) =>
      swept(
        ground(
          () => 100,
          (east, south) => (south === 0 && east >= from && east <= to ? 20 : 0),
        ),
      ).diffractionDb;
    expect(wood(20, 20)[at(20, 0)]).toBe(0);
    expect(wood(19, 20)[at(20, 0)]).toBeGreaterThan(wood(18, 18)[at(20, 0)]!);
    expect(wood(18, 18)[at(20, 0)]).toBeGreaterThan(15);
    expect(wood(1, 1)[at(20, 0)]).toBeGreaterThan(15);
    expect(wood(0, 0)[at(20, 0)]).toBe(0);
    expect(wood(2, 2)[at(20, 0)]).toBeGreaterThan(5);
  });

  test("stays finite behind a cliff, at the shortest waves", () => {
    const cliff = ground((east, south) => (south === 0 && east === 10 ? 3000 : 100));
    const losses = newSwept(grid);
    sweep(grid, cliff, { ...ask, frequencyGHz: 80 }, losses);
    const distancesKm = Array.from({ length: 41 }, (_, i) => i * 0.03);
    const heightsM = distancesKm.map((_, i) => (i === 10 ? 3000 : 100));
    const wanted = bullingtonLossDb({
      distancesKm,
      heightsM,
      txAmslM: 115,
      rxAmslM: 106,
      frequencyGHz: 80,
      kFactor: 4 / 3,
    });
    expect(losses.diffractionDb[at(40, 0)]).toBeCloseTo(wanted, 3);
    expect(wanted).toBeGreaterThan(70);
  });

  test("tells nothing behind ground that is not known", () => {
    const { lossDb } = swept(ground((east, south) => (south === 0 && east === 10 ? NaN : 100)));
    expect(lossDb[at(9, 0)]).not.toBeNaN();
    for (const east of [10, 11, 25]) expect(lossDb[at(east, 0)]).toBeNaN();
    expect(lossDb[at(-25, 0)]).not.toBeNaN();
  });

  test("in four parts is the same as in one, and each part stays in its window", () => {
    const hills = ground(
      (east, south) => 40 * Math.sin(east / 7) * Math.cos(south / 5),
      (east) => (east % 6 === 0 ? 9 : 0),
    );
    const whole = swept(hills);
    const parts = newSwept(grid);
    expect(raysOf(grid) % WEDGES).toBe(0);
    for (let wedge = 0; wedge < WEDGES; wedge++) {
      const { from, to, window } = wedgeOf(grid, wedge);
      const seen = {
        groundAmslM: new Float32Array(side * side).fill(NaN),
        coverHeightM: new Float32Array(side * side),
        coverCode: new Uint8Array(side * side),
      };
      for (let row = window.rows[0]; row < window.rows[1]; row++)
        for (let column = window.columns[0]; column < window.columns[1]; column++) {
          const cell = row * side + column;
          seen.groundAmslM[cell] = hills.groundAmslM[cell]!;
          seen.coverHeightM[cell] = hills.coverHeightM[cell]!;
        }
      sweep(grid, seen, ask, parts, from, to);
    }
    expect(parts.lossDb).toEqual(whole.lossDb);
    expect(parts.diffractionDb).toEqual(whole.diffractionDb);
  });
});
