import { readFileSync } from "node:fs";
import { expect, test } from "@jest/globals";
import * as propagation from "#core/propagation";

interface Entry {
  fn: keyof typeof propagation;
  args: never;
  expect: number | Record<string, number>;
  tol: number | string;
}
const entries: Entry[] = JSON.parse(readFileSync(new URL("../reference/propagation.json", import.meta.url), "utf8"));

test.each(entries.map((entry, index) => [index, entry.fn, entry] as const))(
  "reference value %i of %s is met",
  (_, fn, entry) => {
    const got = (propagation[fn] as (args: never) => number | Record<string, number>)(entry.args);
    const pairs =
      typeof entry.expect === "number"
        ? [[got as number, entry.expect] as const]
        : Object.entries(entry.expect).map(([key, value]) => [(got as Record<string, number>)[key]!, value] as const);
    for (const [value, wanted] of pairs) {
      const tolerance = typeof entry.tol === "string" ? (Math.abs(wanted) * parseFloat(entry.tol)) / 100 : entry.tol;
      expect(Math.abs(value - wanted)).toBeLessThanOrEqual(tolerance);
    }
  },
);
