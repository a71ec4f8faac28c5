import { expect, test } from "@jest/globals";
import { NO_TREES, treesInRay, treesLossDb } from "./trees";
import {
  areaIndex,
  arraySurface,
  coverCode,
  plainTerrain,
  sampleProfile,
  type CoverKind,
  type Profile,
} from "#core/terrain";

test("only what the ray passes through is trees on the way, thin stands by their density", () => {
  const frame = { westDeg: 10, northDeg: 1, cellLonDeg: 0.001, cellLatDeg: 0.001, columns: 100, rows: 20 };
  const cells = frame.columns * frame.rows;
  const wooded = (density: number, kind: CoverKind) => {
    const heightM = new Float32Array(cells);
    const code = new Uint8Array(cells);
    for (let i = 0; i < cells; i++)
      if (i % 100 >= 40 && i % 100 < 50) {
        heightM[i] = 15;
        code[i] = coverCode(kind, density);
      }
    const terrain = plainTerrain(arraySurface(frame, new Float32Array(cells).fill(100), { heightM, code }));
    return sampleProfile(terrain, { latDeg: 0.99, lonDeg: 10.01 }, { latDeg: 0.99, lonDeg: 10.09 });
  };
  const depth = (profile: ReturnType<typeof wooded>, heightM: number) =>
    treesInRay(profile, 100 + heightM, 100 + heightM, 4 / 3).depthM;
  expect(Math.abs(depth(wooded(1, "wood"), 8) - 1113)).toBeLessThan(112);
  expect(depth(wooded(0.5, "wood"), 8)).toBeCloseTo(depth(wooded(1, "wood"), 8) / 2, 6);
  expect(depth(wooded(1, "wood"), 30)).toBe(0);
  expect(depth(wooded(1, "building"), 8)).toBe(0);
  expect(treesInRay(wooded(1, "wood"), 108, 108, 4 / 3).leafyShare).toBe(1);
  expect(treesInRay(wooded(1, "evergreen"), 108, 108, 4 / 3).leafyShare).toBe(0);
});

test("a hedge counts by the metres crossed: 2, 5 and 45 m deep take 1.5, 3.7 and 20.5 dB at 5.75 GHz", () => {
  const frame = { westDeg: 10, northDeg: 1, cellLonDeg: 0.00027, cellLatDeg: 0.00027, columns: 400, rows: 40 };
  const flat = arraySurface(frame, new Float32Array(400 * 40).fill(100));
  const hedge = (depthM: number, shiftM = 0) => {
    const west = 10.05 + shiftM / 111_303;
    const east = west + depthM / 111_303;
    const ring: [number, number][] = [
      [west, 0.99],
      [east, 0.99],
      [east, 1],
      [west, 1],
      [west, 0.99],
    ];
    const areas = areaIndex([{ kind: "wood", heightM: 12, density: 1, rings: [ring] }]);
    const profile = sampleProfile(
      { layers: [{ surface: flat, kind: "bare" }], areas },
      { latDeg: 0.995, lonDeg: 10.01 },
      { latDeg: 0.995, lonDeg: 10.09 },
    );
    return treesInRay(profile, 106, 106, 4 / 3).depthM;
  };
  for (const [depthM, lossDb] of [
    [2, 1.5],
    [5, 3.7],
    [45, 20.5],
  ] as const)
    for (const shiftM of [0, 7, 13, 29]) {
      expect(hedge(depthM, shiftM)).toBeCloseTo(depthM, 1);
      expect(treesLossDb(5.75, hedge(depthM, shiftM), 1, "inLeaf")).toBeCloseTo(lossDb, 1);
    }
});

test("bare wood takes less than wood in leaf, evergreens the same all year, and no depth takes nothing", () => {
  expect(treesLossDb(5.8, 0, 1, "inLeaf")).toBe(0);
  expect(treesLossDb(5.8, 50, 1, "bare")).toBeCloseTo(0.65 * treesLossDb(5.8, 50, 1, "inLeaf"), 9);
  expect(treesLossDb(5.8, 50, 0, "bare")).toBe(treesLossDb(5.8, 50, 0, "inLeaf"));
  expect(treesLossDb(5.8, 4000, 1, "inLeaf")).toBe(treesLossDb(5.8, 400, 1, "inLeaf"));
});

/** A path of 10 km over ground at 100 m with trees 20 m high at some of its five inner samples. */
function stand(kinds: Partial<Record<number, number>>, rest: Partial<Profile> = {}): Profile {
  const distancesKm = Float64Array.of(0, 1, 3, 5, 8, 9, 10);
  const inner = Array.from(distancesKm, (_, i) => kinds[i] ?? 0);
  return {
    from: { latDeg: 0, lonDeg: 0 },
    to: { latDeg: 0, lonDeg: 0.09 },
    latDeg: new Float64Array(7),
    lonDeg: new Float64Array(7),
    distancesKm,
    groundAmslM: new Float64Array(7).fill(100),
    coverHeightM: Float64Array.from(inner, (code) => (code === 0 ? 0 : 20)),
    coverCode: Uint8Array.from(inner),
    coverLengthM: Float64Array.of(1, 2, 4, 8, 16, 32, 64),
    azimuthDeg: 90,
    backAzimuthDeg: 270,
    distanceM: 10_000,
    holes: null,
    ...rest,
  };
}
const WOOD = coverCode("wood");
const EVERGREEN = coverCode("evergreen");

test("the ray stands where the line between the ends does, less the bulge of an earth of the plan's k", () => {
  // 3 km of 10 on an earth of 4/3: (1000 / (2·k·6371))·3·7 = 1.236 m lower than the line.
  const at = (aAmslM: number, bAmslM: number, k = 4 / 3) => treesInRay(stand({ 2: WOOD }), aAmslM, bAmslM, k).depthM;
  const bulgeM = (1000 / (2 * (4 / 3) * 6371)) * 3 * 7;
  expect(at(120 + bulgeM + 0.01, 120 + bulgeM + 0.01)).toBe(0);
  expect(at(120 + bulgeM - 0.01, 120 + bulgeM - 0.01)).toBe(4);
  // From 110 to 130 m the line is at 116 m there, the other way round at 124 m.
  expect([at(110, 130), at(130, 110)]).toEqual([4, 0]);
  expect(at(110 + bulgeM + 3.99, 130 + bulgeM + 3.99)).toBe(4);
  expect(at(110 + bulgeM + 4.01, 130 + bulgeM + 4.01)).toBe(0);
  // A ray that runs in the ground is the ground's matter.
  expect(at(99, 99)).toBe(0);
  expect(at(100 + bulgeM - 0.01, 100 + bulgeM - 0.01)).toBe(0);
  expect(at(100 + bulgeM + 0.01, 100 + bulgeM + 0.01)).toBe(4);
  // Half the earth's radius bends twice as far.
  expect(at(100 + bulgeM + 0.01, 100 + bulgeM + 0.01, 2 / 3)).toBe(0);
  expect(at(120 + 2 * bulgeM - 0.01, 120 + 2 * bulgeM - 0.01, 2 / 3)).toBe(4);
});

test("every inner sample counts by its own length and density, the ends' own trees not at all", () => {
  const everywhere = Object.fromEntries(Array.from({ length: 7 }, (_, i) => [i, WOOD]));
  const ray = (profile: Profile) => treesInRay(profile, 110, 110, 4 / 3);
  expect(ray(stand(everywhere))).toEqual({ depthM: 2 + 4 + 8 + 16 + 32, leafyShare: 1 });
  expect(ray(stand({ 1: WOOD, 4: EVERGREEN }))).toEqual({ depthM: 18, leafyShare: 1 - 16 / 18 });
  expect(ray(stand({ 3: EVERGREEN }))).toEqual({ depthM: 8, leafyShare: 0 });
  expect(ray(stand({}))).toEqual({ depthM: 0, leafyShare: 1 });
  expect(ray(stand({ 3: coverCode("building") }))).toEqual({ depthM: 0, leafyShare: 1 });
  const thin = ray(stand({ 3: coverCode("wood", 0.5) })).depthM;
  expect(thin / 8).toBeGreaterThan(0.45);
  expect(thin / 8).toBeLessThan(0.55);
  // Without lengths of their own samples stand for one step each: 10 km in six.
  expect(ray(stand({ 3: WOOD }, { coverLengthM: null })).depthM).toBeCloseTo(10_000 / 6, 9);
});

test("Weissberger's loss in leaf, by hand, up to the ends of its formula", () => {
  // 0.45·f^0.284·d up to 14 m, 1.33·f^0.284·d^0.588 beyond.
  expect(treesLossDb(5.8, 10, 1, "inLeaf")).toBeCloseTo(0.45 * 5.8 ** 0.284 * 10, 6);
  expect(treesLossDb(5.8, 100, 1, "inLeaf")).toBeCloseTo(1.33 * 5.8 ** 0.284 * 100 ** 0.588, 6);
  expect(treesLossDb(5.8, 100, 0.5, "bare")).toBeCloseTo((1 - 0.5 * 0.35) * treesLossDb(5.8, 100, 1, "inLeaf"), 9);
  expect(treesLossDb(300, 10, 1, "inLeaf")).toBe(treesLossDb(120, 10, 1, "inLeaf"));
  expect(treesLossDb(5.8, -1, 1, "inLeaf")).toBe(0);
  expect(NO_TREES).toEqual({ depthM: 0, leafyShare: 1, lossDb: 0, way: "none", isMeasured: true });
});
