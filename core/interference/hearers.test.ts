import { expect, test } from "@jest/globals";
import { hearersOf } from "#core/interference";
import { radioPatches, removePatch, withPatches, type Radio } from "#core/plan";
import { radio, valley } from "#core/testing";

const { world } = valley();
/** Whether a radio on a channel of 20 MHz may hear a change of one of the valley's. */
function hears(id: string, rest: Partial<Radio>, frequencyMHz: number): boolean {
  const patches = radioPatches(world, { ...world.radios.get(id)!, ...rest });
  return hearersOf(world, withPatches(world, patches), patches)(radio("ear", { frequencyMHz }));
}

test("a changed sector is heard on its channel and the next, where it was and where it goes", () => {
  // The sector stands on 5200 MHz.
  const moved = { frequencyMHz: 5300 };
  expect([5200, 5239, 5240, 5261, 5300, 5339].map((mhz) => hears("sector", moved, mhz))).toEqual([
    true,
    true,
    false,
    true,
    true,
    true,
  ]);
  expect(hears("sector", { txPowerDbm: 3 }, 5200)).toBe(true);
});

test("what its neighbours do not hear is no change to them, and customers wait until it is kept", () => {
  expect(hears("sector", { heightM: 12, name: "renamed" }, 5200)).toBe(false);
  expect(hears("farm-radio", { txPowerDbm: 3 }, 5200)).toBe(false);
  expect(hearersOf(world, world, [])(radio("ear"))).toBe(false);
});

test("a bridge that goes was heard", () => {
  const patches = [removePatch("radios", "west-east")];
  expect(hearersOf(world, withPatches(world, patches), patches)(radio("ear"))).toBe(true);
});
