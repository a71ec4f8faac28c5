import { expect, test } from "@jest/globals";
import {
  cellPlace,
  gridAround,
  learnedNoiseOver,
  learnedOver,
  learnedOverSchema,
  newSwept,
  sideOf,
  withLearned,
} from "#core/coverage";
import { NO_TREES, woodPlace } from "#core/link";
import { areaAt, correctionOf, noiseCorrectionOf, type Learned } from "#core/learn";

const grid = gridAround({ latDeg: -37.6, lonDeg: -30.2 }, 3000, 100);
const side = sideOf(grid);
const areaTerm = (latDeg: number, lonDeg: number, value: number) => ({
  ...{ key: `area ${areaAt(latDeg, lonDeg).join(" ")}`, value },
  ...{ sd: 1, readings: 3 },
});
const learned: Learned = {
  ...{ isOn: true, strayDb: 2, readings: 9 },
  terms: [
    { key: "everywhere", value: -1.5, sd: 1, readings: 9 },
    { key: "ground", value: 0.2, sd: 0.1, readings: 4 },
    { key: "trees 3 to 10 GHz", value: -0.3, sd: 0.1, readings: 4 },
    { key: "trees 3 to 10 GHz, in leaf", value: 0.12, sd: 0.1, readings: 4 },
    { key: "trees 3 to 10 GHz, bare", value: -0.07, sd: 0.1, readings: 4 },
    { ...areaTerm(-37.6, -30.2, 0.2), key: `trees 3 to 10 GHz, ${areaTerm(-37.6, -30.2, 0).key}` },
    { ...areaTerm(-37.585, -30.2, 0.4), key: `trees 3 to 10 GHz, ${areaTerm(-37.585, -30.2, 0).key}` },
    { ...areaTerm(-37.585, -30.2, 9), key: `trees under 3 GHz, ${areaTerm(-37.585, -30.2, 0).key}` },
    { key: "trees under 3 GHz", value: 9, sd: 0.1, readings: 4 },
    areaTerm(-37.6, -30.2, 2.5),
    areaTerm(-37.585, -30.2, -4),
    areaTerm(-37.6, -30.23, 3),
    areaTerm(-38.4, -30.2, 50),
    areaTerm(-37.6, -31.2, 50),
  ],
};

test("every cell is corrected by what a full answer there would be", () => {
  const losses = newSwept(grid);
  for (let cell = 0; cell < side * side; cell++) {
    if (cell % 11 === 0) continue;
    losses.treesDb[cell] = cell % 3 === 0 ? 12 : 0;
    losses.diffractionDb[cell] = losses.treesDb[cell]! + (cell % 5) * 11;
    losses.lossDb[cell] = 120;
    losses.inLeafShare[cell] = (cell % 4) / 4;
    losses.woodShare[cell] = ((cell % 6) + 1) / 8;
  }
  const over = learnedOver(learned, grid, 5.6)!;
  expect(learnedOverSchema.parse(over)).toEqual(over);
  const window = { columns: [0, side] as [number, number], rows: [3, side] as [number, number] };
  withLearned(grid, losses, over, window);
  let [met, woods] = [0, 0];
  for (let row = 0; row < side; row++)
    for (let column = 0; column < side; column++) {
      const cell = row * side + column;
      const treesDb = losses.treesDb[cell]!;
      if (cell % 11 === 0) expect(losses.lossDb[cell]).toBeNaN();
      else if (row < 3) expect(losses.lossDb[cell]).toBe(120);
      else {
        const place = cellPlace(grid, column, row);
        const { db, parts } = correctionOf(learned, {
          ...{ frequencyGHz: 5.6, treesDb, diffractionDb: losses.diffractionDb[cell]! - treesDb, isIndoors: false },
          inLeafShare: losses.inLeafShare[cell]!,
          wood: woodPlace({ ...NO_TREES, woodShare: losses.woodShare[cell]! }, grid.middle, place),
          ...place,
        });
        expect(losses.lossDb[cell]).toBeCloseTo(120 - db, 4);
        met += parts.filter(([key]) => key.startsWith("area")).length;
        woods += parts.filter(([key]) => key.startsWith("trees") && key.includes("area")).length;
      }
    }
  expect(met).toBeGreaterThan(300);
  expect(woods).toBeGreaterThan(100);
});

test("areas out of the circle are left out, and nothing is laid where it is switched off or nothing was learned", () => {
  expect(learnedOver(learned, grid, 5.6)!.areas.map(([, , db]) => db)).toEqual([2.5, -4, 3]);
  expect(learnedOver(learned, grid, 5.6)!.woods.map(([, , value]) => value)).toEqual([0.2, 0.4]);
  expect(learnedOver(learned, grid, 2.4)!.woods.map(([, , value]) => value)).toEqual([9]);
  expect(learnedOver({ ...learned, isOn: false }, grid, 5.6)).toBeNull();
  expect(learnedOver(null, grid, 5.6)).toBeNull();
});

test("a customer's noise is learned for every cell as a full answer there would have it", () => {
  const term = (key: string, value: number) => ({ key, value, sd: 1, readings: 3 });
  const here = `area ${areaAt(-37.6, -30.2).join(" ")}`;
  const noise = {
    ...{ strayDb: 2, readings: 9 },
    terms: [
      term("noise at 5 GHz", 1.5),
      term(`noise at 5 GHz, ${here}`, 6.3),
      term(`noise at 5 GHz, area ${areaAt(-37.585, -30.2).join(" ")}`, -4),
      term(`noise at 2 GHz, ${here}`, 20),
    ],
  };
  const rise = learnedNoiseOver({ ...learned, noise }, grid, 5.6)!;
  const met = new Set<number>();
  for (let row = 0; row < side; row++)
    for (let column = 0; column < side; column++) {
      const { db } = noiseCorrectionOf({ noise }, { frequencyGHz: 5.6, ...cellPlace(grid, column, row) })!;
      const riseDb = rise[row * side + column]!;
      expect(riseDb).toBeCloseTo(Math.max(0, db), 5);
      met.add(Math.round(riseDb * 10) / 10);
    }
  // The band alone, the area with more, and the one with less than thermal noise.
  expect([...met].sort((x, y) => x - y)).toEqual([0, 1.5, 7.8]);
  expect(learnedNoiseOver({ ...learned, noise }, grid, 24)).toBeNull();
  expect(learnedNoiseOver({ ...learned, noise, isOn: false }, grid, 5.6)).toBeNull();
  expect(learnedNoiseOver(learned, grid, 5.6)).toBeNull();
});

test("a circle astride of the 180th meridian meets the areas on both sides", () => {
  const astride = gridAround({ latDeg: -17, lonDeg: 179.995 }, 2000, 100);
  const term = (lonDeg: number, value: number) => ({
    ...{ key: `area ${areaAt(-17, lonDeg).join(" ")}`, value, sd: 1, readings: 3 },
  });
  const terms = [term(179.99, 3), term(-179.995, -4), term(-179.5, 9), term(179.5, 8)];
  const over = learnedOver({ ...learned, terms }, astride, 5.6)!;
  expect(over.areas.map(([, , db]) => db)).toEqual([3, -4]);
});
