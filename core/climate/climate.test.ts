import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { climateAt, climateOf, kFactor999 } from "#core/climate";

const latitude = fc.double({ min: -90, max: 90, noNaN: true });

test("both hemispheres have one climate, and it rains less toward the poles", () => {
  fc.assert(
    fc.property(latitude, latitude, (x, y) => {
      expect(climateAt(x)).toEqual(climateAt(-x));
      const [near, far] = Math.abs(x) < Math.abs(y) ? [x, y] : [y, x];
      expect(climateAt(near).rainRate001MmPerH).toBeGreaterThanOrEqual(climateAt(far).rainRate001MmPerH);
    }),
  );
});

test("a plan's own figures go before those of its latitude, one by one", () => {
  expect(climateOf({ rainRate001MmPerH: null, dN1NPerKm: null }, 50)).toEqual({
    rainRate001MmPerH: 30,
    dN1NPerKm: -260,
  });
  expect(climateOf({ rainRate001MmPerH: 0, dN1NPerKm: null }, 50)).toEqual({ rainRate001MmPerH: 0, dN1NPerKm: -260 });
  expect(climateOf({ rainRate001MmPerH: null, dN1NPerKm: -700 }, 5)).toEqual({
    rainRate001MmPerH: 95,
    dN1NPerKm: -700,
  });
});

test("k for 99.9 % of the worst month rises with the path and stays between its ends", () => {
  const length = fc.double({ min: 0.1, max: 400, noNaN: true });
  fc.assert(
    fc.property(length, length, (x, y) => {
      const [shorter, longer] = x < y ? [x, y] : [y, x];
      expect(kFactor999(shorter)).toBeLessThanOrEqual(kFactor999(longer) + 1e-12);
      expect(kFactor999(x)).toBeGreaterThanOrEqual(0.38);
      expect(kFactor999(x)).toBeLessThanOrEqual(1.03);
    }),
  );
  expect(kFactor999(50)).toBeCloseTo(0.78, 9);
});
