import { readFileSync } from "node:fs";
import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { airtimeShare } from "#core/capacity";
import { exposureDistanceM, mastIsolationDb, windLoad } from "#core/mast";
import { poeDrop, solarBudget } from "#core/power";
import { channelCouplingDb } from "#core/spectrum";

const functions = {
  ...{ airtimeShare, channelCouplingDb, exposureDistanceM, mastIsolationDb, poeDrop, solarBudget, windLoad },
};
type Found = number | Record<string, number> | null;
interface Entry {
  fn: keyof typeof functions;
  args: never;
  expect: Found;
  tol: number | string;
}
const entries: Entry[] = JSON.parse(readFileSync(new URL("./network.json", import.meta.url), "utf8"));

test.each(entries.map((entry, index) => [index, entry.fn, entry] as const))(
  "reference value %i of %s is met",
  (_, fn, entry) => {
    const found = functions[fn](entry.args) as Found;
    const near = (value: number, wanted: number) => {
      const { tol } = entry;
      const tolerance = typeof tol === "string" ? (Math.abs(wanted) * parseFloat(tol)) / 100 : tol;
      expect(Math.abs(value - wanted)).toBeLessThanOrEqual(tolerance);
    };
    if (entry.expect === null || found === null) return expect(found).toBe(entry.expect);
    if (typeof entry.expect === "number") return near(found as number, entry.expect);
    for (const [name, wanted] of Object.entries(entry.expect)) near((found as Record<string, number>)[name]!, wanted);
  },
);

test("a transmitter's shares over all channels add up to its power", () => {
  for (const widthMHz of [10, 20, 80]) {
    let sum = 0;
    for (let offsetMHz = -400; offsetMHz <= 400; offsetMHz += 5)
      sum += 10 ** (channelCouplingDb({ offsetMHz, txWidthMHz: widthMHz, rxWidthMHz: 5, rejectionDb: 300 }) / 10);
    expect(Math.abs(10 * Math.log10(sum))).toBeLessThan(0.1);
  }
});

test("a channel farther off never disturbs more, and offsets count alike on both sides", () => {
  const width = fc.constantFrom(5, 10, 20, 40, 80);
  fc.assert(
    fc.property(width, width, fc.integer({ min: 0, max: 300 }), (txWidthMHz, rxWidthMHz, offsetMHz) => {
      const at = (offset: number) => channelCouplingDb({ offsetMHz: offset, txWidthMHz, rxWidthMHz, rejectionDb: 30 });
      expect(at(offsetMHz + 5)).toBeLessThanOrEqual(at(offsetMHz) + 1e-9);
      expect(at(-offsetMHz)).toBeCloseTo(at(offsetMHz), 9);
    }),
  );
});

test("two antennas in one place have no distance to tell", () => {
  const here = { verticalM: 0, horizontalM: 0, frequencyGHz: 5.8, aGainDbi: 0, bGainDbi: 0 };
  expect(() => mastIsolationDb(here)).toThrow("verticalM is 0 and horizontalM 0");
  expect(mastIsolationDb({ ...here, verticalM: 2 })).toBeCloseTo(28 + 40 * Math.log10(2 / 0.051688), 2);
  expect(
    airtimeShare({
      customers: [
        { demandMbps: 5, rateMbps: 10 },
        { demandMbps: 3, rateMbps: 12 },
      ],
    }),
  ).toBe(0.75);
});
