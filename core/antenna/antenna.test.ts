import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { libraryFor } from "#core/catalogue";
import {
  beamwidthDeg,
  cutLossDb,
  directivityDbi,
  firstSideLobe,
  gainBeyondPatternDb,
  patternLossDb,
  peakGainDbi,
  type AntennaModel,
  type Cut,
} from "#core/antenna";

const antennas = libraryFor("p").flatMap((item) => (item.kind === "antenna" ? [item.body] : []));
const byId = (id: string) => antennas.find((antenna) => antenna.id === id) as AntennaModel;

test("a 90° sector falls by 3 dB at ±45° and still hears most of the horizon 12 dB down", () => {
  const sector = byId("brisote-arco-5-17-90");
  expect(beamwidthDeg(sector.azimuthCuts.V, 3)).toBeCloseTo(90, 0);
  expect(beamwidthDeg(sector.azimuthCuts.V, 12)).toBeGreaterThan(170);
});

test("a dish's first side lobe stands where its sheet says", () => {
  expect(firstSideLobe(byId("brisote-plato-5-30").azimuthCuts.V)).toEqual({ offsetDeg: 7.59, belowDb: 12 });
  expect(firstSideLobe(byId("brisote-arco-5-17-90").azimuthCuts.V)).toBeNull();
  // An omni's ripple is no lobe.
  expect(firstSideLobe(byId("brisote-ronda-5-13").azimuthCuts.V)).toBeNull();
});

test("no direction is stronger than the peak, and none weaker than front-to-back", () => {
  const angle = fc.double({ min: -180, max: 180, noNaN: true });
  fc.assert(
    fc.property(fc.constantFrom(...antennas), angle, angle, (antenna, azimuth, elevation) => {
      const loss = patternLossDb(antenna, "HV", azimuth, elevation);
      expect(loss).toBeGreaterThanOrEqual(0);
      expect(loss).toBeLessThanOrEqual(antenna.frontToBackDb);
      expect(cutLossDb(antenna.azimuthCuts.H, azimuth)).toBeCloseTo(cutLossDb(antenna.azimuthCuts.H, azimuth + 360), 6);
    }),
  );
});

test("gain follows the sheet across the band and is held beyond it", () => {
  const dish = byId("brisote-plato-5-34");
  expect(peakGainDbi(dish, 5500)).toBeCloseTo(34, 6);
  expect(peakGainDbi(dish, 5325)).toBeCloseTo(33.6, 6);
  expect(peakGainDbi(dish, 9000)).toBeCloseTo(33.6, 6);
});

test("directivity is the sphere over what the pattern fills of it", () => {
  const flat: Cut = { anglesDeg: [-180, 180], lossDb: [0, 0] };
  // 0 dB within ±half, 60 dB outside.
  const sharp = (half: number): Cut => ({
    anglesDeg: [-180, -half - 0.001, -half, half, half + 0.001, 180],
    lossDb: [60, 60, 0, 0, 60, 60],
  });
  const shaped = (azimuth: Cut, elevation: Cut): AntennaModel => ({
    ...byId("brisote-plato-5-30"),
    gainAcrossBand: [{ frequencyMHz: 5500, hDbi: 10, vDbi: 12 }],
    azimuthCuts: { H: azimuth, V: azimuth },
    elevationCuts: { H: elevation, V: elevation },
    frontToBackDb: 60,
  });
  expect(directivityDbi(shaped(flat, flat), "V")).toBeCloseTo(0, 3);
  // Half the turn; a belt of ±30°, half of the sphere by Archimedes; both: a quarter.
  expect(directivityDbi(shaped(sharp(90), flat), "V")).toBeCloseTo(10 * Math.log10(2), 2);
  expect(directivityDbi(shaped(flat, sharp(30)), "H")).toBeCloseTo(10 * Math.log10(2), 2);
  expect(directivityDbi(shaped(sharp(90), sharp(30)), "H")).toBeCloseTo(10 * Math.log10(4), 2);
  // An eighth of the sphere is 9.03 dBi: a sheet of 12 dBi says 2.97 dB too much, on the polarization that has them.
  const eighth = shaped(sharp(45), sharp(30));
  expect(gainBeyondPatternDb(eighth)).toBeCloseTo(12 - 10 * Math.log10(8), 2);
  const within = { ...eighth, gainAcrossBand: [{ frequencyMHz: 5500, hDbi: 9.4, vDbi: 9.5 }] };
  expect(gainBeyondPatternDb(within)).toBe(0);
});
