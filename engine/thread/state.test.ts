import { expect, test } from "@jest/globals";
import { setPatch, withPatches, type Patch } from "#core/plan";
import { valley, valleySurface } from "#core/testing";
import { cutTiles, tilesAcross } from "#core/terrain";
import { encodeTile, shareTiles } from "#ground";
import { firstState, planGround, type PlanState } from "./state";

const surface = valleySurface(12);
const tiles = [...cutTiles(surface)].map(({ tileColumn, tileRow, tile }) => ({
  index: tileRow * tilesAcross(surface.frame) + tileColumn,
  data: encodeTile(tile),
}));
const shared = () => ({
  rasters: [{ kind: "bare" as const, whole: shareTiles(surface.frame, tiles), overview: null }],
  areas: [],
});
const first = () => firstState(valley(12).world, planGround(shared(), { terrain: "t", relief: "r" }), 1);
const after = (state: PlanState, ...patches: Patch[]) =>
  state.next(withPatches(state.world, patches), patches, state.revision + 1, null);

test("only what a change touches is answered anew, and windows are told which links since when", async () => {
  const begun = first();
  const { answers } = await begun.evaluate();
  const noted = after(begun, setPatch("sites", "east", { notes: "bees" }));
  expect((await noted.evaluate()).answers.get("bridge")).toBe(answers.get("bridge"));
  expect(noted.answeredSince(1)).toEqual([]);
  const asked = after(noted, setPatch("subscribers", "farm", { demandMbps: 3 }));
  await asked.evaluate();
  expect([asked.answeredSince(1), asked.answeredSince(2), asked.answeredSince(3)]).toEqual([
    ["access"],
    ["access"],
    [],
  ]);
  const anew = firstState(asked.world, planGround(shared(), { terrain: "t", relief: "r" }), 3);
  await anew.evaluate();
  expect(anew.answeredSince(1)).toBeNull();
});

test("states that nobody asked about are caught up with in one step", async () => {
  const begun = first();
  await begun.evaluate();
  const last = after(
    after(begun, setPatch("radios", "sector", { azimuthDeg: 90 })),
    setPatch("subscribers", "farm", { demandMbps: 3 }),
  );
  const { outcome, findings } = await last.evaluate();
  expect(last.answeredSince(1)).toEqual(["access"]);
  const anew = await firstState(last.world, planGround(shared(), { terrain: "t", relief: "r" }), 3).evaluate();
  expect({ outcome, findings }).toEqual({ outcome: anew.outcome, findings: anew.findings });
});
