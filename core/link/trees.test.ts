import { expect, test } from "@jest/globals";
import {
  inLeafShare,
  leafDbOf,
  NO_TREES,
  stretchWithin,
  treesInRay,
  treesLossDb,
  WoodFinder,
  woodPlace,
} from "./trees";
import type { Place } from "#core/geodesy";
import {
  areaIndex,
  arraySurface,
  coverCode,
  ENTRY,
  EXIT,
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
  // Ten cells of a thousandth of a degree.
  expect(depth(wooded(1, "wood"), 8)).toBeCloseTo(1113, 0);
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
    lonDeg: Float64Array.from(distancesKm, (km) => km / 100),
    distancesKm,
    groundAmslM: new Float64Array(7).fill(100),
    coverHeightM: Float64Array.from(inner, (code) => (code === 0 ? 0 : 20)),
    coverCode: Uint8Array.from(inner),
    coverFrame: null,
    runEdges: null,
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
  // Trees on the step from 3 to 5 km alone; the bulge is (1000 / (2·k·6371))·d·(10 − d).
  const alone = new Map([
    [2, ENTRY],
    [3, EXIT],
  ]);
  const at = (aAmslM: number, bAmslM: number, k = 4 / 3) =>
    treesInRay(stand({ 2: WOOD, 3: WOOD }, { runEdges: alone }), aAmslM, bAmslM, k).depthM;
  const bulge = (km: number, k = 4 / 3) => (1000 / (2 * k * 6371)) * km * (10 - km);
  expect(at(110, 110)).toBeCloseTo(2000, 6);
  // Over the tops where it hangs least, through them where it hangs most, and of the step the part below the tops.
  expect(at(120 + bulge(5) + 0.01, 120 + bulge(5) + 0.01)).toBe(0);
  expect(at(120 + bulge(3) - 0.01, 120 + bulge(3) - 0.01)).toBeCloseTo(2000, 6);
  expect(at(120 + (bulge(3) + bulge(5)) / 2, 120 + (bulge(3) + bulge(5)) / 2)).toBeCloseTo(1000, 6);
  // A ray that runs in the ground is the ground's matter.
  expect(at(99, 99)).toBe(0);
  expect(at(100 + bulge(5) + 0.01, 100 + bulge(5) + 0.01)).toBeCloseTo(2000, 6);
  expect(at(100 + (bulge(3) + bulge(5)) / 2, 100 + (bulge(3) + bulge(5)) / 2)).toBeCloseTo(1000, 6);
  // From 108.6 m up to 148.6 the line is at the tops, 120 m and the bulge, 1 km before the step ends; the other way round it is over them.
  const [low, high] = [108, 148];
  const over = (km: number) => low + ((high - low) * km) / 10 - bulge(km) - 100;
  expect(at(low, high)).toBeCloseTo((2000 * (20 - over(3))) / (over(5) - over(3)), 6);
  expect(at(high, low)).toBe(0);
  // Half the earth's radius bends twice as far.
  expect(at(120 + 2 * bulge(3) - 0.01, 120 + 2 * bulge(3) - 0.01, 2 / 3)).toBeCloseTo(2000, 6);
  expect(at(120 + 2 * bulge(5) + 0.01, 120 + 2 * bulge(5) + 0.01, 2 / 3)).toBe(0);
});

test("a sample's trees stand half-way to its neighbours, by their density, and not right at the ends", () => {
  const everywhere = Object.fromEntries(Array.from({ length: 7 }, (_, i) => [i, WOOD]));
  const ray = (profile: Profile) => treesInRay(profile, 110, 110, 4 / 3);
  const depth = (profile: Profile) => ray(profile).depthM;
  expect(depth(stand(everywhere))).toBeCloseTo(10_000 - 10, 6);
  expect(ray(stand(everywhere)).leafyShare).toBe(1);
  // Sample 1 from 0.5 to 2 km, 4 from 6.5 to 8.5.
  expect(depth(stand({ 1: WOOD, 4: EVERGREEN }))).toBeCloseTo(3500, 6);
  expect(ray(stand({ 1: WOOD, 4: EVERGREEN })).leafyShare).toBeCloseTo(1 - 2000 / 3500, 9);
  expect(ray(stand({ 3: EVERGREEN })).leafyShare).toBe(0);
  const none = { depthM: 0, leafyShare: 1, woodShare: null };
  expect(ray(stand({}))).toEqual(none);
  expect(ray(stand({ 3: coverCode("building") }))).toEqual(none);
  const thin = depth(stand({ 3: coverCode("wood", 0.5) })) / depth(stand({ 3: WOOD }));
  expect(thin).toBeGreaterThan(0.45);
  expect(thin).toBeLessThan(0.55);
});

test("cells of a raster end where they end, and laid runs where they were laid", () => {
  // Columns 0.017 degrees wide: the samples stand in columns 0, 0, 1, 2, 4, 5 and 5.
  const frame = { westDeg: 0, northDeg: 1, cellLonDeg: 0.017, cellLatDeg: 2, columns: 10, rows: 1 };
  const depth = (kinds: Partial<Record<number, number>>, rest: Partial<Profile> = {}) =>
    treesInRay(stand(kinds, { coverFrame: frame, ...rest }), 110, 110, 4 / 3).depthM;
  // Sample 2's cell begins at 1.7 km and ends at 3.4.
  expect(depth({ 2: WOOD })).toBeCloseTo(1700, 6);
  // Sample 1 shares its cell with the end, which clears it; what stands beyond fills the step all the same.
  expect(depth({ 1: WOOD })).toBeCloseTo(1700 - 5, 6);
  expect(depth({ 5: WOOD })).toBeCloseTo(10_000 - 8500 - 5, 6);
  const edges = new Map([
    [2, ENTRY],
    [4, EXIT],
  ]);
  expect(depth({ 2: WOOD, 3: WOOD, 4: WOOD }, { runEdges: edges })).toBeCloseTo(5000, 6);
  const corner = { westDeg: 0, northDeg: 0.0005, cellLonDeg: 0.017, cellLatDeg: 0.001, columns: 10, rows: 2 };
  // Into another column at 3.4 km, and into another row at 4.0 km: half-way between them.
  const slanting = Float64Array.of(0, 0, 0, -0.001, -0.001, -0.001, -0.001);
  expect(depth({ 2: WOOD }, { coverFrame: corner, latDeg: slanting })).toBeCloseTo(3700 - 1700, 6);
});

test("of a step the stretch over the ground and below the tops counts, whichever way the ray goes", () => {
  expect(stretchWithin(5, 5, 0.2, 0.7, 10)).toBeCloseTo(0.5, 12);
  expect(stretchWithin(12, 12, 0, 1, 10)).toBe(0);
  expect(stretchWithin(0, 0, 0, 1, 10)).toBe(0);
  // From 20 m down to 0 the last half lies below 10 m; from −10 up to 10 the last half lies over the ground.
  expect(stretchWithin(20, 0, 0, 1, 10)).toBeCloseTo(0.5, 12);
  expect(stretchWithin(-10, 10, 0, 1, 15)).toBeCloseTo(0.5, 12);
  expect(stretchWithin(20, 0, 0.75, 1, 10)).toBeCloseTo(0.25, 12);
  expect(stretchWithin(20, 0, 0, 0.6, 10)).toBeCloseTo(0.1, 12);
  expect(stretchWithin(20, 0, 0, 0.4, 10)).toBe(0);
});

test("Weissberger's loss in leaf, by hand, up to the ends of its formula", () => {
  // 0.45·f^0.284·d up to 14 m, 1.33·f^0.284·d^0.588 beyond.
  expect(treesLossDb(5.8, 10, 1, "inLeaf")).toBeCloseTo(0.45 * 5.8 ** 0.284 * 10, 6);
  expect(treesLossDb(5.8, 100, 1, "inLeaf")).toBeCloseTo(1.33 * 5.8 ** 0.284 * 100 ** 0.588, 6);
  expect(treesLossDb(5.8, 100, 0.5, "bare")).toBeCloseTo((1 - 0.5 * 0.35) * treesLossDb(5.8, 100, 1, "inLeaf"), 9);
  expect(treesLossDb(300, 10, 1, "inLeaf")).toBe(treesLossDb(120, 10, 1, "inLeaf"));
  expect(treesLossDb(5.8, -1, 1, "inLeaf")).toBe(0);
  expect(NO_TREES).toEqual({
    ...{ depthM: 0, leafyShare: 1, woodShare: null, lossDb: 0 },
    ...{ way: "none", isMeasured: true },
  });
});

test("the wood of a path is the longest run of trees without a gap, by its middle", () => {
  const wood = (kinds: Partial<Record<number, number>>) => treesInRay(stand(kinds), 110, 110, 4 / 3).woodShare;
  // Sample 1 has trees on its two steps, from 0 to 3 km, 4 on those from 5 to 9: the middle lies by the metres of trees on each.
  expect(wood({ 4: WOOD })).toBeCloseTo((1500 * 6.5 + 500 * 8.5) / 2000 / 10, 9);
  expect(wood({ 1: WOOD, 4: WOOD })).toBe(wood({ 4: WOOD }));
  // Thin stands count by their density.
  expect(wood({ 1: WOOD, 4: coverCode("wood", 0.5) })).toBe(wood({ 1: WOOD }));
  const finder = new WoodFinder();
  finder.add(0, 2, 2);
  finder.add(2, 3, 1);
  finder.add(3, 4, 0);
  finder.add(4, 6.5, 2.5);
  expect(finder.middle).toBe(1.5);
  finder.add(6.5, 8, 1.5);
  expect(finder.middle).toBeCloseTo(6, 12);
  finder.clear();
  expect(finder.middle).toBeNull();
  finder.add(6.5, 8, 1);
  expect(finder.middle).toBe(7.25);
  const at = (woodShare: number | null, from: Place, to: Place) => woodPlace({ ...NO_TREES, woodShare }, from, to);
  expect(at(0.25, { latDeg: 10, lonDeg: 179 }, { latDeg: 14, lonDeg: -177 })).toEqual({ latDeg: 11, lonDeg: 180 });
  expect(at(0.5, { latDeg: 10, lonDeg: 179 }, { latDeg: 14, lonDeg: -177 })!.lonDeg).toBe(-179);
  expect(at(null, { latDeg: 10, lonDeg: 179 }, { latDeg: 14, lonDeg: -177 })).toBeNull();
});

test("by how much less bare trees take, and what share of the loss stands in leaf", () => {
  const through = { ...NO_TREES, depthM: 50, leafyShare: 0.6, way: "through" as const };
  expect(leafDbOf(through, 5.8)).toBeCloseTo(0.6 * 0.35 * treesLossDb(5.8, 50, 1, "inLeaf"), 9);
  expect(leafDbOf({ ...through, way: "over" }, 5.8)).toBe(0);
  expect([inLeafShare(0.6, 1), inLeafShare(0.6, 0), inLeafShare(0.6, 0.5), inLeafShare(0, 0)]).toEqual([
    1, 0.4, 0.7, 1,
  ]);
});

test("woods near the ends of a short path count: 28 m of it on a path of 60 m take 15.5 dB at 5.8 GHz, and what an end stands in is its own", () => {
  const frame = { westDeg: 10, northDeg: 1, cellLonDeg: 0.00004, cellLatDeg: 0.00004, columns: 60, rows: 20 };
  const perM = 1 / (Math.cos((0.9996 * Math.PI) / 180) * 111_320);
  const [west, east] = [10.0004, 10.0004 + 60 * perM];
  const inWood = (fromM: number, toM: number) => {
    const heightM = new Float32Array(60 * 20);
    const code = new Uint8Array(60 * 20);
    const terrain = {
      ...plainTerrain(arraySurface(frame, new Float32Array(60 * 20).fill(100), { heightM, code })),
      areas: areaIndex([
        {
          ...{ kind: "wood", heightM: 15, density: 1 },
          rings: [
            [
              [west + fromM * perM, 0.999],
              [west + toM * perM, 0.999],
              [west + toM * perM, 1],
              [west + fromM * perM, 1],
              [west + fromM * perM, 0.999],
            ],
          ],
        },
      ]),
    };
    const profile = sampleProfile(terrain, { latDeg: 0.9996, lonDeg: west }, { latDeg: 0.9996, lonDeg: east });
    expect(profile.distanceM).toBeCloseTo(60, 0);
    return treesInRay(profile, 106, 106, 4 / 3).depthM;
  };
  expect(inWood(16, 44)).toBeCloseTo(28, 0);
  expect(treesLossDb(5.8, inWood(16, 44), 1, "inLeaf")).toBeCloseTo(15.5, 0);
  // Six metres from an end is in the way, five from it are not.
  expect(inWood(6, 34)).toBeCloseTo(28, 0);
  expect(inWood(0, 28)).toBeCloseTo(23, 0);
});
