import { expect, test } from "@jest/globals";
import { checkPatches, setPatch } from "#core/plan";
import { valley } from "#core/testing";

test("a bracket and a switch that are not in the library, or are something else, are refused", () => {
  const { world } = valley();
  const refused = (patch: Parameters<typeof checkPatches>[1][number]) =>
    checkPatches(world, [patch]).map(({ kind, field, isUnknown }) => [kind, field, isUnknown]);
  const bracket = [...world.parts.values()].find(({ kind }) => kind === "bracket")!;
  expect(refused(setPatch("radios", "sector", { bracketId: bracket.id }))).toEqual([]);
  expect(refused(setPatch("radios", "sector", { bracketId: "nowhere" }))).toEqual([["radios", "bracketId", true]]);
  expect(refused(setPatch("radios", "sector", { bracketId: "tornel-nudo-8-at" }))).toEqual([
    ["radios", "bracketId", true],
  ]);
  expect(refused(setPatch("sites", "west", { switchPartId: "tornel-nudo-8-at" }))).toEqual([]);
  expect(refused(setPatch("sites", "west", { switchPartId: bracket.id }))).toEqual([["sites", "switchPartId", true]]);
});
