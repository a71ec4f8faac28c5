import { expect, test } from "@jest/globals";
import { antennasFor, isJoined } from "#core/kit";
import { backhaulOf } from "#core/capacity";
import { checkOf } from "#core/findings";
import { valley, type ValleyRows } from "#core/testing";
import { withPatches, type World } from "#core/plan";

const found = (world: World) => checkOf("joint").ofPlan!(world, new Map(), backhaulOf(world, new Map()));
/** The western dish as one that is joined by a smooth waveguide. */
const guided = (rows: ValleyRows) => {
  for (const item of rows.equipment)
    if (item.kind === "antenna" && item.id === "brisote-plato-5-30")
      item.body = { ...item.body, join: "smooth waveguide" };
};

test("an antenna that its radio does not take is told with both sides, and ways out are of the same kind first", () => {
  expect(found(valley().world)).toEqual([]);
  const { world } = valley(0, guided);
  const faults = found(world);
  expect(faults.map(({ radioId }) => radioId).sort()).toEqual(["east-west", "west-east"]);
  expect(faults[0]!.what).toBe("Brisote Plato 5-30 is joined by a smooth waveguide; Tramo 5 takes two jacks");
  const ways = checkOf("joint").remedies!(world, { ...faults[0]!, check: "joint" } as never, {} as never);
  expect(ways.length).toBeGreaterThan(1);
  expect(ways[0]!.effect).toMatch(/^a dish of \d+/);
  for (const { patches } of ways)
    expect(found(withPatches(world, patches)).map(({ radioId }) => radioId)).not.toContain(faults[0]!.radioId);
});

test("where a sheet says nothing, nothing is wrong; what does not join is not proposed", () => {
  expect(isJoined({ joins: [] }, { join: "four jacks" })).toBe(true);
  expect(isJoined({ joins: ["two jacks"] }, { join: null })).toBe(true);
  expect(isJoined({ joins: ["two jacks"] }, { join: "four jacks" })).toBe(false);
  const { world } = valley(0, guided);
  const model = world.radioModels.get("brisote-tramo-5")!;
  const ids = antennasFor(world, "bridge", 5800, model).map(({ id }) => id);
  expect(ids).not.toContain("brisote-plato-5-30");
  expect(ids).toContain("brisote-plato-5-34");
});
