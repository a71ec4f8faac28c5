import { expect, test } from "@jest/globals";
import {
  arraySurface,
  groundIn,
  cellSizeM,
  cutTiles,
  groundAt,
  plainTerrain,
  sampleProfile,
  tiledSurface,
  tilesAcross,
  type GridFrame,
} from "#core/terrain";

const frame: GridFrame = { westDeg: 10, northDeg: -2, cellLonDeg: 0.001, cellLatDeg: 0.001, columns: 300, rows: 150 };
const plane = Float32Array.from({ length: 300 * 150 }, (_, i) => (i % 300) * 2 + Math.floor(i / 300) * 3);
const surface = arraySurface(frame, plane);
const terrain = plainTerrain(surface);

test("bilinear sampling is exact on a plane, between cell centres", () => {
  const lonDeg = frame.westDeg + 20.25 * frame.cellLonDeg;
  const latDeg = frame.northDeg - 10.75 * frame.cellLatDeg;
  expect(groundAt(surface, latDeg, lonDeg)).toBeCloseTo(19.75 * 2 + 10.25 * 3, 3);
});

test("ground off the grid or beside a hole is unknown, never 0", () => {
  expect(groundAt(surface, 5, 10.1)).toBeNaN();
  const holed = arraySurface(
    frame,
    plane.map((height, i) => (i === 5 * 300 + 5 ? NaN : height)),
  );
  expect(groundAt(holed, frame.northDeg - 5.5 * 0.001, 10 + 5.4 * 0.001)).toBeNaN();
  expect(groundAt(holed, frame.northDeg - 8.5 * 0.001, 10 + 8.4 * 0.001)).not.toBeNaN();
});

test("tiles give back the surface they were cut from", () => {
  const tiles = new Map(
    [...cutTiles(surface)].map(({ tileColumn, tileRow, tile }) => [tileRow * tilesAcross(frame) + tileColumn, tile]),
  );
  const again = tiledSurface(frame, tiles);
  for (let row = 0; row < 150; row += 7)
    for (let column = 0; column < 300; column += 11)
      expect(groundIn(again, column, row)).toBe(groundIn(surface, column, row));
  tiles.delete(0);
  expect(groundIn(tiledSurface(frame, tiles), 3, 3)).toBeNaN();
});

test("a profile has its ends on the places, its samples no farther apart than a cell, and reads the same backwards", () => {
  const from = { latDeg: -2.02, lonDeg: 10.02 };
  const to = { latDeg: -2.12, lonDeg: 10.25 };
  const there = sampleProfile(terrain, from, to);
  const back = sampleProfile(terrain, to, from);
  const last = there.distancesKm.length - 1;
  expect(there.distancesKm[1]! * 1000).toBeLessThanOrEqual(cellSizeM(frame));
  expect(there.groundAmslM[0]).toBeCloseTo(groundAt(surface, from.latDeg, from.lonDeg), 6);
  for (let i = 0; i <= last; i += 13) expect(there.groundAmslM[i]).toBeCloseTo(back.groundAmslM[last - i]!, 2);
  expect(there.holes).toBeNull();
});

test("a profile counts its holes and says where the first one is", () => {
  const { holes } = sampleProfile(terrain, { latDeg: -2.02, lonDeg: 10.02 }, { latDeg: -2.02, lonDeg: 10.4 });
  expect(holes!.count).toBeGreaterThan(50);
  expect(holes!.firstKm).toBeGreaterThan(30);
});
