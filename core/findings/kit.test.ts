import { expect, test } from "@jest/globals";
import { peakGainDbi } from "#core/antenna";
import { antennasFor, powerSparingDbm, powerWithinCapDbm, withPowerInCap } from "#core/kit";
import { proposeAccess } from "#core/propose";
import { withPatches, endOf, type Radio } from "#core/plan";
import { valley } from "#core/testing";
import { CHECKS } from "./checks";
import { byPeopleHurt, type Finding } from "./finding";
import { overCap } from "#core/regulation";

const made = valley();
const sector = endOf(made.world, "sector");

test("a receiver is spared what is too much and 3 dB more, in the radio's steps, never under its least power", () => {
  const end = (powerStepDb: number) => ({
    radio: { ...sector.radio, txPowerDbm: 20 },
    model: { ...sector.model, powerStepDb, powerMinDbm: -5 },
  });
  expect(powerSparingDbm(end(1), 0)).toBe(20);
  expect(powerSparingDbm(end(1), -4)).toBe(20);
  expect(powerSparingDbm(end(1), 0.2)).toBe(16);
  expect(powerSparingDbm(end(1), 4)).toBe(13);
  expect(powerSparingDbm(end(3), 4)).toBe(11);
  expect(powerSparingDbm(end(1), 40)).toBe(-5);
});

test("power fills the cap in whole steps and no more, counted before the cable or behind it as the rule says", () => {
  const { model, antenna, radio } = sector;
  const within = (rest: Partial<Radio> = {}, use: "ptp" | "ptmp" = "ptmp", steps = 1) =>
    powerWithinCapDbm(
      made.world,
      { model: { ...model, powerStepDb: steps }, antenna, radio: { ...radio, ...rest } },
      use,
    );
  // 30 dBm conducted less what the antenna has over 6 dBi: 36 dBm EIRP, and what a cable takes is not given back.
  const gain = peakGainDbi(antenna, 5200);
  const most = within({ frequencyMHz: 5200 });
  expect(most).toBe(Math.floor(36 - gain));
  expect(within({ frequencyMHz: 5200, cableLossDb: 2 })).toBe(most);
  // Where the EIRP alone is capped, at 23 dBm, it is.
  const capped = { ...made.world, plan: { ...made.world.plan, ruleSetId: "en" as const } };
  const en = (cableLossDb: number) =>
    powerWithinCapDbm(capped, { model, antenna, radio: { ...radio, frequencyMHz: 5200, cableLossDb } }, "ptmp");
  expect([en(0), en(2)]).toEqual([Math.floor(23 - gain), Math.floor(25 - gain)]);
  expect(within({ frequencyMHz: 5200 }, "ptmp", 4)).toBeLessThanOrEqual(most);
  expect((within({ frequencyMHz: 5200 }, "ptmp", 4) - model.powerMinDbm) % 4).toBe(0);
  const loud = { ...sector, radio: { ...radio, txPowerDbm: most + 5 } };
  expect(withPowerInCap(made.world, loud, "ptmp").txPowerDbm).toBe(
    powerWithinCapDbm(made.world, { model, antenna, radio }, "ptmp"),
  );
  const quiet = { ...sector, radio: { ...radio, txPowerDbm: model.powerMinDbm } };
  expect(withPowerInCap(made.world, quiet, "ptmp")).toBe(quiet.radio);
});

test("a site without a sector gets one that can be turned, on the customer's bearing; an omni only where nothing else fits", () => {
  const east = made.world.sites.get("east")!;
  const farm = made.world.subscribers.get("farm")!;
  let count = 0;
  const newSector = () =>
    [
      ...withPatches(
        made.world,
        proposeAccess(made.world, east, farm, () => `new-${count++}`)!,
      ).radios.values(),
    ].find(({ role, siteId }) => role === "sector" && siteId === "east")!;
  const cheapest = antennasFor(made.world, "sector", newSector().frequencyMHz)[0]!;
  expect(cheapest.shape).toBe("omni");
  const chosen = newSector();
  expect(made.world.antennaModels.get(chosen.antennaModelId)!.shape).toBe("sector");
  // From east the farm lies to the west, a little south.
  expect(chosen.azimuthDeg).toBeGreaterThan(260);
  expect(chosen.azimuthDeg).toBeLessThan(270);
  for (const [id, { shape }] of made.world.antennaModels)
    if (shape === "sector" || shape === "horn") made.world.antennaModels.delete(id);
  expect(newSector().antennaModelId).toBe(cheapest.id);
});

test("the cap that is passed by most is named with both figures, and rounding is no breach", () => {
  const own = { eirpDbm: 40, txPowerDbm: 24 };
  const over = (eirpCapDbm: number | null, conductedCapDbm: number | null) =>
    overCap(own, { eirpCapDbm, conductedCapDbm });
  expect(over(36, 30)).toEqual({ byDb: 4, words: "40.0 dBm EIRP against 36.0 dBm" });
  expect(over(36, 19)).toEqual({ byDb: 5, words: "24.0 dBm at the radio's port against 19.0 dBm" });
  expect(over(36, 20)!.words).toContain("EIRP");
  expect(over(null, 23.9)).toEqual({ byDb: expect.closeTo(0.1, 9), words: expect.stringContaining("port") });
  expect([over(null, null), over(40, 24), over(39.96, 24), over(45, null)]).toEqual([null, null, null, null]);
});

test("findings stand by people hurt, then by kind, then by id", () => {
  const finding = (id: string, people: number, check: string) => ({ id, people, check }) as Finding;
  const [worst, milder] = [CHECKS[0]!.id, CHECKS.at(-1)!.id];
  const sorted = [
    finding("b", 3, milder),
    finding("c", 3, worst),
    finding("a", 3, milder),
    finding("d", 9, milder),
  ].sort(byPeopleHurt);
  expect(sorted.map(({ id }) => id)).toEqual(["d", "c", "a", "b"]);
});
