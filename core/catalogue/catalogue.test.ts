import { expect, test } from "@jest/globals";
import { beamwidthDeg, directivityDbi, gainBeyondPatternDb, patternLossDb, peakGainDbi } from "#core/antenna";
import { libraryFor } from "#core/catalogue";
import { equipmentSchema, type Equipment } from "#core/plan";
import { netRateMbps, sensitivityDbm } from "#core/radio";

const library = libraryFor("p");
const antennas = library.flatMap((item: Equipment) => (item.kind === "antenna" ? [item.body] : []));
const radios = library.flatMap((item: Equipment) => (item.kind === "radio" ? [item.body] : []));

test("every sheet of the library parses, under an id of its own", () => {
  for (const item of library) expect(equipmentSchema.parse(item)).toEqual(item);
  expect(new Set(library.map(({ id }) => id)).size).toBe(library.length);
});

test.each(antennas.map((antenna) => [antenna.id, antenna] as const))(
  "%s: strongest ahead, weakest no worse than its front-to-back",
  (_, antenna) => {
    const [low, high] = antenna.bandMHz;
    const middle = (low + high) / 2;
    expect(peakGainDbi(antenna, middle)).toBeGreaterThan(5);
    // Off the band's edges the last figure is carried on, never run out past it.
    expect(peakGainDbi(antenna, low * 0.9)).toBe(peakGainDbi(antenna, low));
    for (const polarization of ["H", "V", "HV", "X45"] as const) {
      expect(patternLossDb(antenna, polarization, 0, 0)).toBeCloseTo(0, 1);
      for (let azimuth = -180; azimuth <= 180; azimuth += 15)
        for (const elevation of [-60, -10, 0, 10, 60]) {
          const loss = patternLossDb(antenna, polarization, azimuth, elevation);
          expect(loss).toBeGreaterThanOrEqual(0);
          expect(loss).toBeLessThanOrEqual(antenna.frontToBackDb + 1e-9);
        }
    }
    const widths = [3, 6, 12].map((db) => beamwidthDeg(antenna.azimuthCuts.V, db));
    expect(widths[0]).toBeLessThanOrEqual(widths[1]!);
    expect(widths[1]).toBeLessThanOrEqual(widths[2]!);
  },
);

test.each(antennas.map((antenna) => [antenna.id, antenna] as const))(
  "%s: its gain is no more than its own pattern allows, and not far less",
  (_, antenna) => {
    for (const [polarization, gain] of [
      ["H", Math.max(...antenna.gainAcrossBand.map(({ hDbi }) => hDbi))],
      ["V", Math.max(...antenna.gainAcrossBand.map(({ vDbi }) => vDbi))],
    ] as const) {
      const spareDb = directivityDbi(antenna, polarization) - gain;
      expect(spareDb).toBeGreaterThan(-0.5);
      expect(spareDb).toBeLessThan(6);
    }
    expect(gainBeyondPatternDb(antenna)).toBe(0);
  },
);

test.each(radios.map((radio) => [radio.id, radio] as const))(
  "%s: faster modulations ask for more and give more",
  (_, radio) => {
    const widthMHz = radio.widthsMHz[0]!;
    let [snr, rate] = [-Infinity, 0];
    for (const modulation of radio.modulations) {
      const now = netRateMbps({ radio, modulation, widthMHz, chains: radio.chains, direction: "down" });
      expect(modulation.snrDb).toBeGreaterThan(snr);
      expect(now).toBeGreaterThan(rate);
      [snr, rate] = [modulation.snrDb, now];
    }
    expect(netRateMbps({ radio, modulation: null, widthMHz, chains: radio.chains, direction: "down" })).toBe(0);
    for (const wider of radio.widthsMHz.slice(1))
      expect(sensitivityDbm(radio, wider)).toBeGreaterThan(sensitivityDbm(radio, widthMHz));
    expect(radio.powerMinDbm).toBeLessThan(radio.powerMaxDbm);
  },
);
