import { expect, test } from "@jest/globals";
import { peakGainDbi } from "#core/antenna";
import { exposureLimitWPerM2, mastLoad, momentOverNm, windAreaOf } from "#core/mast";
import { endOf, setPatch, withPatches } from "#core/plan";
import { valley } from "#core/testing";

const { world } = valley();
const onWest = [...world.radios.values()].filter(({ siteId }) => siteId === "west");

test("an antenna's area is that of its aperture: a dish of 30 dBi at 5.5 GHz is some 0.7 m across, no housing is thinner than a hand", () => {
  const dish = windAreaOf(world.antennaModels.get("brisote-plato-5-30")!);
  expect(2 * Math.sqrt(dish.areaM2 / Math.PI)).toBeGreaterThan(0.6);
  expect(2 * Math.sqrt(dish.areaM2 / Math.PI)).toBeLessThan(0.8);
  const sector = windAreaOf(world.antennaModels.get("brisote-arco-5-17-90")!);
  // 0.12 m wide, and 60 wavelengths a degree of its 7° high.
  expect(sector.areaM2).toBeCloseTo((0.12 * 60 * (299.792458 / 5500)) / 7, 2);
});

test("forces add up, moments by their heights; what passes the owner's figure is told, and nothing where he stated none", () => {
  const load = mastLoad(world, onWest);
  expect(load.antennas).toHaveLength(2);
  expect(load.forceN).toBeCloseTo(
    load.antennas.reduce((sum, { forceN }) => sum + forceN, 0),
    9,
  );
  for (const { radio, forceN, momentNm } of load.antennas) expect(momentNm).toBeCloseTo(forceN * radio.heightM, 9);
  const site = world.sites.get("west")!;
  expect(momentOverNm(site, load)).toBe(0);
  expect(momentOverNm({ mastMomentNm: load.momentNm - 5 }, load)).toBeCloseTo(5, 9);
  expect(momentOverNm({ mastMomentNm: load.momentNm + 5 }, load)).toBe(0);
  const still = withPatches(world, [setPatch("plans", "valley", { gustMPerS: 20 })]);
  expect(mastLoad(still, onWest).forceN).toBeCloseTo(load.forceN / 4, 6);
});

test("one keeps away until the density is the limit's, workers less far", () => {
  const { radio, antenna } = endOf(world, "sector");
  const [{ publicM, workerM }] = mastLoad(world, [radio]).antennas as [ReturnType<typeof mastLoad>["antennas"][number]];
  const watts = 10 ** ((radio.txPowerDbm + peakGainDbi(antenna, radio.frequencyMHz)) / 10) / 1000;
  expect(watts / (4 * Math.PI * publicM ** 2)).toBeCloseTo(10, 6);
  expect(watts / (4 * Math.PI * workerM ** 2)).toBeCloseTo(50, 6);
  expect([exposureLimitWPerM2(915, "public"), exposureLimitWPerM2(915, "worker")]).toEqual([915 / 200, 915 / 40]);
  expect([exposureLimitWPerM2(300, "public"), exposureLimitWPerM2(5500, "public")]).toEqual([2, 10]);
});
