import { expect, test } from "@jest/globals";
import { fresnelRadiusM } from "#core/propagation";
import type { Profile } from "#core/terrain";
import { scalesFor, type Frame } from "./scales";
import { groundShapes, shownHeightsM, zoneShapes } from "./shapes";

const frame: Frame = { width: 500, height: 200, left: 50, right: 10, top: 20, bottom: 30 };
/** Four kilometres with water, a wood 12 m high and a building 8 m high. */
const profile = {
  distanceM: 4000,
  distancesKm: Float64Array.from([0, 1, 2, 3, 4]),
  groundAmslM: Float64Array.from([100, 0, 0, 40, 60]),
  coverHeightM: Float64Array.from([0, 0, 0, 12, 0]),
  coverCode: Uint8Array.from([0, 1, 1, 2, 0]),
} as unknown as Profile;
const flat = new Float64Array(5);
const numbers = (path: string) => (path.match(/-?\d+(\.\d+)?/g) ?? []).map(Number);

test("a section shows ground, cover and both structures whole, with room above and below", () => {
  expect(shownHeightsM(profile, flat, { a: 10, b: 10 })).toEqual([-8.8, 118.8]);
  // The structure at either end may be the highest.
  expect(shownHeightsM(profile, flat, { a: 10, b: 90 })[1]).toBeCloseTo(150 * 1.08, 9);
  // A tree on the highest ground counts; so does the earth's bulge, for low and high alike.
  const wooded = { ...profile, coverHeightM: Float64Array.from([50, 0, 0, 12, 0]) };
  expect(shownHeightsM(wooded, flat, { a: 10, b: 10 })[1]).toBeCloseTo(150 * 1.08, 9);
  const bulge = Float64Array.from([0, 20, 5, 0, 0]);
  expect(shownHeightsM(profile, bulge, { a: 10, b: 10 })[0]).toBeCloseTo(5 - 105 * 0.08, 9);
  // Flat ground gets six metres either way.
  const plain = { ...profile, groundAmslM: new Float64Array(5), coverHeightM: new Float64Array(5) };
  expect(shownHeightsM(plain, flat, { a: 3, b: 2 })).toEqual([-6, 9]);
});

test("the ground is one line from end to end, closed along the foot of the drawing", () => {
  const scales = scalesFor(frame, 4, 0, 150, false);
  const { line, ground } = groundShapes(profile, flat, scales);
  const points = numbers(line);
  expect(points).toHaveLength(10);
  expect(points.slice(0, 2)).toEqual([scales.x(0), scales.y(100)].map((one) => Number(one.toFixed(1))));
  expect(points.slice(-2)).toEqual([scales.x(4), scales.y(60)].map((one) => Number(one.toFixed(1))));
  expect(numbers(ground).slice(-4)).toEqual([scales.x(4), scales.y(0), scales.x(0), scales.y(0)]);
  expect(ground.startsWith(line)).toBe(true);
});

test("cover stands half-way to its neighbours on the ground as it bulges, and water lies between two cells of it", () => {
  const scales = scalesFor(frame, 4, 0, 150, false);
  const bulge = Float64Array.from([0, 0, 0, 7, 0]);
  const { bars, water } = groundShapes(profile, bulge, scales);
  expect(bars.map(({ code, d }) => [code, d !== ""])).toEqual([
    [2, true],
    [3, false],
    [4, false],
  ]);
  const [left, foot, top, right] = numbers(bars[0]!.d);
  expect([left, right]).toEqual([scales.x(2.5), scales.x(3.5) + 0.3].map((one) => Number(one.toFixed(1))));
  expect([foot, top]).toEqual([scales.y(47), scales.y(59)].map((one) => Number(one.toFixed(1))));
  expect(numbers(water)).toEqual(
    [scales.x(1), scales.y(0), scales.x(2), scales.y(0)].map((one) => Number(one.toFixed(1))),
  );
});

test("a drawing with west on the left has its bars the right way round", () => {
  const [left, , , right] = numbers(groundShapes(profile, flat, scalesFor(frame, 4, 0, 150, true)).bars[0]!.d);
  expect(left).toBeLessThan(right!);
});

test("the zone closes at both ends and is widest in the middle, by the share that is asked for", () => {
  const scales = scalesFor(frame, 4, 0, 150, false);
  const ray = { pathKm: 4, aAmslM: 110, bAmslM: 70, frequencyGHz: 5.6 };
  const lower = numbers(zoneShapes(0.6, ray, scales).lower);
  expect(lower).toHaveLength(2 * 65);
  expect(lower[1]).toBeCloseTo(scales.y(110), 1);
  expect(lower.at(-1)).toBeCloseTo(scales.y(70), 1);
  const radiusM = fresnelRadiusM({ fromKm: 2, toKm: 2, frequencyGHz: 5.6 });
  expect(lower[2 * 32 + 1]).toBeCloseTo(scales.y(90 - 0.6 * radiusM), 1);
  const whole = numbers(zoneShapes(1, ray, scales).whole);
  expect(whole).toHaveLength(4 * 65);
  expect(whole[2 * 32 + 1]).toBeCloseTo(scales.y(90 + radiusM), 1);
});
