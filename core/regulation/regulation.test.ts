import { expect, test } from "@jest/globals";
import { eirpLimit, ruleSetById } from "#core/regulation";

const cfr = ruleSetById("cfr47");
const en = ruleSetById("en");
const cap = (
  ruleSet: typeof cfr,
  frequencyMHz: number,
  widthMHz: number,
  use: "ptp" | "ptmp",
  antennaGainDbi: number,
  elevationDeg = 0,
) => eirpLimit({ ruleSet, frequencyMHz, widthMHz, use, antennaGainDbi, elevationDeg });

test("the caps of the public texts come out as printed", () => {
  expect(cap(cfr, 5785, 20, "ptmp", 17).eirpCapDbm).toBe(36);
  expect(cap(cfr, 5785, 20, "ptp", 30).eirpCapDbm).toBe(60);
  expect(cap(cfr, 5600, 40, "ptp", 25).eirpCapDbm).toBe(30);
  expect(cap(cfr, 5200, 20, "ptp", 26).eirpCapDbm).toBe(53);
  expect(cap(cfr, 5200, 20, "ptmp", 16, 35).eirpCapDbm).toBe(21);
  expect(cap(cfr, 2440, 20, "ptp", 24).eirpCapDbm).toBe(48);
  expect(cap(cfr, 915, 10, "ptmp", 13).eirpCapDbm).toBe(36);
  expect(cap(cfr, 60480, 2000, "ptp", 38).eirpCapDbm).toBe(82 - 2 * 13);
  expect(cap(cfr, 73500, 500, "ptp", 44).eirpCapDbm).toBe(73);
  expect(cap(cfr, 73500, 500, "ptp", 42).eirpCapDbm).toBeNull();
  expect(cap(en, 5600, 20, "ptmp", 17).eirpCapDbm).toBe(30);
  expect(cap(en, 2440, 5, "ptmp", 14).eirpCapDbm).toBeCloseTo(10 + 10 * Math.log10(5), 6);
});

test("conducted caps follow the width, and a channel beyond every rule is called uncovered", () => {
  expect(cap(cfr, 5600, 10, "ptmp", 6).conductedCapDbm).toBeCloseTo(21, 6);
  expect(cap(cfr, 5600, 40, "ptmp", 6).conductedCapDbm).toBe(24);
  const gone = cap(cfr, 5400, 40, "ptmp", 6);
  expect(gone.covered).toBe(false);
  expect(gone.reason).toContain("no rule for 5380–5420 MHz");
});

test("a channel across two rules takes the lower cap", () => {
  expect(cap(cfr, 5725, 20, "ptp", 30).eirpCapDbm).toBe(30);
});

test("an unknown rule set is refused with the ones there are", () => {
  expect(() => ruleSetById("none")).toThrow("it must be one of cfr47, en, own");
});
