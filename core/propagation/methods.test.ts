import { expect, test } from "@jest/globals";
import { climateAt, kFactor999 } from "#core/climate";
import { tiltDownDeg } from "#core/aiming";
import {
  availabilityOf,
  marginForAvailabilityDb,
  multipathAnnualShare,
  treesLossDb,
  type FadingPath,
} from "#core/link";
import {
  buildingEntryLossDb,
  bullingtonLossDb,
  deltaBullingtonLossDb,
  earthBulgeM,
  freeSpaceLossDb,
  fresnelRadiusM,
  gasAttenuation,
  knifeEdgeLossDb,
  multipathOutagePercent,
  rainAttenuationDb,
  sphericalEarthLossDb,
  thermalNoiseDbm,
} from "#core/propagation";

// The worked examples of docs/methods.md, figure by figure.

test("clear paths: free space, zone, bulge, tilt, noise", () => {
  expect(freeSpaceLossDb({ distanceKm: 12.4, frequencyGHz: 5.6 })).toBeCloseTo(129.3, 1);
  expect(fresnelRadiusM({ fromKm: 6.2, toKm: 6.2, frequencyGHz: 5.6 })).toBeCloseTo(12.9, 1);
  expect(earthBulgeM({ fromKm: 6.2, toKm: 6.2, kFactor: 4 / 3 })).toBeCloseTo(2.26, 2);
  expect(earthBulgeM({ fromKm: 6.2, toKm: 6.2, kFactor: 2 / 3 })).toBeCloseTo(4.53, 2);
  expect(tiltDownDeg(150, 100, 5000, 4 / 3)).toBeCloseTo(0.59, 2);
  expect(thermalNoiseDbm({ bandwidthMHz: 20, noiseFigureDb: 6 })).toBeCloseTo(-95, 1);
});

test("a ridge half-way: one edge, and the smooth earth adds nothing", () => {
  expect(knifeEdgeLossDb(0)).toBeCloseTo(6, 1);
  expect(knifeEdgeLossDb(1)).toBeCloseTo(13.9, 1);
  const ridge = {
    distancesKm: [0, 5, 10],
    heightsM: [0, 100, 0],
    txAmslM: 90,
    rxAmslM: 90,
    frequencyGHz: 5.8,
    kFactor: 4 / 3,
  };
  expect(bullingtonLossDb(ridge)).toBeCloseTo(25.9, 1);
  expect(deltaBullingtonLossDb({ ...ridge, polarization: "V" })).toBeCloseTo(25.9, 1);
});

test("air, rain, trees and walls", () => {
  const air = (frequencyGHz: number) => {
    const { oxygenDbPerKm, vapourDbPerKm } = gasAttenuation({ frequencyGHz });
    return oxygenDbPerKm + vapourDbPerKm;
  };
  expect(air(60)).toBeCloseTo(15.18, 2);
  expect(air(73.5)).toBeCloseTo(0.38, 2);
  expect(air(5.8)).toBeCloseTo(0.009, 3);
  const rain = { frequencyGHz: 73.5, polarization: "H" as const, distanceKm: 1.3, rainRate001MmPerH: 32 };
  expect(rainAttenuationDb(rain)).toBeCloseTo(21.1, 1);
  expect(rainAttenuationDb({ ...rain, percentOfTime: 0.05 })).toBeCloseTo(11.1, 1);
  expect(treesLossDb(5.8, 30, 1, "inLeaf")).toBeCloseTo(16.2, 1);
  expect(treesLossDb(5.8, 30, 1, "bare")).toBeCloseTo(10.5, 1);
  expect(treesLossDb(5.8, 30, 0.5, "bare")).toBeCloseTo(13.4, 1);
  expect(treesLossDb(0.915, 30, 1, "inLeaf")).toBeCloseTo(9.6, 1);
  expect(buildingEntryLossDb({ frequencyGHz: 5.8, construction: "traditional" })).toBeCloseTo(16.6, 1);
  expect(buildingEntryLossDb({ frequencyGHz: 5.8, construction: "thermally_efficient" })).toBeCloseTo(32, 1);
});

test("fading, and how much of the year a margin holds", () => {
  const long = { distanceKm: 40, frequencyGHz: 5.8, txAmslM: 150, rxAmslM: 200, fadeMarginDb: 20 };
  expect(multipathOutagePercent(long)).toBeCloseTo(0.29, 2);
  const town: FadingPath = {
    distanceKm: 1.3,
    frequencyGHz: 73.5,
    polarization: "H",
    latDeg: 38,
    txAmslM: 30,
    rxAmslM: 40,
    rainRate001MmPerH: 32,
    dN1: -330,
  };
  const held = availabilityOf(town, 20);
  expect(held.availabilityPercent).toBeCloseTo(99.988, 3);
  expect(held.worstMonthAvailabilityPercent).toBeCloseTo(99.94, 2);
  expect(marginForAvailabilityDb(town, 99.95)!.marginDb).toBeCloseTo(11.1, 1);
  expect(marginForAvailabilityDb(town, 99.995)!.marginDb).toBeCloseTo(26.4, 1);
  const level: FadingPath = { ...town, distanceKm: 10, latDeg: 45, txAmslM: 30, rxAmslM: 30 };
  expect(multipathAnnualShare(level)).toBeCloseTo(1 / 6, 1);
});

test("climate and the k of the worst weather", () => {
  expect(climateAt(-37.6)).toMatchObject({ rainRate001MmPerH: 38, dN1NPerKm: -330 });
  expect(kFactor999(16)).toBeCloseTo(0.5, 2);
  expect(kFactor999(40)).toBeCloseTo(0.72, 2);
});

test("an antenna on the ground has the loss towards which a low one tends, whichever end it is", () => {
  const loss = (txHeightM: number, rxHeightM: number, distanceKm: number) =>
    sphericalEarthLossDb({ distanceKm, txHeightM, rxHeightM, frequencyGHz: 5.8, kFactor: 4 / 3, polarization: "V" });
  for (const distanceKm of [0.2, 1, 5, 12, 30])
    for (const heightM of [0, 2, 10, 40]) {
      const onGround = loss(0, heightM, distanceKm);
      expect(Number.isFinite(onGround)).toBe(true);
      expect(onGround).toBeCloseTo(loss(heightM, 0, distanceKm), 3);
      expect(Math.abs(onGround - loss(1e-6, heightM, distanceKm))).toBeLessThan(0.1);
      expect(onGround).toBeGreaterThanOrEqual(loss(1, heightM, distanceKm) - 1e-9);
    }
  // Over flat ground as a path has it: the whole answer stays finite too.
  const distancesKm = Array.from({ length: 101 }, (_, i) => i / 10);
  const whole = deltaBullingtonLossDb({
    distancesKm,
    heightsM: distancesKm.map(() => 10),
    txAmslM: 10,
    rxAmslM: 14,
    frequencyGHz: 5.8,
    kFactor: 4 / 3,
    polarization: "V",
  });
  expect(whole).toBeGreaterThan(30);
  expect(whole).toBeLessThan(90);
});
