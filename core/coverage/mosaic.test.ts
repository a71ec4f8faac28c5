import { expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  cellAt,
  cellPlace,
  combined,
  gridAround,
  gridExtent,
  gridOver,
  newCells,
  placesIn,
  sideOf,
} from "#core/coverage";

const grid = (latDeg: number, lonDeg: number, radiusM = 3000, cellM = 100) =>
  gridAround({ latDeg, lonDeg }, radiusM, cellM);

test("grids that are one stay themselves; others are held by a square with cells no finer", () => {
  const one = grid(-37, -30);
  expect(gridOver([one, grid(-37, -30)])).toBe(one);
  expect(placesIn(grid(-37, -30), one)).toBeNull();
  expect(gridOver([])).toBeNull();
  const other = grid(-37.1, -29.9, 3000, 150);
  const shared = gridOver([one, other])!;
  expect(shared.cellNorthKm).toBeCloseTo(0.15, 9);
  const [west, south, east, north] = gridExtent(shared);
  for (const own of [one, other]) {
    const [w, s, e, n] = gridExtent(own);
    expect([w >= west, s >= south, e <= east, n <= north]).toEqual([true, true, true, true]);
  }
  const wide = gridOver([one, grid(-38, -30)])!;
  expect(sideOf(wide)).toBeLessThanOrEqual(2 * 401 + 1);
});

test("every cell of a mosaic finds the cell of a grid that it lies in, and none outside", () => {
  fc.assert(
    fc.property(
      fc.double({ min: -0.03, max: 0.03, noNaN: true }),
      fc.double({ min: -0.03, max: 0.03, noNaN: true }),
      fc.constantFrom(100, 130, 210),
      (north, east, cellM) => {
        const one = grid(-37, -30, 1500, 100);
        const other = grid(-37 + north, -30 + east, 1500, cellM);
        fc.pre(one.middle.latDeg !== other.middle.latDeg);
        const shared = gridOver([one, other])!;
        for (const own of [one, other]) {
          const places = placesIn(own, shared)!;
          const side = sideOf(own);
          const sharedSide = sideOf(shared);
          for (let cell = 0; cell < places.length; cell += 7) {
            const at = cellPlace(shared, cell % sharedSide, (cell / sharedSide) | 0);
            const [w, s, e, n] = gridExtent(own);
            const inside = at.lonDeg > w && at.lonDeg < e && at.latDeg > s && at.latDeg < n;
            const place = places[cell]!;
            if (place < 0) {
              // On the very rim either may be said.
              const rim = Math.min(at.lonDeg - w, e - at.lonDeg, at.latDeg - s, n - at.latDeg);
              if (inside) expect(rim).toBeLessThan(1e-9);
              continue;
            }
            const there = cellPlace(own, place % side, (place / side) | 0);
            expect(Math.abs(there.latDeg - at.latDeg)).toBeLessThanOrEqual(own.cellLatDeg / 2 + 1e-12);
            expect(Math.abs(there.lonDeg - at.lonDeg)).toBeLessThanOrEqual(own.cellLonDeg / 2 + 1e-12);
          }
        }
      },
    ),
    { numRuns: 20 },
  );
});

test("the best of sectors on different grids is the one that is faster there", () => {
  const [one, other] = [grid(-37, -30, 1000), grid(-37, -29.985, 1000)];
  const shared = gridOver([one, other])!;
  const cellsOf = (own: typeof one, rateMbps: number, dbm: number) => {
    const cells = newCells(own);
    cells.rateMbps.fill(rateMbps);
    cells.downMbps.fill(rateMbps + 1);
    cells.upMbps.fill(rateMbps);
    cells.downDbm.fill(dbm);
    cells.upDbm.fill(dbm - 4);
    return { cells, placeOf: placesIn(own, shared) };
  };
  const all = combined([cellsOf(one, 20, -70), cellsOf(other, 50, -76)]);
  const [inOne, inOther] = [placesIn(one, shared)!, placesIn(other, shared)!];
  let both = 0;
  all.server.forEach((server, cell) => {
    const [first, second] = [inOne[cell]! >= 0, inOther[cell]! >= 0];
    expect(server).toBe(second ? 1 : first ? 0 : 255);
    if (first && second) {
      both++;
      expect(all.leadDb[cell]).toBeCloseTo(6, 5);
      expect([all.downMbps[cell], all.upMbps[cell], all.upDbm[cell]]).toEqual([51, 50, -80]);
    } else expect(all.leadDb[cell]).toBeNaN();
  });
  expect(both).toBeGreaterThan(10);
});

test("grids on either side of the 180th meridian are held by one that lies astride of it", () => {
  const [west, east] = [grid(-17, 179.985), grid(-17, -179.985)];
  const shared = gridOver([west, east])!;
  const inland = gridOver([grid(-17, 19.985), grid(-17, 20.015)])!;
  expect(sideOf(shared)).toBe(sideOf(inland));
  const both = [west, east].map((own) => placesIn(own, shared)!);
  const alike = [grid(-17, 19.985), grid(-17, 20.015)].map((own) => placesIn(own, inland)!);
  both.forEach((places, i) => expect([...places]).toEqual([...alike[i]!]));
  for (const [own, places] of [west, east].map((one, i) => [one, both[i]!] as const))
    for (let cell = 0; cell < places.length; cell += 53) {
      const place = cellPlace(shared, cell % sideOf(shared), Math.floor(cell / sideOf(shared)));
      expect(Math.abs(place.lonDeg)).toBeLessThanOrEqual(180);
      expect(cellAt(shared, place)).toBe(cell);
      expect(cellAt(own, place) ?? -1).toBe(places[cell]);
    }
  expect(cellAt(west, { latDeg: -17, lonDeg: 0 })).toBeNull();
  expect(cellAt(west, { latDeg: -18, lonDeg: 179.985 })).toBeNull();
});
