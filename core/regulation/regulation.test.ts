import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { eirpLimit, limitReason, ruleSchema, ruleSetById, ruleSetOf } from "#core/regulation";

const cfr = ruleSetById("cfr47");
const en = ruleSetById("en");
const cap = (
  ruleSet: typeof cfr,
  frequencyMHz: number,
  widthMHz: number,
  use: "ptp" | "ptmp",
  antennaGainDbi: number,
  skyLossDb = Infinity,
) => eirpLimit({ ruleSet, frequencyMHz, widthMHz, use, antennaGainDbi, lossAbove30Db: () => skyLossDb });

test("the caps of the public texts come out as printed", () => {
  expect(cap(cfr, 5785, 20, "ptmp", 17).eirpCapDbm).toBe(36);
  expect(cap(cfr, 5785, 20, "ptp", 30).eirpCapDbm).toBe(60);
  expect(cap(cfr, 5600, 40, "ptp", 25).eirpCapDbm).toBe(30);
  expect(cap(cfr, 5200, 20, "ptp", 26).eirpCapDbm).toBe(53);
  expect(cap(cfr, 5200, 20, "ptmp", 16, 0).eirpCapDbm).toBe(21);
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
  expect(limitReason(gone)).toContain("no rule for 5380–5420 MHz");
});

test("a channel across two rules takes the lower cap", () => {
  expect(cap(cfr, 5725, 20, "ptp", 30).eirpCapDbm).toBe(30);
});

test("an unknown rule set is refused with the ones there are", () => {
  expect(() => ruleSetById("none")).toThrow("it must be one of cfr47, en, own");
});

test("conducted caps of density and of the waiver for gain bite where they are lower", () => {
  // 8 dBm per 3 kHz over 5 MHz is 40.2 dBm: the 30 dBm of the text are lower.
  expect(cap(cfr, 2440, 5, "ptmp", 6).conductedCapDbm).toBe(30);
  // 17 dBm/MHz over 5 MHz is 24 dBm.
  expect(cap(cfr, 5200, 5, "ptmp", 6).conductedCapDbm).toBeCloseTo(17 + 10 * Math.log10(5), 6);
  // 24 dBi at 2.4 GHz, fixed: 18 dB over 6 cost 6 dB of power.
  expect(cap(cfr, 2440, 20, "ptp", 24).conductedCapDbm).toBeCloseTo(24, 6);
  expect(cap(cfr, 24150, 50, "ptp", 33).eirpCapDbm).toBe(33);
});

test("density falls with gain over 6 dBi too, so that narrow channels send less", () => {
  // 11 dBm/MHz over 10 and 5 MHz are 21 and 18 dBm; 17 dBi are 11 dB more than the 6 that are free.
  expect(cap(cfr, 5300, 10, "ptmp", 17).conductedCapDbm).toBeCloseTo(10, 1);
  expect(cap(cfr, 5300, 5, "ptmp", 17).conductedCapDbm).toBeCloseTo(7, 1);
  expect(cap(cfr, 5300, 10, "ptmp", 6).conductedCapDbm).toBeCloseTo(21, 6);
  expect(cap(cfr, 5300, 10, "ptmp", 4).conductedCapDbm).toBeCloseTo(21, 6);
});

test("an EIRP given by density alone grows with the channel", () => {
  const widths = [10, 20, 40].map((widthMHz) => cap(cfr, 3650, widthMHz, "ptmp", 17).eirpCapDbm);
  expect(widths).toEqual([expect.closeTo(47, 6), expect.closeTo(50.01, 2), expect.closeTo(53.02, 2)]);
});

test("widths and rasters are held to, and say which ones there are", () => {
  expect(limitReason(cap(cfr, 5785, 30, "ptmp", 17))).toContain("no channels of 30 MHz");
  expect(limitReason(cap(cfr, 5787, 20, "ptmp", 17))).toContain("5 MHz apart from 5725 MHz; 5787 MHz lies between two");
  expect(cap(cfr, 73500, 500, "ptp", 44).covered).toBe(true);
  expect(cap(cfr, 73510, 500, "ptp", 44).covered).toBe(false);
});

test("licences and flags are told, of both rules where a channel lies across two", () => {
  expect(cap(cfr, 73500, 500, "ptp", 44).licence).toBe("byLink");
  expect(cap(cfr, 6175, 20, "ptmp", 17).licence).toBe("coordinated");
  expect(cap(cfr, 5600, 20, "ptmp", 17)).toMatchObject({ licence: "exempt", flags: ["DFS", "TPC"] });
  expect(cap(en, 5250, 20, "ptmp", 10).flags).toEqual(["indoorOnly", "DFS", "TPC"]);
  expect(cap(cfr, 5725, 20, "ptp", 20).flags).toEqual(["DFS", "TPC"]);
});

test("a plan's own rules are asked like any other set", () => {
  const own = ruleSetOf({
    ruleSetId: "own",
    ownRules: [{ ...en.rules[0]!, bandMHz: [700, 800], eirp: { kind: "fixed", dbm: 40 }, eirpDensity: null }],
  });
  expect(cap(own, 750, 20, "ptmp", 10).eirpCapDbm).toBe(40);
  expect(limitReason(cap(own, 2440, 20, "ptmp", 10))).toContain("Own rules has no rule for 2430–2450 MHz");
  expect(ruleSetOf({ ruleSetId: "en", ownRules: [] }).id).toBe("en");
});

test("rules with edges the wrong way round or unknown flags do not pass", () => {
  const [rule] = en.rules;
  expect(ruleSchema.safeParse({ ...rule, bandMHz: [2500, 2400] }).success).toBe(false);
  expect(ruleSchema.safeParse({ ...rule, flags: ["free"] }).success).toBe(false);
  expect(ruleSchema.safeParse(rule).success).toBe(true);
});

test("caps never fall with less gain where the text trades power for gain, nor rise with a narrower channel", () => {
  const frequency = fc.constantFrom(2440, 5200, 5600, 5785, 6175);
  const gain = fc.double({ min: 0, max: 40, noNaN: true });
  fc.assert(
    fc.property(frequency, gain, gain, (frequencyMHz, x, y) => {
      const [less, more] = x < y ? [x, y] : [y, x];
      for (const set of [cfr, en]) {
        const low = cap(set, frequencyMHz, 20, "ptp", less);
        const high = cap(set, frequencyMHz, 20, "ptp", more);
        if (!low.covered) continue;
        expect(high.eirpCapDbm!).toBeGreaterThanOrEqual(low.eirpCapDbm! - 1e-9);
        const narrow = cap(set, frequencyMHz, 10, "ptp", less);
        expect(narrow.eirpCapDbm!).toBeLessThanOrEqual(low.eirpCapDbm! + 1e-9);
      }
    }),
  );
});
