import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { libraryFor } from "#core/catalogue";
import { beamwidthDeg, cutLossDb, firstSideLobe, patternLossDb, peakGainDbi, type AntennaModel } from "#core/antenna";

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
