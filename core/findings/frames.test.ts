import { expect, test } from "@jest/globals";
import { reviewPlan } from "#core/evaluate";
import { setPatch, withPatches, type World } from "#core/plan";
import { town, valley } from "#core/testing";

const made = valley(0, town);
const found = (world: World) => reviewPlan(world, made.between).findings.filter(({ check }) => check === "frames");
const timed = (shares: (number | null)[], groups = ["one", "one"]) =>
  withPatches(
    made.world,
    ["sector", "sector-2"].map((id, i) =>
      setPatch("carriers", id, { timingGroup: groups[i]!, downShare: shares[i] ?? null }),
    ),
  );

test("access points that keep one time with different frames are found, and the first way out makes them alike", () => {
  const world = timed([0.5, 0.8]);
  const [fault] = found(world);
  expect(fault).toMatchObject({ where: "sector at west", stage: "channels", figure: { unit: "% of the frame" } });
  expect(fault!.figure!.value).toBeCloseTo(30, 9);
  expect(fault!.what).toBe('50 % toward customers, the others of "one" 80 %');
  expect(found(withPatches(world, fault!.remedies![0]!.patches))).toEqual([]);
});

test("alike frames, and groups of their own, are nobody's fault", () => {
  expect(found(timed([0.6, 0.6]))).toEqual([]);
  expect(found(timed([null, null]))).toEqual([]);
  expect(found(timed([0.5, 0.8], ["one", "two"]))).toEqual([]);
  expect(found(timed([0.5, 0.8], ["", ""]))).toEqual([]);
});
