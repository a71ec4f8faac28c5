import { expect, test } from "@jest/globals";
import { beamwidthDeg, patternLossDb, peakGainDbi } from "#core/antenna";
import {
  ballastKg,
  frontsOf,
  exposureLimitWPerM2,
  keepAwayM,
  mastLoad,
  radiosOnMast,
  momentOverNm,
  strutsFor,
  windAreaOf,
} from "#core/mast";
import { endOf, putPatch, setPatch, withPatches } from "#core/plan";
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
  // An equal antenna that looks the same way doubles the density: √2 as far. Back to back it adds what its back lets out.
  const second = (azimuthDeg: number) => {
    const rows = { ...radio, id: "twin", azimuthDeg };
    const twins = withPatches(world, [putPatch("radios", rows)]);
    const mast = radiosOnMast(twins, radio.siteId!).filter(({ end }) => [radio.id, "twin"].includes(end.radio.id));
    return keepAwayM(
      mast.find(({ end }) => end.radio.id === radio.id)!,
      mast,
    ).publicM;
  };
  expect(second(radio.azimuthDeg!)).toBeCloseTo(publicM * Math.SQRT2, 9);
  expect(second(radio.azimuthDeg! + 180)).toBeCloseTo(
    publicM * Math.sqrt(1 + 10 ** (-patternLossDb(antenna, radio.polarization, 180, 0) / 10)),
    9,
  );
  expect([exposureLimitWPerM2(915, "public"), exposureLimitWPerM2(915, "worker")]).toEqual([915 / 200, 915 / 40]);
  expect([exposureLimitWPerM2(300, "public"), exposureLimitWPerM2(5500, "public")]).toEqual([2, 10]);
});

test("ice makes an antenna larger all round, heavier, and a grid a wall", () => {
  const sector = world.antennaModels.get("brisote-arco-5-17-90")!;
  const [bare, iced] = [windAreaOf(sector), windAreaOf(sector, 20)];
  const heightM = bare.areaM2 / 0.12;
  expect(iced.areaM2).toBeCloseTo((0.12 + 0.04) * (heightM + 0.04), 9);
  expect(iced.widthM).toBe(bare.widthM);
  expect([bare.iceKg, iced.iceKg]).toEqual([0, expect.closeTo(2 * iced.areaM2 * 0.02 * 900, 9)]);
  const grid = world.antennaModels.get("brisote-reja-5-27")!;
  expect([windAreaOf(grid).dragCoefficient, windAreaOf(grid, 1).dragCoefficient]).toEqual([0.7, 1.4]);
  const icy = withPatches(world, [setPatch("plans", "valley", { iceMm: 20 })]);
  expect(mastLoad(icy, onWest).forceN).toBeGreaterThan(mastLoad(world, onWest).forceN);
  expect(mastLoad(icy, onWest).iceKg).toBeGreaterThan(0);
  expect(mastLoad(world, onWest).iceKg).toBe(0);
});

test("large dishes are held by side struts, sectors by none", () => {
  expect([0.6, 0.9, 1.5, 1.8].map((widthM) => strutsFor("dish", widthM))).toEqual([0, 1, 1, 2]);
  expect([strutsFor("grid", 1), strutsFor("sector", 2)]).toEqual([1, 0]);
});

test("ballast holds a mount against tipping over half its foot and against sliding, whichever asks for more", () => {
  const load = mastLoad(world, onWest);
  const site = { ballastBaseM: 2, ballastFootM: 0 };
  expect(ballastKg({ ...site, ballastBaseM: 0 }, load)).toBe(0);
  // From the ground the moment is that of the mast: over 1 m, with half as much again.
  expect(ballastKg(site, load)).toBeCloseTo((1.5 * load.momentNm) / 9.81 - load.weightKg, 6);
  const top = Math.max(...load.antennas.map(({ radio }) => radio.heightM));
  // A foot as high as the antennas has no arm left: then it only slides, on friction of 0.4.
  expect(ballastKg({ ...site, ballastFootM: top }, load)).toBeCloseTo(
    (1.5 * load.forceN) / 0.4 / 9.81 - load.weightKg,
    6,
  );
});

test("every antenna of a mast has its front: where it looks, as wide as its beam is strong, and how far one keeps away", () => {
  const fronts = frontsOf(world);
  expect(fronts).toHaveLength([...world.radios.values()].filter(({ siteId }) => siteId !== null).length);
  const { radio, place, antenna } = endOf(world, "sector");
  const own = fronts.find(({ headingDeg }) => headingDeg === radio.azimuthDeg)!;
  expect(own).toMatchObject({
    place,
    publicM: mastLoad(world, onWest).antennas.find((one) => one.radio.id === radio.id)!.publicM,
  });
  expect(own.widthDeg).toBeGreaterThan(beamwidthDeg(antenna.azimuthCuts.V, 6));
});
