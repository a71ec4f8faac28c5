import { describe, expect, test } from "@jest/globals";
import { fitSweep, levelAtPeak, mainLobeDeg, type SweepPoint, type SweptAntenna } from "#core/aiming";
import { firstSideLobe, patternLossDb } from "#core/antenna";
import { endOf } from "#core/plan";
import { valley } from "#core/testing";

const { antenna } = endOf(valley().world, "west-east");
const dish: SweptAntenna = { antenna, polarization: "V", axis: "azimuth" };
const lobe = firstSideLobe(antenna.azimuthCuts.V)!;

/** Levels of a sweep over an antenna whose peak stands at an angle of the scale, ended at the last of the angles. */
const swept = (peakDeg: number, peakDbm: number, anglesDeg: readonly number[]): SweepPoint[] =>
  anglesDeg.map((angleDeg, i) => ({
    angleDeg,
    levelDbm: peakDbm - patternLossDb(antenna, "V", angleDeg - peakDeg, 0) + (i % 2 ? 0.7 : -0.7),
  }));
const from = (low: number, high: number, step: number) =>
  Array.from({ length: Math.round((high - low) / step) + 1 }, (_, i) => low + i * step);

describe("a sweep over a dish", () => {
  test("through the main lobe tells the peak, its level, and how far to turn back to it", () => {
    const fit = fitSweep(dish, swept(112, -50, from(106, 117, 0.5)), -52)!;
    expect(fit.on).toBe("main");
    expect(fit.peakDeg).toBeCloseTo(112, 0);
    expect(fit.peakDbm).toBeCloseTo(-50, 0);
    // The last reading stands at 117: the way back leads to smaller angles.
    expect(fit.turnDeg).toBeCloseTo(-5, 0);
    expect(fit.isPassed).toBe(true);
    expect([fit.fromDeg <= fit.peakDeg, fit.toDeg >= fit.peakDeg, fit.toDeg - fit.fromDeg < 1]).toEqual([
      true,
      true,
      true,
    ]);
  });

  test("that stops short of the peak says that it was not passed, and which way it lies", () => {
    const fit = fitSweep(dish, swept(112, -50, from(106, 111.5, 0.5)), -50)!;
    expect(fit.isPassed).toBe(false);
    expect(fit.on).toBe("main");
    expect(fit.turnDeg).toBeGreaterThan(0);
    expect(fit.belowPeakDb).toBeCloseTo(patternLossDb(antenna, "V", fit.turnDeg, 0), 9);
  });

  test.each([1, -1])(
    "round the lobe beside the main one is called so, with the way to the main one (side %d)",
    (side) => {
      const middle = 40 + side * lobe.offsetDeg;
      const beyondNull = Math.abs(lobe.offsetDeg - mainLobeDeg(dish)) + 1;
      const around = from(middle - beyondNull, middle + beyondNull, 0.4);
      const fit = fitSweep(dish, swept(40, -48, [...around, middle]), -48)!;
      expect(fit.on).toBe("side");
      expect(fit.turnDeg).toBeCloseTo(-side * lobe.offsetDeg, 0);
      expect(fit.belowPeakDb).toBeGreaterThan(8);
    },
  );
});

test("at a known peak the level is the middle of what the readings say", () => {
  expect(levelAtPeak(dish, swept(40, -50, from(36, 44, 1)), 40)).toBeCloseTo(-50.7, 9);
});

test("few readings are no sweep, and a flat row of them decides nothing", () => {
  expect(fitSweep(dish, swept(0, -50, [0, 1, 2, 3]), -50)).toBeNull();
  const flat = from(0, 1, 0.2).map((angleDeg) => ({ angleDeg, levelDbm: -70 }));
  expect(fitSweep(dish, flat, -50)!.on).toBe("unsure");
});

test("the main lobe ends at the null before the first lobe beside it, and an omni has no end", () => {
  expect(mainLobeDeg(dish)).toBeGreaterThan(0);
  expect(mainLobeDeg(dish)).toBeLessThan(lobe.offsetDeg);
  const omni = valley().world.antennaModels.get("brisote-ronda-5-13")!;
  expect(mainLobeDeg({ antenna: omni, polarization: "V", axis: "azimuth" })).toBe(180);
});

test("in elevation the elevation cut is looked for", () => {
  const tilted: SweptAntenna = { ...dish, axis: "elevation" };
  const points = from(-4, 5, 0.4).map((angleDeg) => ({
    angleDeg,
    levelDbm: -55 - patternLossDb(antenna, "V", 0, angleDeg - 1.5),
  }));
  expect(fitSweep(tilted, points, -55)!.peakDeg).toBeCloseTo(1.5, 0);
});
