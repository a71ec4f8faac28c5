import { expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  availabilityOf,
  marginForAvailabilityDb,
  multipathAnnualShare,
  rainOutagePercent,
  rainWorstMonthPercent,
  type FadingPath,
} from "#core/link";
import { multipathFadePercent, multipathOutagePercent, rainAttenuationDb } from "#core/propagation";

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
