import { expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  availabilityOf,
  marginForAvailabilityDb,
  multipathAnnualShare,
  rainOutagePercent,
  rainWorstMonthPercent,
  treesInRay,
  treesLossDb,
  type FadingPath,
} from "#core/link";
import { multipathFadePercent, multipathOutagePercent, rainAttenuationDb } from "#core/propagation";
import { areaIndex, coverCode, plainTerrain, arraySurface, sampleProfile, type CoverKind } from "#core/terrain";

const path = (rest: Partial<FadingPath> = {}): FadingPath => ({
  distanceKm: 10,
  frequencyGHz: 23,
  polarization: "V",
  latDeg: -37.6,
  txAmslM: 120,
  rxAmslM: 60,
  rainRate001MmPerH: 32,
  ...rest,
});

test("rain outage is rain attenuation turned round, between the ends of the method", () => {
  for (const percentOfTime of [0.002, 0.01, 0.05, 0.3, 0.9]) {
    const marginDb = rainAttenuationDb({ ...path(), percentOfTime });
    expect(rainOutagePercent(path(), marginDb)).toBeCloseTo(percentOfTime, 6);
  }
  expect(rainOutagePercent(path(), 500)).toBe(0.001);
  expect(rainOutagePercent(path(), 0)).toBe(1);
  expect(rainOutagePercent(path({ rainRate001MmPerH: 0 }), 5)).toBe(0);
  expect(rainOutagePercent(path({ frequencyGHz: 0.9 }), 5)).toBe(0);
});

test("worst months weigh more than the year: 0.01 % of the year's rain is 0.052 % of its worst month", () => {
  expect(rainWorstMonthPercent(0.01)).toBeCloseTo((0.01 / 0.3) ** (1 / 1.15), 12);
  expect(rainWorstMonthPercent(0.01)).toBeCloseTo(0.0519, 4);
  expect(rainWorstMonthPercent(0.3)).toBe(1);
  // At 45° the cosine is 0: 10.5 − 5.6·log 1.1 − 2.7·log 10 dB on a level path of 10 km.
  const level = path({ latDeg: 45, txAmslM: 60 });
  expect(-10 * Math.log10(multipathAnnualShare(level))).toBeCloseTo(10.5 - 5.6 * Math.log10(1.1) - 2.7, 6);
  // Never more than 10.8 dB, however steep and far from the equator.
  expect(-10 * Math.log10(multipathAnnualShare(path({ latDeg: 80, txAmslM: 5000, distanceKm: 1 })))).toBeCloseTo(
    10.8,
    9,
  );
});

const margin = fc.double({ min: 0, max: 80, noNaN: true });
const paths = fc.record({
  distanceKm: fc.double({ min: 0.5, max: 50, noNaN: true }),
  frequencyGHz: fc.constantFrom(0.9, 2.4, 5.8, 11, 24, 60, 80),
  latDeg: fc.double({ min: -70, max: 70, noNaN: true }),
  rainRate001MmPerH: fc.double({ min: 0, max: 120, noNaN: true }),
});

test("availability never falls with more margin, nor rises with more rain; both ways round a link it is the same", () => {
  fc.assert(
    fc.property(paths, margin, fc.double({ min: 0.1, max: 20, noNaN: true }), (rest, marginDb, moreDb) => {
      const here = availabilityOf(path(rest), marginDb);
      const better = availabilityOf(path(rest), marginDb + moreDb);
      expect(better.availabilityPercent).toBeGreaterThanOrEqual(here.availabilityPercent - 1e-9);
      expect(better.worstMonthAvailabilityPercent).toBeGreaterThanOrEqual(here.worstMonthAvailabilityPercent - 1e-9);
      const wetter = availabilityOf(path({ ...rest, rainRate001MmPerH: rest.rainRate001MmPerH + 20 }), marginDb);
      expect(wetter.availabilityPercent).toBeLessThanOrEqual(here.availabilityPercent + 1e-6);
      const back = availabilityOf(path({ ...rest, txAmslM: 60, rxAmslM: 120 }), marginDb);
      expect(back.availabilityPercent).toBeCloseTo(here.availabilityPercent, 9);
    }),
    { numRuns: 200, seed: 5 },
  );
});

test("the margin for an availability gives just that availability, and a little less does not", () => {
  fc.assert(
    fc.property(paths, fc.constantFrom(99.5, 99.9, 99.95, 99.99), (rest, wanted) => {
      const least = marginForAvailabilityDb(path(rest), wanted);
      if (least === null) return;
      const { marginDb } = least;
      expect(availabilityOf(path(rest), marginDb).availabilityPercent).toBeGreaterThanOrEqual(wanted);
      if (marginDb > 0.01) expect(availabilityOf(path(rest), marginDb - 0.01).availabilityPercent).toBeLessThan(wanted);
    }),
    { numRuns: 150, seed: 6 },
  );
  expect(marginForAvailabilityDb(path(), 99.9999)).toBeNull();
  expect(availabilityOf(path(), -1).availabilityPercent).toBe(0);
});

test("what rain's method cannot tell is not asked for: 99.999 % has no margin, and figures at either end carry their bound", () => {
  // Five gigahertz over ten kilometres: rain takes a decibel or two, yet is floored at 0.001 % of the year.
  const five = path({ frequencyGHz: 5.8 });
  expect(marginForAvailabilityDb(five, 99.999)).toBeNull();
  expect(marginForAvailabilityDb(path({ frequencyGHz: 0.9 }), 99.999)).toMatchObject({ isAtMost: false });
  expect(marginForAvailabilityDb(five, 99.998)!.isAtMost).toBe(true);
  expect(marginForAvailabilityDb(five, 99.998)!.marginDb).toBeLessThan(45);
  expect(marginForAvailabilityDb(path(), 99.99)!.isAtMost).toBe(false);
  expect(availabilityOf(five, 30)).toMatchObject({ rainBound: "atMost", availabilityBound: "atLeast" });
  expect(availabilityOf(path(), 0.5)).toMatchObject({ rainBound: "atLeast", availabilityBound: "atMost" });
  expect(availabilityOf(path(), 20)).toMatchObject({ rainBound: null, availabilityBound: null });
  expect(availabilityOf(path({ frequencyGHz: 0.9 }), 20)).toMatchObject({ rainBound: null, availabilityBound: null });
});

test("shallow fades come more often than the law of deep ones says, and both meet at the transition", () => {
  const args = { distanceKm: 40, frequencyGHz: 5.8, txAmslM: 300, rxAmslM: 500, dN1: -300 };
  const deep = (fadeMarginDb: number) => multipathOutagePercent({ ...args, fadeMarginDb });
  const all = (fadeMarginDb: number) => multipathFadePercent({ ...args, fadeMarginDb });
  const occurrence = deep(0);
  const transitionDb = 25 + 1.2 * Math.log10(occurrence);
  expect(all(transitionDb + 5)).toBeCloseTo(deep(transitionDb + 5), 12);
  expect(all(transitionDb - 1e-6)).toBeCloseTo(deep(transitionDb), 6);
  // By definition of its end: a fade of 0 dB is exceeded for 1 − 1/e of the time.
  expect(all(0)).toBeCloseTo(100 * (1 - Math.exp(-1)), 9);
  expect(all(3)).toBeGreaterThan(2 * deep(3));
  // Eqs. 12 to 18 of P.530-17 by hand at 3 dB, p₀ = 3.28 %: A_t 25.62, q′ 3.158, q_t 2.568, q 8.109, p 5.895 %.
  expect(occurrence).toBeCloseTo(3.2833, 4);
  expect(all(3)).toBeCloseTo(5.895, 3);
  for (let marginDb = 0; marginDb < 40; marginDb++) expect(all(marginDb + 1)).toBeLessThan(all(marginDb));
  expect(
    availabilityOf({ ...args, rainRate001MmPerH: 0, latDeg: 40, polarization: "V" }, 10).worstMonthMultipathPercent,
  ).toBe(all(10));
});

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
