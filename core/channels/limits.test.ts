import { expect, test } from "@jest/globals";
import { channelGroups, earsNow, isForbidden, mayUse, NO_LIMITS, planChannels } from "#core/channels";
import { setPatch, withPatches } from "#core/plan";
import { isLicensed } from "#core/regulation";
import { valley } from "#core/testing";

const { world, between } = valley();
const on = (frequencyMHz: number) => withPatches(world, [setPatch("carriers", "sector", { frequencyMHz })]);

test("a channel that the rules forbid is left, pinned or not, and an open one that is pinned is kept", async () => {
  const closed = on(5420);
  expect([isForbidden(closed, "sector"), isForbidden(world, "sector")]).toEqual([true, false]);
  const ask = {
    school: "free",
    workPeople: 0.1,
    fixedIds: channelGroups(world),
    limits: NO_LIMITS,
    seconds: 0.3,
  } as const;
  const { moves } = await planChannels(closed, ask, between);
  expect(moves.map(({ radioId, fromMHz }) => [radioId, fromMHz])).toEqual([["sector", 5420]]);
  expect(mayUse(closed, "sector", moves[0]!.toMHz, NO_LIMITS)).toBe(true);
  expect((await planChannels(world, ask, between)).moves).toEqual([]);
});

test("licensed spectrum is closed until a licence for all of the channel is entered", () => {
  const channel = { frequencyMHz: 11_200, widthMHz: 20 };
  const held = (lowMHz: number, highMHz: number) => ({ licences: [{ lowMHz, highMHz, reference: "L-1" }] });
  expect(isLicensed({ licences: [] }, { licence: "coordinated" }, channel)).toBe(false);
  expect(isLicensed(held(11_190, 11_210), { licence: "coordinated" }, channel)).toBe(true);
  expect(isLicensed(held(11_195, 11_250), { licence: "coordinated" }, channel)).toBe(false);
  expect(isLicensed({ licences: [] }, { licence: "exempt" }, channel)).toBe(true);
  expect(mayUse(world, "west-east", channel.frequencyMHz, NO_LIMITS)).toBe(false);
});

test("a bridge without customers weighs by what it must carry, in heads of what the plan's people ask for", () => {
  const must = withPatches(world, [setPatch("links", "bridge", { mustDownMbps: 400, mustUpMbps: 40 })]);
  const peopleOf = (some: typeof world) => earsNow(some, between).find(({ linkId }) => linkId === "bridge")!.people;
  // The farm's three ask for 20 Mbit/s together, so 400 are 60 heads; the feed of 80 Mbit/s alone makes 12.
  expect(peopleOf(must)).toBeCloseTo(60, 9);
  expect(peopleOf(world)).toBeCloseTo(12, 9);
});
