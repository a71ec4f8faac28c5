import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { cameraLooks, seenBy } from "#core/aiming";

const upright = { alphaDeg: 0, betaDeg: 90, gammaDeg: 0 };
const tan = (deg: number) => Math.tan((deg * Math.PI) / 180);

test("an upright phone looks level at where its back is; leant back it looks up, turned it looks elsewhere", () => {
  expect(cameraLooks(upright)).toEqual({ azimuthDeg: expect.closeTo(0, 6), upDeg: expect.closeTo(0, 6) });
  // Counterclockwise from north: 270 is east.
  expect(cameraLooks({ ...upright, alphaDeg: 270 }).azimuthDeg).toBeCloseTo(90, 6);
  expect(cameraLooks({ ...upright, betaDeg: 75 }).upDeg).toBeCloseTo(-15, 6);
  expect(cameraLooks({ ...upright, betaDeg: 0 }).upDeg).toBeCloseTo(-90, 6);
});

test("what is to the right stands to the right, what is higher stands higher, by the tangent of the angle", () => {
  const right = seenBy(upright, { azimuthDeg: 12, upDeg: 0 });
  expect(right.at!.right).toBeCloseTo(tan(12), 9);
  expect(right.at!.up).toBeCloseTo(0, 9);
  expect(right.turnDeg).toBeCloseTo(12, 6);
  const higher = seenBy(upright, { azimuthDeg: 0, upDeg: 7 });
  expect(higher.at!.up).toBeCloseTo(tan(7), 9);
  expect(higher.raiseDeg).toBeCloseTo(7, 6);
  expect(seenBy({ ...upright, alphaDeg: 350 }, { azimuthDeg: 355, upDeg: 0 }).turnDeg).toBeCloseTo(-15, 6);
  expect(seenBy(upright, { azimuthDeg: 180, upDeg: 0 }).at).toBeNull();
});

test("on its side the picture turns with the screen", () => {
  // Turned counterclockwise to its left side, as browsers tell it: the screen stands at 90.
  const onItsSide = { alphaDeg: 0, betaDeg: 0, gammaDeg: -90 };
  const looks = cameraLooks(onItsSide);
  expect(looks.upDeg).toBeCloseTo(0, 6);
  const right = seenBy(onItsSide, { azimuthDeg: looks.azimuthDeg + 10, upDeg: 0 }, 90);
  expect(right.at!.right).toBeCloseTo(tan(10), 6);
  expect(right.at!.up).toBeCloseTo(0, 6);
  const higher = seenBy(onItsSide, { azimuthDeg: looks.azimuthDeg, upDeg: 10 }, 90);
  expect(higher.at!.up).toBeCloseTo(tan(10), 6);
});

test("however it is held, where it looks stands in the middle, and angles stay what they are", () => {
  const degrees = (min: number, max: number) => fc.double({ min, max, noNaN: true });
  const heldBy = fc.record({ alphaDeg: degrees(0, 360), betaDeg: degrees(-80, 170), gammaDeg: degrees(-60, 60) });
  fc.assert(
    fc.property(heldBy, degrees(-80, 80), fc.constantFrom(0, 90, 180, 270), (held, upDeg, screenDeg) => {
      const looks = cameraLooks(held);
      const middle = seenBy(held, looks, screenDeg);
      expect(Math.hypot(middle.at!.right, middle.at!.up)).toBeLessThan(1e-6);
      const target = { azimuthDeg: looks.azimuthDeg + 5, upDeg };
      const seen = seenBy(held, target, screenDeg);
      const cos =
        Math.sin(looks.upDeg * (Math.PI / 180)) * Math.sin(upDeg * (Math.PI / 180)) +
        Math.cos(looks.upDeg * (Math.PI / 180)) * Math.cos(upDeg * (Math.PI / 180)) * Math.cos((5 * Math.PI) / 180);
      if (seen.at && cos > 0.05) expect(1 / Math.hypot(1, seen.at.right, seen.at.up)).toBeCloseTo(cos, 6);
    }),
  );
});
