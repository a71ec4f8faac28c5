import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { bracketReach, pointingOf, tiltBeyondBracketDeg, tiltDownDeg } from "#core/aiming";
import { endOf } from "#core/plan";
import { radioIn, valley } from "#core/testing";

const sectorWith = (azimuthDeg: number | null, tiltDegrees: number | null) => {
  const made = valley(0, (rows) => Object.assign(radioIn(rows, "sector"), { azimuthDeg, tiltDownDeg: tiltDegrees }));
  return endOf(made.world, "sector");
};

test("half the earth's turning counts as downward: two equal masts look a little down at each other", () => {
  expect(tiltDownDeg(50, 50, 20_000, 4 / 3)).toBeCloseTo(((20 / (2 * (4 / 3) * 6371)) * 180) / Math.PI, 9);
  expect(tiltDownDeg(150, 50, 1000, 4 / 3)).toBeCloseTo(5.714, 2);
  expect(tiltDownDeg(50, 150, 1000, 4 / 3)).toBeLessThan(-5.6);
});

test("what aims at its far end is off by the error allowed for and by nothing else", () => {
  const aimed = pointingOf(sectorWith(null, null), 120, 3, 1.5);
  expect(aimed).toMatchObject({ azimuthDeg: 120, azimuthOffDeg: 1.5, mechanicalTiltDownDeg: 1 });
  expect(pointingOf(sectorWith(null, null), 120, 3).elevationOffDeg).toBeCloseTo(0, 9);
});

test("mechanical tilt lowers the beam ahead, not at its sides, and lifts it behind; electrical tilt lowers it all round", () => {
  const end = sectorWith(0, 8);
  const electrical = end.antenna.electricalTiltDownDeg;
  expect(electrical).toBe(2);
  const off = (bearingDeg: number) => pointingOf(end, bearingDeg, 0).elevationOffDeg;
  expect(off(0)).toBeCloseTo(8 + electrical, 9);
  expect(off(90)).toBeCloseTo(electrical, 9);
  expect(off(180)).toBeCloseTo(-8 + electrical, 9);
  fc.assert(
    fc.property(fc.double({ min: -180, max: 180, noNaN: true }), (bearing) => {
      expect(off(bearing)).toBeCloseTo(off(-bearing), 9);
      expect(Math.abs(off(bearing) - electrical)).toBeLessThanOrEqual(8 + 1e-9);
    }),
  );
});

test("a bracket turned over changes its reach up and down", () => {
  const made = valley(0, (rows) => void (radioIn(rows, "farm-radio").bracketTurned = true));
  const turned = endOf(made.world, "farm-radio");
  const plain = endOf(valley().world, "farm-radio");
  expect(bracketReach(turned)).toEqual({ downDeg: bracketReach(plain).upDeg, upDeg: bracketReach(plain).downDeg });
  const { downDeg, upDeg } = bracketReach(plain);
  expect(tiltBeyondBracketDeg(plain, downDeg + 2)).toBeCloseTo(2, 9);
  expect(tiltBeyondBracketDeg(plain, -upDeg - 3)).toBeCloseTo(3, 9);
  expect(tiltBeyondBracketDeg(plain, 0)).toBe(0);
});
