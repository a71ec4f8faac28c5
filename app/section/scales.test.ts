import { expect, test } from "@jest/globals";
import { valley } from "#core/testing";
import { bulgedM, nearestIndex, niceTicks, scalesFor } from "./scales";

const FRAME = { width: 500, height: 200, left: 40, right: 10, top: 20, bottom: 30 };

test("places on the drawing and on the ground turn into each other, either way round", () => {
  for (const mirrored of [false, true]) {
    const scales = scalesFor(FRAME, 12, -5, 145, mirrored);
    expect([scales.x(0), scales.x(12)]).toEqual(mirrored ? [490, 40] : [40, 490]);
    expect([scales.y(145), scales.y(-5)]).toEqual([20, 170]);
    for (const km of [0, 3.7, 12]) expect(scales.kmAt(scales.x(km))).toBeCloseTo(km, 9);
    for (const amslM of [-5, 0, 88.8, 145]) expect(scales.amslAt(scales.y(amslM))).toBeCloseTo(amslM, 9);
  }
});

test("ticks are round, inside the axis, and about as many as asked for", () => {
  expect(niceTicks(0, 12.4, 6)).toEqual([0, 5, 10]);
  expect(niceTicks(0, 12.4, 7)).toEqual([0, 2, 4, 6, 8, 10, 12]);
  expect(niceTicks(-5, 145, 4)).toEqual([0, 50, 100]);
  expect(niceTicks(0.13, 0.72, 6)).toEqual([0.2, 0.3, 0.4, 0.5, 0.6, 0.7]);
});

test("the nearest sample is found among uneven ones, beyond the ends too", () => {
  const at = (km: number) => nearestIndex(Float64Array.of(0, 0.1, 0.5, 2, 2.1), km);
  expect([-1, 0.04, 0.06, 0.29, 0.31, 1.9, 2.06, 9].map(at)).toEqual([0, 0, 1, 1, 2, 3, 4, 4]);
  // Half-way, the nearer end of the path.
  expect(at(0.3)).toBe(1);
});

test("the bulge is nothing at the ends and highest half-way, d²/(8·k·R)", () => {
  const profile = valley().between({ latDeg: -1, lonDeg: 20 }, { latDeg: -1, lonDeg: 20.11 });
  const bulge = bulgedM(profile, 4 / 3);
  const pathKm = profile.distanceM / 1000;
  expect([bulge[0], bulge.at(-1)]).toEqual([0, expect.closeTo(0, 9)]);
  expect(Math.max(...bulge)).toBeCloseTo((pathKm ** 2 * 1000) / (8 * (4 / 3) * 6371), 1);
  expect(Math.max(...bulgedM(profile, 2 / 3))).toBeCloseTo(2 * Math.max(...bulge), 9);
});
