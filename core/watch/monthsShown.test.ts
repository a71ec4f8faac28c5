import { expect, test } from "@jest/globals";
import { monthsShown } from "#core/watch";

test("a chart's months count its hours by state, and take the middle of what both ends stood off the promise", () => {
  const chart = {
    fromMs: Date.UTC(2026, 0, 31),
    stepMs: 86_400_000,
    levelA: [-61, -64, null],
    levelB: [-63, -64, -60],
    promisedA: [-60, -60, -60],
    promisedB: [-60, -60, -60],
    hours: [
      { day: "2026-01-31", states: "012333" },
      { day: "2026-02-01", states: "333333" },
      { day: "2026-02-02", states: "000000" },
    ],
  };
  const january = (2026 - 1970) * 12;
  expect(monthsShown(chart)).toEqual([
    { month: january, hoursAsked: 5, hoursUp: 4, hoursGood: 3, deviationDb: -2 },
    { month: january + 1, hoursAsked: 6, hoursUp: 6, hoursGood: 6, deviationDb: -4 },
  ]);
});
