import { expect, test } from "@jest/globals";
import {
  antennaFigures,
  chainImbalanceDb,
  groundFootprintM,
  hearingKm,
  peakGainDbi,
  type AntennaModel,
} from "#core/antenna";
import { libraryFor } from "#core/catalogue";

const antennas = libraryFor("p").flatMap((item) => (item.kind === "antenna" ? [item.body] : []));
const byId = (id: string) => antennas.find((antenna) => antenna.id === id) as AntennaModel;

test("a 90° sector's sheet tells its widths, its chains at the edge and what a pointing error costs", () => {
  const { cuts, imbalance, pointing, gains } = antennaFigures(byId("halvorn-arco-3-16"));
  const azimuthV = cuts.find(({ plane, polarization }) => plane === "azimuth" && polarization === "V")!;
  expect(azimuthV.widthsDeg[0]).toBeCloseTo(90, 0);
  expect(azimuthV.widthsDeg[2]).toBeGreaterThan(azimuthV.widthsDeg[1]);
  expect(imbalance.atDeg).toBeCloseTo(45, 0);
  // H is 0.4 dB weaker ahead, and its narrower beam falls by more at the edge.
  expect(imbalance.rightDb).toBeGreaterThan(0.4);
  expect(imbalance.leftDb).toBeCloseTo(imbalance.rightDb, 6);
  expect(gains.map(({ vDbi }) => vDbi)).toEqual([15.2, 16, 15.6]);
  expect(pointing.map(({ lossDb }) => lossDb)).toEqual([...pointing.map(({ lossDb }) => lossDb)].sort((x, y) => x - y));
});

test("an antenna whose two cuts are alike has equal chains everywhere", () => {
  for (let angle = -180; angle <= 180; angle += 15)
    expect(chainImbalanceDb(byId("kestrane-bocina-5-13-45"), angle)).toBeCloseTo(0, 9);
});

test("gain is told by polarization, and both together are their mean", () => {
  const sector = byId("halvorn-arco-3-16");
  expect(peakGainDbi(sector, 3625, "H")).toBeCloseTo(15.6, 9);
  expect(peakGainDbi(sector, 3625, "V")).toBeCloseTo(16, 9);
  expect(peakGainDbi(sector, 3625)).toBeCloseTo(15.8, 9);
});

test("hearing falls with the pattern: 20 dB less is a tenth of the distance", () => {
  const dish = byId("brisote-plato-5-30");
  const to = { eirpDbm: 36, noiseDbm: -95, frequencyMHz: 5500 };
  expect(hearingKm(dish, 0, to)).toBeCloseTo(10 ** ((36 + 30 + 95 - 32.44 - 20 * Math.log10(5500)) / 20), 6);
  expect(hearingKm(dish, 180, to)).toBeLessThan(hearingKm(dish, 0, to) / 20);
});

test("a tilted beam meets the ground nearer its mast, a level one only with its lower edge", () => {
  const sector = byId("halvorn-arco-2-15");
  const level = groundFootprintM(sector, 30, 0);
  expect(level.middleM).toBeNull();
  expect(level.nearM).toBeCloseTo(30 / Math.tan((4.9 * Math.PI) / 180), 0);
  const tilted = groundFootprintM(sector, 30, 10);
  expect(tilted.nearM).toBeLessThan(level.nearM);
  expect(tilted.farM).toBeGreaterThan(tilted.middleM!);
});
