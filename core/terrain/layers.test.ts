import { expect, test } from "@jest/globals";
import {
  areaIndex,
  arraySurface,
  coverCode,
  coverDensity,
  coverKind,
  coverStep,
  groundIn,
  overviewFactor,
  overviewFrame,
  overviewGatherer,
  plainTerrain,
  readGround,
  sampleProfile,
  TILE_CELLS,
  terrainOf,
  tiledSurface,
  UNKNOWN_COVER,
  type CoverArea,
  type GridFrame,
  type Profile,
} from "#core/terrain";

const flat = (frame: GridFrame, heightM: number, code = 0, coverM = 0) => {
  const cells = frame.columns * frame.rows;
  return arraySurface(frame, new Float32Array(cells).fill(heightM), {
    heightM: new Float32Array(cells).fill(coverM),
    code: new Uint8Array(cells).fill(code),
  });
};
const coarse: GridFrame = { westDeg: 10, northDeg: 1, cellLonDeg: 0.001, cellLatDeg: 0.001, columns: 200, rows: 100 };
const fine: GridFrame = {
  westDeg: 10.05,
  northDeg: 0.98,
  cellLonDeg: 0.0002,
  cellLatDeg: 0.0002,
  columns: 250,
  rows: 250,
};
const at = (terrain: Parameters<typeof readGround>[0], latDeg: number, lonDeg: number) => {
  const out = { groundAmslM: 0, coverHeightM: 0, coverCode: 0 };
  readGround(terrain, latDeg, lonDeg, out);
  return out;
};

test("the finest raster wins, and a coarser one fills its holes", () => {
  const holed = flat(fine, 50);
  const withHole = {
    ...holed,
    groundAmslM: holed.groundAmslM.map((height, i) =>
      i % fine.columns > 100 && i % fine.columns < 120 ? NaN : height,
    ),
  };
  const terrain = terrainOf([
    { surface: flat(coarse, 10), kind: "bare" },
    { surface: withHole, kind: "bare" },
  ]);
  expect(at(terrain, 0.95, 10.055).groundAmslM).toBe(50);
  expect(at(terrain, 0.95, 10.05 + 110 * 0.0002).groundAmslM).toBe(10);
  expect(at(terrain, 0.95, 10.01).groundAmslM).toBe(10);
  expect(at(terrain, 0.5, 10.01).groundAmslM).toBeNaN();
  const profile = sampleProfile(terrain, { latDeg: 0.95, lonDeg: 10.06 }, { latDeg: 0.95, lonDeg: 10.09 });
  expect(profile.distancesKm[1]! * 1000).toBeLessThan(22.3);
  expect(profile.holes).toBeNull();
});

test("on heights that have trees in them, cover has no height of its own; on bare ground it has", () => {
  const cover = { surface: { ...flat(coarse, NaN, coverCode("wood", 0.4), 14) }, kind: "cover" as const };
  const bare = at(terrainOf([{ surface: flat(coarse, 10), kind: "bare" }, cover]), 0.95, 10.05);
  expect(bare).toEqual({ groundAmslM: 10, coverHeightM: 14, coverCode: coverCode("wood", 0.4) });
  expect([coverKind(bare.coverCode), coverDensity(bare.coverCode)]).toEqual(["wood", 0.4]);
  const surface = at(terrainOf([{ surface: flat(coarse, 24), kind: "surface" }, cover]), 0.95, 10.05);
  expect(surface).toMatchObject({ groundAmslM: 24, coverHeightM: 0 });
  const unknown = { surface: flat(coarse, NaN, UNKNOWN_COVER), kind: "cover" as const };
  expect(at(terrainOf([{ surface: flat(coarse, 10, 2, 9), kind: "bare" }, unknown]), 0.95, 10.05).coverHeightM).toBe(9);
});

const box = (west: number, south: number, east: number, north: number): CoverArea["rings"][number] => [
  [west, south],
  [east, south],
  [east, north],
  [west, north],
  [west, south],
];
const house = (rings: CoverArea["rings"], heightM = 9): CoverArea => ({ kind: "building", heightM, density: 1, rings });

/** Metres of a profile for which the cover of some samples stands. */
function lengthM(profile: Profile, samples: readonly number[]): number {
  const stepM = (i: number) => (profile.distancesKm[i]! - profile.distancesKm[i - 1]!) * 1000;
  return samples.reduce(
    (sum, i) => sum + (1 - coverStep(profile, i).enters) * stepM(i) + coverStep(profile, i + 1).leaves * stepM(i + 1),
    0,
  );
}

test("a house narrower than the samples' spacing is never stepped over, and a court in it is open", () => {
  const from = { latDeg: 0.95, lonDeg: 10.02 };
  const to = { latDeg: 0.95, lonDeg: 10.12 };
  const ground = [{ surface: flat(coarse, 10), kind: "bare" as const }];
  // 8 m wide, at any place between two samples 111 m apart.
  for (let shift = 0; shift < 10; shift++) {
    const west = 10.06 + shift * 0.0001;
    const terrain = terrainOf(ground, areaIndex([house([box(west, 0.949, west + 0.00007, 0.951)])]));
    const profile = sampleProfile(terrain, from, to);
    const { coverHeightM, lonDeg } = profile;
    const inHouse = [...coverHeightM.keys()].filter((i) => coverHeightM[i] === 9);
    // Both walls, and a sample between them where one happens to stand there.
    expect([2, 3]).toContain(inHouse.length);
    expect(lonDeg[inHouse[0]!]).toBeCloseTo(west, 6);
    expect(lonDeg[inHouse.at(-1)!]).toBeCloseTo(west + 0.00007, 6);
    expect(lengthM(profile, inHouse)).toBeCloseTo(0.00007 * 111_303, 1);
  }
  const courted = house([box(10.06, 0.94, 10.08, 0.96), box(10.065, 0.945, 10.075, 0.955)]);
  const { coverHeightM, lonDeg } = sampleProfile(
    terrainOf(ground, areaIndex([courted, house([box(10.062, 0.94, 10.063, 0.96)], 20)])),
    from,
    to,
  );
  const heightAt = (lon: number) => coverHeightM[lonDeg.findIndex((one) => one >= lon)];
  expect([10.061, 10.0625, 10.07, 10.078, 10.09].map(heightAt)).toEqual([9, 20, 0, 9, 0]);
});

test("a cell beside an end's own is met, however low beside the next", () => {
  // Columns of 24 m along the equator; the ends stand in the middle of theirs.
  const cellDeg = 24 / 111_303;
  const frame: GridFrame = { westDeg: 0, northDeg: 1, cellLonDeg: cellDeg, cellLatDeg: 1, columns: 100, rows: 1 };
  const heightM = new Float32Array(100);
  const code = new Uint8Array(100);
  const stand = (column: number, height: number) => {
    heightM[column] = height;
    code[column] = coverCode("building");
  };
  stand(11, 4);
  stand(12, 9);
  stand(59, 5);
  const terrain = plainTerrain(arraySurface(frame, new Float32Array(100), { heightM, code }));
  const place = (column: number) => ({ latDeg: 0.5, lonDeg: (column + 0.5) * cellDeg });
  const profile = sampleProfile(terrain, place(10), place(60));
  const cut = [...profile.coverHeightM.keys()]
    .filter((i) => profile.coverHeightM[i]! > 0)
    .map((i) => [Math.round(profile.distancesKm[i]! * 1000), profile.coverHeightM[i]]);
  expect(cut).toEqual([
    [24, 4],
    [47, 9],
    [1177, 5],
  ]);
});

test("the corner of a taller cell is met though no sample stands in it", () => {
  // A path at 45° over square cells at the equator; one tall cell whose corner it cuts.
  const frame: GridFrame = { westDeg: 0, northDeg: 0.1, cellLonDeg: 0.001, cellLatDeg: 0.001, columns: 100, rows: 100 };
  const along = (column: number, row: number) => {
    const heightM = new Float32Array(100 * 100);
    const code = new Uint8Array(100 * 100);
    heightM[row * 100 + column] = 18;
    code[row * 100 + column] = coverCode("building");
    const terrain = plainTerrain(arraySurface(frame, new Float32Array(100 * 100), { heightM, code }));
    // From (10.5, 10.2) to (60.5, 60.2) in cells: enters column c + 1 at row c + 0.7, so cell (c + 1, c) for 0.3 of a step.
    return sampleProfile(terrain, { latDeg: 0.0898, lonDeg: 0.0105 }, { latDeg: 0.0398, lonDeg: 0.0605 });
  };
  for (let cell = 12; cell < 58; cell++) {
    const profile = along(cell + 1, cell);
    const { coverHeightM } = profile;
    const met = [...coverHeightM.keys()].filter((i) => coverHeightM[i] === 18);
    expect([cell, met.length > 0]).toEqual([cell, true]);
    // 0.3 of a diagonal step of 157 m.
    expect(lengthM(profile, met)).toBeCloseTo(0.3 * 157.3, -1);
    // The cell on the other side is not crossed.
    expect(Math.max(...along(cell, cell + 1).coverHeightM)).toBe(0);
  }
});

test("a house just beyond an end's own ground counts, one on it does not", () => {
  const ground = [{ surface: flat(coarse, 10), kind: "bare" as const }];
  const metresEast = (m: number) => 10.02 + m / 111_303;
  const tallest = (fromM: number, toM: number) =>
    Math.max(
      ...sampleProfile(
        terrainOf(ground, areaIndex([house([box(metresEast(fromM), 0.949, metresEast(toM), 0.951)])])),
        { latDeg: 0.95, lonDeg: 10.02 },
        { latDeg: 0.95, lonDeg: 10.12 },
      ).coverHeightM,
    );
  expect(tallest(33, 43)).toBe(9);
  expect(tallest(8, 28)).toBe(9);
  // The house on which the antenna stands, however far it reaches along the path.
  expect(tallest(-4, 28)).toBe(0);
});

test("a raster that crosses the 180th meridian is read on both sides, by places and by paths", () => {
  const frame: GridFrame = {
    westDeg: 179.9,
    northDeg: 1,
    cellLonDeg: 0.001,
    cellLatDeg: 0.001,
    columns: 200,
    rows: 100,
  };
  const heights = Float32Array.from({ length: 200 * 100 }, (_, i) => i % 200);
  const terrain = plainTerrain(arraySurface(frame, heights));
  expect(at(terrain, 0.95, 179.9505).groundAmslM).toBeCloseTo(50, 3);
  expect(at(terrain, 0.95, -179.9495).groundAmslM).toBeCloseTo(150, 3);
  const [from, to] = [
    { latDeg: 0.95, lonDeg: 179.95 },
    { latDeg: 0.95, lonDeg: -179.95 },
  ];
  const profile = sampleProfile(terrain, from, to);
  expect(profile.holes).toBeNull();
  for (let i = 1; i < profile.groundAmslM.length; i++)
    expect(profile.groundAmslM[i]).toBeGreaterThan(profile.groundAmslM[i - 1]!);
  // An outline on the far side of the globe at the same latitude is not in the way; one beside the seam is.
  const tallest = (west: number) =>
    Math.max(
      ...sampleProfile({ ...terrain, areas: areaIndex([house([box(west, 0.94, west + 0.001, 0.96)])]) }, from, to)
        .coverHeightM,
    );
  expect(tallest(10)).toBe(0);
  expect(tallest(179.98)).toBe(9);
  expect(tallest(-179.98)).toBe(9);
});

test("a large raster's overview holds the mean of what it stands for", () => {
  const large: GridFrame = { westDeg: 0, northDeg: 1, cellLonDeg: 1e-4, cellLatDeg: 1e-4, columns: 5000, rows: 3000 };
  expect(overviewFactor(large)).toBe(4);
  const frame = overviewFrame(large);
  expect([frame.columns, frame.rows]).toEqual([1250, 750]);
  const empty = () => ({
    groundAmslM: new Float32Array(TILE_CELLS ** 2).fill(NaN),
    coverHeightM: new Float32Array(TILE_CELLS ** 2),
    coverCode: new Uint8Array(TILE_CELLS ** 2),
  });
  const gatherer = overviewGatherer(large, empty);
  const tile = empty();
  for (let i = 0; i < TILE_CELLS ** 2; i++) tile.groundAmslM[i] = i % TILE_CELLS;
  gatherer.add(1, tile);
  const overview = tiledSurface(frame, gatherer.tiles);
  expect([groundIn(overview, 32, 0), groundIn(overview, 33, 5)]).toEqual([1.5, 5.5]);
  expect(groundIn(overview, 0, 0)).toBeNaN();
});
