import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { powerSettingText, powerToSet, totalOfSetting } from "#core/radio";

const model = { chains: 2, powerSetting: "perChain", powerStepDb: 1, powerMinDbm: 0 } as const;

test("19 dBm planned on two chains is typed as 16 where a device is told each chain, as 19 where it is told the total", () => {
  expect(powerToSet(model, "HV", 19)).toEqual({ dbm: 16, of: "each chain" });
  expect(powerSettingText(powerToSet(model, "HV", 19))).toBe("16 dBm on each chain");
  const total = powerToSet({ ...model, powerSetting: "total" }, "HV", 19);
  expect(powerSettingText(total)).toBe("19 dBm, all chains together");
  expect(powerToSet({ ...model, chains: 4 }, "X45", 19)).toEqual({ dbm: 13, of: "each chain" });
});

test("on a single polarization one chain sends, and both powers are the same", () => {
  for (const polarization of ["H", "V"] as const)
    expect(powerToSet(model, polarization, 19)).toEqual({ dbm: 19, of: "one chain" });
  expect(powerSettingText({ dbm: 19.5, of: "one chain" })).toBe("19.5 dBm");
});

test("what is typed never sends more than is planned, and less by under one step", () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 4 }),
      fc.constantFrom(0.5, 1, 2),
      fc.double({ min: 5, max: 30, noNaN: true }),
      (chains, powerStepDb, totalDbm) => {
        const sent = totalOfSetting(chains, powerToSet({ ...model, chains, powerStepDb }, "HV", totalDbm));
        expect(sent).toBeLessThanOrEqual(totalDbm + 0.051);
        expect(sent).toBeGreaterThan(totalDbm - powerStepDb - 1e-9);
      },
    ),
  );
});
