import { expect, test } from "@jest/globals";
import { median } from "#core/statistics";

test("the median is the middle value, or the mean of the middle two, whatever the order", () => {
  expect(median([])).toBeNull();
  expect(median([7])).toBe(7);
  expect(median([9, 1, 4])).toBe(4);
  expect(median([10, -2, 100, 4])).toBe(7);
});

test("the values keep their order", () => {
  const values = [3, 1, 2];
  median(values);
  expect(values).toEqual([3, 1, 2]);
});
