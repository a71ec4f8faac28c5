import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { mastIsolationDb } from "#core/mast";

const LAMBDA_M = 0.299792458 / 5.8;
const between = (verticalM: number, horizontalM: number, aGainDbi = 0, bGainDbi = 0, frequencyGHz = 5.8) =>
  mastIsolationDb({ verticalM, horizontalM, frequencyGHz, aGainDbi, bGainDbi });

test("side by side: 22 and 20 log of the distance in wavelengths, less both gains toward each other", () => {
  expect(between(0, 2)).toBeCloseTo(22 + 20 * Math.log10(2 / LAMBDA_M), 9);
  expect(between(0, 2, 3, -5)).toBeCloseTo(between(0, 2) + 2, 9);
  expect(between(0, 4) - between(0, 2)).toBeCloseTo(6.02, 2);
});

test("one over the other: 28 and 40 log, and gains sideways do not count", () => {
  expect(between(2, 0)).toBeCloseTo(28 + 40 * Math.log10(2 / LAMBDA_M), 9);
  expect(between(2, 0, 10, 10)).toBe(between(2, 0));
  expect(between(4, 0) - between(2, 0)).toBeCloseTo(12.04, 2);
});

test("between the two by the angle: at 45° half of each", () => {
  const beside = 22 + 20 * Math.log10(1 / LAMBDA_M);
  const above = 28 + 40 * Math.log10(1 / LAMBDA_M);
  expect(between(1, 1)).toBeCloseTo((beside + above) / 2, 9);
});

test("never a gain, and never less apart for being farther up", () => {
  expect(between(0, 0.01, 20, 20)).toBe(0);
  expect(between(0.001, 0)).toBe(0);
  fc.assert(
    fc.property(
      fc.double({ min: 0.2, max: 10, noNaN: true }),
      fc.double({ min: 0.2, max: 10, noNaN: true }),
      fc.double({ min: 0.1, max: 5, noNaN: true }),
      (verticalM, horizontalM, more) => {
        expect(between(verticalM + more, horizontalM)).toBeGreaterThanOrEqual(between(verticalM, horizontalM) - 1e-9);
      },
    ),
  );
});
