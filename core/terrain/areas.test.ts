import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { areaIndex, areaRuns, areasWithin, type CoverArea } from "./areas";
import { beyondEnds, END_ZONE_M } from "./coverRuns";
import { coverCode } from "./surface";

type Ring = readonly (readonly [number, number])[];
const box = (west: number, south: number, east: number, north: number): Ring => [
  [west, south],
  [east, south],
  [east, north],
  [west, north],
  [west, south],
];
const area = (rings: readonly Ring[], heightM = 10, kind: CoverArea["kind"] = "wood"): CoverArea => ({
  kind,
  heightM,
  density: 1,
  rings,
});

/** A path due east along `latDeg` from one longitude to another, `count` samples, a kilometre for a hundredth of a degree. */
function east(latDeg: number, fromLonDeg: number, toLonDeg: number, count = 11) {
  const share = (i: number) => i / (count - 1);
  return {
    latDeg: new Float64Array(count).fill(latDeg),
    lonDeg: Float64Array.from({ length: count }, (_, i) => {
      const lon = fromLonDeg + (toLonDeg - fromLonDeg) * share(i);
      return lon > 180 ? lon - 360 : lon;
    }),
    distancesKm: Float64Array.from({ length: count }, (_, i) => (toLonDeg - fromLonDeg) * 100 * share(i)),
  };
}
/** From, to and height of every run, to the millimetre. */
const found = (areas: CoverArea[], path = east(0, 10, 10.1)) =>
  areaRuns(areaIndex(areas)!, path, path.distancesKm.length).map(({ fromKm, toKm, heightM }) => [
    Math.round(fromKm * 1e6) / 1e6,
    Math.round(toKm * 1e6) / 1e6,
    heightM,
  ]);

test("an outline is cut where the path meets it, however its edges lie to the samples", () => {
  expect(found([area([box(10.0234, -1, 10.0712, 1)])])).toEqual([[2.34, 7.12, 10]]);
  // Between two samples a kilometre apart: two metres of hedge.
  expect(found([area([box(10.05501, -1, 10.05503, 1)])])).toEqual([[5.501, 5.503, 10]]);
  expect(found([area([box(10.02, 0.001, 10.07, 1)])])).toEqual([]);
  expect(
    areaRuns(areaIndex([area([box(10.02, -1, 10.07, 1)], 7, "building")])!, east(0, 10, 10.1), 11)[0],
  ).toMatchObject({
    heightM: 7,
    code: coverCode("building"),
  });
});

test("a path that begins or ends inside runs from its end", () => {
  expect(found([area([box(9, -1, 10.03, 1)])])).toEqual([[0, 3, 10]]);
  expect(found([area([box(10.08, -1, 11, 1)])])).toEqual([[8, 10, 10]]);
  expect(found([area([box(9, -1, 11, 1)])])).toEqual([[0, 10, 10]]);
});

test("a court is open ground, and an outline with two arms is two stretches", () => {
  expect(found([area([box(10.01, -1, 10.09, 1), box(10.04, -0.5, 10.06, 0.5)])])).toEqual([
    [1, 4, 10],
    [6, 9, 10],
  ]);
  const arms: Ring = [
    [10.01, -0.2],
    [10.09, -0.2],
    [10.09, 0.2],
    [10.07, 0.2],
    [10.07, -0.1],
    [10.03, -0.1],
    [10.03, 0.2],
    [10.01, 0.2],
    [10.01, -0.2],
  ];
  expect(found([area([arms])])).toEqual([
    [1, 3, 10],
    [7, 9, 10],
  ]);
});

test("a path through a corner is cut once, and one along an edge is not cut to pieces", () => {
  const diamond: Ring = [
    [10.02, 0],
    [10.05, -0.03],
    [10.08, 0],
    [10.05, 0.03],
    [10.02, 0],
  ];
  expect(found([area([diamond])])).toEqual([[2, 8, 10]]);
  // One that only touches a corner stays outside, from either side.
  const moved = (up: number) => diamond.map(([lon, lat]): [number, number] => [lon, lat + up]);
  expect(
    [found([area([moved(0.03)])]), found([area([moved(-0.03)])])].flat().filter(([from, to]) => to! - from! > 0),
  ).toEqual([]);
  // What lies on the line itself counts to its left: along an edge the path is in the outline to the right of it.
  expect(found([area([box(10.02, 0, 10.07, 1)])])).toEqual([]);
  expect(found([area([box(10.02, -1, 10.07, 0)])])).toEqual([[2, 7, 10]]);
  // Also where it begins on that edge.
  expect(found([area([box(9, 0, 10.07, 1)])])).toEqual([]);
  expect(found([area([box(9, -1, 10.07, 0)])])).toEqual([[0, 7, 10]]);
});

test("long paths are taken in stretches; a crossing of their seam is one run", () => {
  const path = east(0, 10, 10.4, 201);
  expect(found([area([box(10.05, -1, 10.33, 1)])], path)).toEqual([[5, 33, 10]]);
});

test("of areas that overlap each has its run, the tallest last, to be laid over the others", () => {
  expect(found([area([box(10.02, -1, 10.06, 1)], 20), area([box(10.04, -1, 10.08, 1)], 8)])).toEqual([
    [4, 8, 8],
    [2, 6, 20],
  ]);
});

test("outlines beyond the 180th meridian are met from either side", () => {
  const path = east(0, 179.95, 180.05);
  expect(found([area([box(-179.98, -1, -179.97, 1)])], path)).toEqual([[7, 8, 10]]);
  expect(areasWithin(areaIndex([area([box(-179.98, -1, -179.97, 1)])])!, 179.9, -1, 180.1, 1)).toHaveLength(1);
  expect(areasWithin(areaIndex([area([box(179.97, -1, 179.98, 1)])])!, -180.1, -1, -179.9, 1)).toHaveLength(1);
  expect(areaIndex([])).toBeNull();
});

test("the ends' own zones hold no cover of outlines", () => {
  const zoneKm = END_ZONE_M / 1000;
  const run = (fromKm: number, toKm: number) => ({ fromKm, toKm, heightM: 9, code: 2 });
  expect(beyondEnds([run(0, 10)], 10)).toEqual([run(zoneKm, 10 - zoneKm)]);
  expect(beyondEnds([run(0, zoneKm / 2), run(10 - zoneKm / 2, 10), run(4, 5)], 10)).toEqual([run(4, 5)]);
  // A path shorter than both zones has nothing between them.
  expect(beyondEnds([run(0, 0.008)], 0.008)).toEqual([]);
  // A house on which an end stands is not in its way, however far it reaches; the next one is.
  const house = (fromKm: number, toKm: number) => ({ fromKm, toKm, heightM: 9, code: coverCode("building") });
  expect(beyondEnds([house(0, 0.02), house(0.03, 0.04), house(9.98, 10)], 10)).toEqual([house(0.03, 0.04)]);
});

test("whatever the box, what is inside is as long as the path within its bounds", () => {
  const side = fc.double({ min: 9.9, max: 10.2, noNaN: true });
  fc.assert(
    fc.property(side, side, fc.integer({ min: 3, max: 150 }), (one, other, count) => {
      const [west, eastLon] = one < other ? [one, other] : [other, one];
      if (eastLon - west < 1e-6) return;
      const path = east(0, 10, 10.1, count);
      const total = areaRuns(areaIndex([area([box(west, -1, eastLon, 1)])])!, path, count).reduce(
        (sum, { fromKm, toKm }) => sum + toKm - fromKm,
        0,
      );
      const wanted = Math.max(0, Math.min(10.1, eastLon) - Math.max(10, west)) * 100;
      expect(total).toBeCloseTo(wanted, 5);
    }),
  );
});
