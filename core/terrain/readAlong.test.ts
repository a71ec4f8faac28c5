import { expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  arraySurface,
  boundsOf,
  coverCode,
  cutOut,
  cutTiles,
  plainTerrain,
  profileScratch,
  readAlong,
  readGround,
  sampleProfile,
  terrainOf,
  terrainOfCut,
  tiledSurface,
  tilesAcross,
  UNKNOWN_COVER,
  withOverview,
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
const noBlocks: Surface = {
  frame: fine.frame,
  groundAmslM: fine.groundAmslM,
  coverHeightM: fine.coverHeightM,
  coverCode: fine.coverCode,
};
const TERRAINS: Record<string, Terrain> = {
  "one array": plainTerrain(fine),
  tiles: plainTerrain(tiled(fine)),
  "a surface without blocks": plainTerrain(noBlocks),
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

test.each(Object.entries(TERRAINS))("%s: many places read as each by itself", (_, terrain) => {
  const place = fc.tuple(
    fc.double({ min: 1.75, max: 2.05, noNaN: true }),
    fc.double({ min: 9.95, max: 10.35, noNaN: true }),
  );
  fc.assert(
    fc.property(place, place, fc.integer({ min: 2, max: 150 }), ([latA, lonA], [latB, lonB], count) => {
      const latDeg = Float64Array.from({ length: count }, (__, i) => latA + ((latB - latA) * i) / (count - 1));
      const lonDeg = Float64Array.from({ length: count }, (__, i) => lonA + ((lonB - lonA) * i) / (count - 1));
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

test("a cut of several rasters and outlines reads the same within its bounds", () => {
  const terrain = TERRAINS["fine over coarse"]!;
  const [from, to] = [
    { latDeg: 1.82, lonDeg: 10.02 },
    { latDeg: 1.97, lonDeg: 10.28 },
  ];
  const cut = terrainOfCut(cutOut(terrain, boundsOf([from, to], 300)));
  const [whole, part] = [sampleProfile(terrain, from, to), sampleProfile(cut, from, to)];
  for (let i = 0; i < whole.groundAmslM.length; i++) {
    if (Number.isNaN(whole.groundAmslM[i])) expect(part.groundAmslM[i]).toBeNaN();
    else expect(part.groundAmslM[i]).toBeCloseTo(whole.groundAmslM[i]!, 3);
    expect(part.coverCode[i]).toBe(whole.coverCode[i]);
  }
  expect(cutOut(terrain, [50, 50, 51, 51])).toMatchObject({ layers: [], areas: [] });
});

test("too wide a cut takes the raster's overview rather than every cell", () => {
  const large = tiled(hills(frame(0.0005, 2200, 40)));
  const overview = new Map([[0, [...cutTiles(hills(frame(0.001, 128, 20)))][0]!.tile]]);
  const cut = cutOut(plainTerrain(withOverview(large, overview)), [10, 1.9, 12, 2.1], 50_000);
  expect(cut.isCoarser).toBe(true);
  expect(cut.layers[0]!.frame.cellLonDeg).toBeCloseTo(0.001, 12);
  expect(cut.cellM).toBeGreaterThan(100);
});
