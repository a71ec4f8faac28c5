import { expect, test } from "@jest/globals";
import { withPatches, setPatch } from "#core/plan";
import { monthEurOf, stagesOf, stageWords } from "#core/schools";
import { town, valley } from "#core/testing";

const made = valley(0, (rows) => {
  town(rows);
  Object.assign(rows.plan, {
    tiers: [{ name: "Plus", monthEur: 40 }],
    ...{ usualMonthEur: 15, sectorWorkEur: 300, customerWorkEur: 50 },
  });
  rows.subscribers.find(({ id }) => id === "house-0")!.tier = "Plus";
  rows.subscribers.find(({ id }) => id === "house-1")!.tier = "Gone";
  rows.subscribers.find(({ id }) => id === "house-2")!.status = "declined";
  const sector = rows.radios.find(({ id }) => id === "sector-2")!;
  rows.radios.push({ ...sector, id: "idle", name: "idle", carrierId: "idle" });
});
const { world } = made;
const site = world.sites.get("north-west")!;
const price = (radioModelId: string, antennaModelId: string) =>
  world.radioModels.get(radioModelId)!.priceEur + world.antennaModels.get(antennaModelId)!.priceEur;
const sectorEur = price("brisote-vela-5", "brisote-arco-5-17-90") + 300;
const customerEur = price("brisote-vela-5c", "brisote-losa-5-23") + 50;

test("a sector's stage counts who is there, what they pay by their tiers, and what all of it costs", () => {
  expect(monthEurOf(world, { tier: "Plus" })).toBe(40);
  expect(monthEurOf(world, { tier: "" })).toBe(15);
  const [first, second] = stagesOf(world, site, 24);
  expect(first).toMatchObject({ radioId: "sector-2", customers: 2, monthEur: 55, people: 6, byStatus: { asked: 2 } });
  expect(first!.sectorEur).toBeCloseTo(sectorEur, 9);
  expect(first!.customerEur).toBeCloseTo(customerEur, 9);
  expect(first!.monthsNow).toBeCloseTo((sectorEur + 2 * customerEur) / 55, 9);
  expect(first!.paysAt).toBe(Math.ceil(sectorEur / (27.5 * 24 - customerEur)));
  // With nobody there yet a customer is taken to pay the usual month.
  expect(second).toMatchObject({ radioId: "idle", customers: 0, monthsNow: null });
  expect(second!.paysAt).toBe(Math.ceil(sectorEur / (15 * 24 - 50)));
});

test("at the number told a sector is paid within the time, with one fewer it is not", () => {
  for (const months of [12, 24, 60])
    for (const { paysAt, customerEur: each, sectorEur: whole, radioId } of stagesOf(world, site, months)) {
      const monthEur = radioId === "idle" ? 15 : 27.5;
      const left = (count: number) => count * (monthEur * months - each) - whole;
      if (paysAt === null) expect(monthEur * months - each).toBeLessThanOrEqual(0);
      else {
        expect(left(paysAt)).toBeGreaterThanOrEqual(0);
        if (paysAt > 1) expect(left(paysAt - 1)).toBeLessThan(0);
      }
    }
});

test("what comes now and what waits is said, or that nothing is priced", () => {
  const stages = stagesOf(world, site, 24);
  const waits = stages[1]!.paysAt!;
  const words = stageWords(world, site, stages, 24);
  expect(words).toContain(`idle from ${waits} more customers on`);
  expect(words).toContain("leave a mount and a channel for each");
  expect(stageWords(world, site, stagesOf(world, site, 240), 240)).toMatch(
    /^Now: sector-2, paid for within 240 months/,
  );
  const bare = withPatches(world, [setPatch("plans", "valley", { tiers: [], usualMonthEur: 0 })]);
  expect(stageWords(bare, site, stagesOf(bare, site, 24), 24)).toMatch(/^Nothing says yet what customers pay/);
  expect(stagesOf(world, world.sites.get("east")!, 24)).toEqual([]);
});
