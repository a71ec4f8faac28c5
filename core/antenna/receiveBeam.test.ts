import { expect, test } from "@jest/globals";
import { beamGainDb, beamTurnedDeg, type ReceiveBeam } from "#core/antenna";

const BEAM: ReceiveBeam = { widthDeg: 14, gainDb: 6, steersDeg: 45, sideLobesDb: 15 };

test("a beam is 3 dB down at half its width, and no further down than its side lobes", () => {
  expect(beamGainDb(BEAM, 20, 20)).toBe(6);
  expect(beamGainDb(BEAM, 20, 27)).toBeCloseTo(3, 9);
  expect(beamGainDb(BEAM, 20, 13)).toBeCloseTo(3, 9);
  expect(beamGainDb(BEAM, 20, 90)).toBe(-9);
  // Across the back of the antenna the way round is the shorter one.
  expect(beamGainDb({ ...BEAM, steersDeg: 90 }, -179, 179)).toBeCloseTo(6 - 12 * (2 / 14) ** 2, 9);
});

test("a beam turns as far as it turns, either way", () => {
  expect(beamTurnedDeg(BEAM, 30)).toBe(30);
  expect(beamTurnedDeg(BEAM, 60)).toBe(45);
  expect(beamTurnedDeg(BEAM, -60)).toBe(-45);
  expect(beamTurnedDeg(BEAM, 359)).toBeCloseTo(-1, 9);
});
