import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  cellPlace,
  gridAround,
  gridExtent,
  newSwept,
  RayPoints,
  raySpacingKm,
  raysOf,
  sideOf,
  sweep,
  sweepRay,
  SweepScratch,
  wedgeOf,
  WEDGES,
} from "#core/coverage";
import { inverseGeodesic } from "#core/geodesy";
import { bullingtonLossDb, freeSpaceLossDb } from "#core/propagation";
import { tiltDownDeg } from "#core/aiming";
import { nearFrom } from "./rayPoints";
import { arraySurface, coverCode, plainTerrain, sampleProfile, type Terrain } from "#core/terrain";

const grid = gridAround({ latDeg: 38, lonDeg: 20 }, 1200, 30);
const side = sideOf(grid);
const ask = { txHeightM: 15, rxHeightM: 6, frequencyGHz: 5.6, kFactor: 4 / 3, season: "inLeaf" as const };
const WALL = coverCode("building");
/** Ground whose raster has the grid's own cells. */
const ground = (
  heightOf: (east: number, south: number) => number,
  coverOf: (east: number, south: number) => number = () => 0,
  /** By how much of a cell the raster lies farther east and south. */
  shift = 0,
  of = grid,
  turnDeg = 0,
) => {
  const [westDeg, , , northDeg] = gridExtent(of);
  const cells = Array.from({ length: side * side }, (_, i) => [
    (i % side) - grid.rings,
    Math.floor(i / side) - grid.rings,
  ]);
  const heightM = Float32Array.from(cells, ([east, south]) => coverOf(east!, south!));
  return plainTerrain(
    arraySurface(
      {
        westDeg: westDeg + turnDeg + shift * of.cellLonDeg,
        northDeg: northDeg - shift * of.cellLatDeg,
        cellLonDeg: of.cellLonDeg,
        cellLatDeg: of.cellLatDeg,
        columns: side,
        rows: side,
      },
      Float32Array.from(cells, ([east, south]) => heightOf(east!, south!)),
      { heightM, code: Uint8Array.from(heightM, (one) => (one > 0 ? WALL : 0)) },
    ),
  );
};
const at = (east: number, south: number) => (grid.rings + south) * side + grid.rings + east;
const swept = (terrain: Terrain, of = ask) => {
  const losses = newSwept(grid);
  sweep(grid, (look) => look(terrain), of, losses);
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

  /** Points of a ray as a sweep is given them: what lies before each receiver, himself included, as a profile. */
  function profileBefore(points: RayPoints, receiver: number) {
    const { line, near, spacingKm } = points;
    const distance = points.at[receiver]!;
    const inLine = Array.from({ length: Math.max(0, Math.floor(points.lineEnds[receiver]!)) + 1 }, (_, i) => [
      i,
      line.groundAmslM[i]! + line.coverHeightM[i]!,
    ]);
    const close = Array.from({ length: near.counts[receiver]! }, (_, i) => {
      const k = nearFrom(receiver) + i;
      return [distance - near.back[k]!, near.topM[k]!];
    });
    const all = [...inLine, ...close, [distance, points.groundM[receiver]!]].sort(([x], [y]) => x! - y!);
    return { distancesKm: all.map(([step]) => step! * spacingKm), heightsM: all.map(([, heightM]) => heightM!) };
  }

  test("is Bullington over the points that it was given, whatever the ground", () => {
    let compared = 0;
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 60 }), { minLength: 40, maxLength: 40 }),
        fc.array(fc.integer({ min: 0, max: 14 }), { minLength: 40, maxLength: 40 }),
        fc.integer({ min: 0, max: raysOf(grid) - 1 }),
        (heights, covers, ray) => {
          const ringOf = (east: number, south: number) => Math.max(Math.abs(east), Math.abs(south)) % 40;
          const terrain = ground(
            (east, south) => heights[ringOf(east, south)]!,
            (east, south) => Math.max(0, covers[ringOf(east, south)]! - 9),
          );
          const points = new RayPoints(grid, raySpacingKm(terrain, grid));
          points.read(terrain, ray);
          const losses = newSwept(grid);
          sweepRay(points, ask, losses, new SweepScratch(points));
          for (let receiver = 0; receiver < points.receivers; receiver++) {
            const km = points.at[receiver]! * points.spacingKm;
            if (km < 0.08) continue;
            const { distancesKm, heightsM } = profileBefore(points, receiver);
            const [txAmslM, rxAmslM] = [heightsM[0]! + 15, heightsM.at(-1)! + 6];
            const wanted =
              freeSpaceLossDb({ distanceKm: km, frequencyGHz: 5.6 }) +
              bullingtonLossDb({ distancesKm, heightsM, txAmslM, rxAmslM, frequencyGHz: 5.6, kFactor: 4 / 3 });
            const cell = points.cell[receiver]!;
            expect(Math.abs(losses.lossDb[cell]! - wanted)).toBeLessThan(0.02);
            expect(losses.tiltDownDeg[cell]).toBeCloseTo(tiltDownDeg(txAmslM, rxAmslM, km * 1000, 4 / 3), 3);
            compared++;
          }
        },
      ),
      { numRuns: 60 },
    );
    expect(compared).toBeGreaterThan(200);
  });

  test("reads what stands right before a receiver where a full answer does: own cells bare, corners of taller cells between", () => {
    const terrain = ground(
      (east, south) => 40 + 10 * Math.sin(east / 7) + 8 * Math.cos(south / 5),
      (east, south) => ((east * 7 + south * 13) % 5 === 0 ? 6 + ((east * east + south) % 7) : 0),
      // No sample on the very line between two cells.
      0.013,
    );
    const points = new RayPoints(grid, raySpacingKm(terrain, grid));
    let corners = 0;
    for (let ray = 0; ray < raysOf(grid); ray += 5) {
      points.read(terrain, ray);
      for (let receiver = 0; receiver < points.receivers; receiver++) {
        const cell = points.cell[receiver]!;
        const place = cellPlace(grid, cell % side, Math.floor(cell / side));
        const full = sampleProfile(terrain, grid.middle, place);
        expect(points.at[receiver]! * points.spacingKm * 1000).toBeCloseTo(full.distanceM, 0);
        expect(points.groundM[receiver]).toBeCloseTo(full.groundAmslM.at(-1)!, 2);
        if (full.distanceM < 200) continue;
        for (let i = 0; i < points.near.counts[receiver]!; i++) {
          const k = nearFrom(receiver) + i;
          const backKm = points.near.back[k]! * points.spacingKm;
          const there = [...full.distancesKm.keys()].filter(
            (j) => Math.abs(full.distanceM / 1000 - full.distancesKm[j]! - backKm) < 0.00005,
          );
          // A corner that is barely crossed may be missed by one and not by the other.
          if (there.length === 0) continue;
          const apartM = there.map((j) =>
            Math.abs(full.groundAmslM[j]! + full.coverHeightM[j]! - points.near.topM[k]!),
          );
          expect(Math.min(...apartM)).toBeLessThan(0.05);
          if (there.some((j) => full.runEdges?.has(j))) corners++;
        }
      }
    }
    expect(corners).toBeGreaterThan(50);
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
    const { diffractionDb } = swept(
      ground((east, south) => (south === 0 && east === 10 ? 3000 : 100)),
      {
        ...ask,
        frequencyGHz: 80,
      },
    );
    expect(diffractionDb[at(40, 0)]).toBeGreaterThan(70);
    expect(diffractionDb[at(40, 0)]).toBeLessThan(200);
  });

  test("tells nothing behind ground that is not known", () => {
    const { lossDb } = swept(ground((east, south) => (south === 0 && east === 10 ? NaN : 100)));
    expect(lossDb[at(9, 0)]).not.toBeNaN();
    for (const east of [10, 11, 25]) expect(lossDb[at(east, 0)]).toBeNaN();
    expect(lossDb[at(-25, 0)]).not.toBeNaN();
  });

  test("in four parts is the same as in one, and each part answers cells of its window alone", () => {
    const hills = ground(
      (east, south) => 40 * Math.sin(east / 7) * Math.cos(south / 5),
      (east) => (east % 6 === 0 ? 9 : 0),
    );
    const whole = swept(hills);
    const parts = newSwept(grid);
    expect(raysOf(grid) % WEDGES).toBe(0);
    for (let wedge = 0; wedge < WEDGES; wedge++) {
      const { from, to, window } = wedgeOf(grid, wedge);
      const own = newSwept(grid);
      sweep(grid, (look) => look(hills), ask, own, from, to);
      own.lossDb.forEach((lossDb, cell) => {
        if (Number.isNaN(lossDb)) return;
        const [column, row] = [cell % side, Math.floor(cell / side)];
        expect(column >= window.columns[0] && column < window.columns[1]).toBe(true);
        expect(row >= window.rows[0] && row < window.rows[1]).toBe(true);
        parts.lossDb[cell] = lossDb;
        parts.diffractionDb[cell] = own.diffractionDb[cell]!;
      });
    }
    expect(parts.lossDb).toEqual(whole.lossDb);
    expect(parts.diffractionDb).toEqual(whole.diffractionDb);
  });

  test("astride of the 180th meridian is the same as anywhere else", () => {
    const heightOf = (east: number, south: number) => 40 * Math.sin(east / 7) * Math.cos(south / 5);
    const coverOf = (east: number, south: number) => ((east + 2 * south) % 7 === 0 ? 9 : 0);
    const shift = 0.013;
    const here = swept(ground(heightOf, coverOf, shift));
    // The grid's middle lies 400 m before the meridian; the raster is named from its west edge on, or from beyond the meridian.
    for (const turnDeg of [0, -360]) {
      const astride = gridAround({ latDeg: 38, lonDeg: 180 - 400 / 111_195 / Math.cos(38 / 57.29578) }, 1200, 30);
      expect(astride.middle.lonDeg).toBeLessThan(180);
      const terrain = ground(heightOf, coverOf, shift, astride, turnDeg);
      const losses = newSwept(astride);
      sweep(astride, (look) => look(terrain), ask, losses);
      let [compared, other] = [0, 0];
      here.lossDb.forEach((lossDb, cell) => {
        if (Number.isNaN(lossDb)) return;
        compared++;
        // A way through the very corner of a cell may be rounded to either side.
        if (!(Math.abs(losses.lossDb[cell]! - lossDb) < 0.01)) other++;
      });
      expect(other).toBeLessThan(50);
      expect(compared).toBeGreaterThan(4500);
    }
  });
});
