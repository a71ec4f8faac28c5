import { expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  arraySurface,
  coverCode,
  cutTiles,
  groundAt,
  plainTerrain,
  profileScratch,
  readAlong,
  readGround,
  sampleProfile,
  terrainOf,
  tiledSurface,
  tilesAcross,
  UNKNOWN_COVER,
  UNREAD,
  UnreadGround,
  type GridFrame,
  type Surface,
  type Terrain,
} from "#core/terrain";

const frame = (cellDeg: number, columns: number, rows: number, westDeg = 10, northDeg = 2): GridFrame => ({
  westDeg,
  northDeg,
  cellLonDeg: cellDeg,
  cellLatDeg: cellDeg,
  columns,
  rows,
});

/** Hilly ground with holes, cover of every kind and cells whose cover nobody knows. */
function hills(grid: GridFrame, seed = 0): Surface {
  const cells = grid.columns * grid.rows;
  const at = (i: number) => (Math.imul(i + seed, 2654435761) >>> 16) % 97;
  return arraySurface(
    grid,
    Float32Array.from({ length: cells }, (_, i) => (at(i) === 13 ? NaN : 100 + 40 * Math.sin(i / 7) + at(i) / 5)),
    {
      heightM: Float32Array.from({ length: cells }, (_, i) => (at(i) % 4) * 5),
      code: Uint8Array.from({ length: cells }, (_, i) =>
        at(i) % 11 === 0 ? UNKNOWN_COVER : at(i) % 4 === 0 ? 0 : coverCode("wood", 0.5),
      ),
    },
  );
}
function tiled(surface: Surface): Surface {
  const tiles = new Map(
    [...cutTiles(surface)].map(({ tileColumn, tileRow, tile }) => [
      tileRow * tilesAcross(surface.frame) + tileColumn,
      tile,
    ]),
  );
  return tiledSurface(surface.frame, tiles);
}

const fine = hills(frame(0.001, 300, 200));
const coarse = hills(frame(0.004, 120, 100, 9.9, 2.1), 5);
const TERRAINS: Record<string, Terrain> = {
  "one array": plainTerrain(fine),
  tiles: plainTerrain(tiled(fine)),
  "fine over coarse": terrainOf([
    { surface: tiled(fine), kind: "bare" },
    { surface: tiled(coarse), kind: "bare" },
  ]),
  "ground and cover apart": terrainOf([
    { surface: tiled(fine), kind: "bare" },
    { surface: coarse, kind: "cover" },
  ]),
  "a surface model": terrainOf([{ surface: fine, kind: "surface" }]),
  nothing: terrainOf([]),
};

/** Many places read at once are as each read by itself. */
function expectSame(terrain: Terrain, latDeg: Float64Array, lonDeg: Float64Array) {
  const count = latDeg.length;
  const into = {
    groundAmslM: new Float64Array(count).fill(-1),
    coverHeightM: new Float64Array(count).fill(-1),
    coverCode: new Uint8Array(count).fill(77),
  };
  readAlong(terrain, { latDeg, lonDeg }, into);
  const one = { groundAmslM: 0, coverHeightM: 0, coverCode: 0 };
  for (let i = 0; i < count; i++) {
    readGround(terrain, latDeg[i]!, lonDeg[i]!, one);
    if (Number.isNaN(one.groundAmslM)) expect(into.groundAmslM[i]).toBeNaN();
    else expect(into.groundAmslM[i]).toBeCloseTo(one.groundAmslM, 4);
    expect([into.coverCode[i], into.coverHeightM[i]]).toEqual([one.coverCode, one.coverHeightM]);
  }
}

test.each(Object.entries(TERRAINS))("%s: places on the very lines between cells", (_, terrain) => {
  const lonDeg = Float64Array.from({ length: 601 }, (__, i) => 10 + i / 2000);
  for (const rowsDown of [10, 25.5, 101])
    expectSame(terrain, new Float64Array(lonDeg.length).fill(2 - rowsDown / 1000), lonDeg);
});

test.each(Object.entries(TERRAINS))("%s: many places read as each by itself", (_, terrain) => {
  const place = fc.tuple(
    fc.double({ min: 1.75, max: 2.05, noNaN: true }),
    fc.double({ min: 9.95, max: 10.35, noNaN: true }),
  );
  fc.assert(
    fc.property(place, place, fc.integer({ min: 2, max: 150 }), ([latA, lonA], [latB, lonB], count) => {
      const latDeg = Float64Array.from({ length: count }, (__, i) => latA + ((latB - latA) * i) / (count - 1));
      const lonDeg = Float64Array.from({ length: count }, (__, i) => lonA + ((lonB - lonA) * i) / (count - 1));
      expectSame(terrain, latDeg, lonDeg);
    }),
    { numRuns: 60 },
  );
});

test("a profile in scratch is the same as one with arrays of its own, and holds until the next", () => {
  const scratch = profileScratch(800);
  const [from, to] = [
    { latDeg: 1.85, lonDeg: 10.02 },
    { latDeg: 1.95, lonDeg: 10.25 },
  ];
  const own = sampleProfile(TERRAINS.tiles!, from, to);
  const lent = sampleProfile(TERRAINS.tiles!, from, to, undefined, scratch);
  for (const key of ["distancesKm", "groundAmslM", "coverHeightM", "coverCode", "latDeg", "lonDeg"] as const)
    expect([...lent[key]]).toEqual([...own[key]]);
  expect(lent.holes).toEqual(own.holes);
  expect(lent.groundAmslM.buffer).toBe(scratch.groundAmslM.buffer);
  const next = sampleProfile(TERRAINS.tiles!, to, from, undefined, scratch);
  expect(lent.groundAmslM[0]).toBe(next.groundAmslM[0]);
  // What is longer than the scratch gets its own.
  const long = sampleProfile(TERRAINS.tiles!, from, to, 10, scratch);
  expect(long.groundAmslM.buffer).not.toBe(scratch.groundAmslM.buffer);
});

test("a block that is not unpacked is named rather than taken for a hole, and read as soon as it is there", () => {
  const whole = tiled(fine);
  const part = { ...whole, starts: Int32Array.from(whole.starts) };
  const start = part.starts[1]!;
  part.starts[1] = UNREAD;
  const [from, to] = [
    { latDeg: 1.95, lonDeg: 10.02 },
    { latDeg: 1.95, lonDeg: 10.25 },
  ];
  const read = () => sampleProfile(plainTerrain(part), from, to);
  expect(read).toThrow(UnreadGround);
  expect(() => groundAt(part, 1.95, 10.19)).toThrow(expect.objectContaining({ surface: part, block: 1 }));
  part.starts[1] = start;
  expect(read().groundAmslM).toEqual(sampleProfile(plainTerrain(whole), from, to).groundAmslM);
});
