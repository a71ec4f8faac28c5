import { expect, test } from "@jest/globals";
import { withPlainTexts } from "./plainTexts";

test("no markup is left in any text that a chart gets, wherever it stands, and what its functions give", () => {
  const given = {
    series: [{ name: '<meta http-equiv="refresh">', data: [{ x: 1, y: null }, 2] }],
    options: {
      xaxis: { categories: ["a < b", "A & B", "&lt;b&gt;"], labels: { formatter: (value: number) => `<${value}>` } },
    },
    height: 200,
    isShown: true,
  };
  const plain = withPlainTexts(given);
  expect(plain.series[0]!.name).toBe("‹meta http-equiv=”refresh”›");
  expect(plain.options.xaxis.categories).toEqual(["a ‹ b", "A & B", "＆lt;b＆gt;"]);
  expect(plain.options.xaxis.labels.formatter(7)).toBe("‹7›");
  expect(plain).toMatchObject({ series: [{ data: [{ x: 1, y: null }, 2] }], height: 200, isShown: true });
  const kept = new Date(0);
  expect(withPlainTexts({ kept }).kept).toBe(kept);
});
