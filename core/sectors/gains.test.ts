import { expect, test } from "@jest/globals";
import { evaluate } from "#core/evaluate";
import { setPatch, withPatches } from "#core/plan";
import { gasAttenuation } from "#core/propagation";
import { peakGainDbi } from "#core/antenna";
import { gainTable } from "#core/sectors";
import { sectorHeardKm, sectorHearsKm } from "#core/coverage";
import { town, valley } from "#core/testing";

const made = valley(12, town);
const rows = gainTable(made.world, "sector-2", made.between);

const peopleAt = (antennaModelId: string, txPowerDbm: number, tiltDownDeg: number) => {
  const world = withPatches(made.world, [setPatch("radios", "sector-2", { antennaModelId, txPowerDbm, tiltDownDeg })]);
  const { summaries } = evaluate(world, made.between);
  return [...world.links.values()].reduce((sum, { id, aRadioId, bRadioId }) => {
    const subscriber = world.subscribers.get(world.radios.get(bRadioId)!.subscriberId ?? "");
    return sum + (aRadioId === "sector-2" && summaries.get(id)!.served ? subscriber!.people : 0);
  }, 0);
};

test("every antenna stands with the least power at which it serves as many people as at any", () => {
  expect(rows.length).toBeGreaterThan(3);
  expect(rows.map(({ gainDbi }) => gainDbi)).toEqual(rows.map(({ gainDbi }) => gainDbi).sort((x, y) => x - y));
  expect(rows.some(({ peopleServed }) => peopleServed > 0)).toBe(true);
  const leastDbm = made.world.radioModels.get("brisote-vela-5")!.powerMinDbm;
  for (const { antennaModelId, txPowerDbm, mostDbm, mechanicalDeg, peopleServed } of rows) {
    for (let dbm = mostDbm; dbm >= leastDbm; dbm -= 3) {
      const people = peopleAt(antennaModelId, dbm, mechanicalDeg);
      expect(people).toBeLessThanOrEqual(peopleServed);
      if (dbm < txPowerDbm) expect(people).toBeLessThan(peopleServed);
    }
    expect(peopleAt(antennaModelId, txPowerDbm, mechanicalDeg)).toBe(peopleServed);
  }
  // The nearest houses are overloaded by the greatest power of a strong antenna.
  expect(rows.some(({ txPowerDbm, mostDbm, peopleServed }) => peopleServed > 0 && txPowerDbm < mostDbm)).toBe(true);
});

test("the beam looks as far down as before, and what is heard follows gain alone, being heard gain and power", () => {
  const now = made.world.radios.get("sector-2")!;
  for (const row of rows) {
    const antenna = made.world.antennaModels.get(row.antennaModelId)!;
    const own = made.world.antennaModels.get(now.antennaModelId)!;
    expect(row.mechanicalDeg + antenna.electricalTiltDownDeg).toBeCloseTo(own.electricalTiltDownDeg, 9);
    const there = withPatches(made.world, [
      setPatch("radios", "sector-2", { antennaModelId: row.antennaModelId, txPowerDbm: row.txPowerDbm }),
    ]);
    const radio = there.radios.get("sector-2")!;
    expect(row.hearsKm).toBeCloseTo(sectorHearsKm(there, radio)!, 9);
    expect(row.heardKm).toBeCloseTo(sectorHeardKm(there, radio)!, 9);
  }
  const [weak, strong] = [rows[0]!, rows.at(-1)!];
  const apartDb =
    peakGainDbi(made.world.antennaModels.get(strong.antennaModelId)!, now.frequencyMHz) -
    peakGainDbi(made.world.antennaModels.get(weak.antennaModelId)!, now.frequencyMHz);
  // The farther one hears, the more the air takes of it.
  const { oxygenDbPerKm, vapourDbPerKm } = gasAttenuation({ frequencyGHz: now.frequencyMHz / 1000 });
  const airDb = (oxygenDbPerKm + vapourDbPerKm) * (strong.hearsKm - weak.hearsKm);
  expect(20 * Math.log10(strong.hearsKm / weak.hearsKm) + airDb).toBeCloseTo(apartDb, 6);
});

test("a sector without customers has no such table", () => {
  expect(gainTable(valley(0, (all) => void all.links.pop()).world, "sector", made.between)).toEqual([]);
});
