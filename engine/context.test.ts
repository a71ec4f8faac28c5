import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, beforeEach, expect, test } from "@jest/globals";
import { contextOf, forgetPlans, onChange, planContext, type PlanContext } from "#engine";
import { areaSchema, putPatch, removePatch, setPatch, type Area, type Patch } from "#core/plan";
import { valley, valleySurface } from "#core/testing";
import {
  createPlan,
  deletePlan,
  openStore,
  packLayer,
  readPlan,
  recordChange,
  signedBy,
  stepRecord,
  type Store,
} from "#store";

let directory: string;
let store: Store;
beforeAll(async () => {
  directory = mkdtempSync(join(tmpdir(), "tejado-engine-"));
  store = await openStore(directory);
});
afterAll(async () => {
  await store.close();
  rmSync(directory, { recursive: true, force: true });
});
beforeEach(async () => {
  forgetPlans();
  await deletePlan(store.db, "valley");
  const { layer, tiles } = packLayer("valley", "ground", "bare", valleySurface(12));
  await createPlan(store.db, { ...valley().rows, layers: [layer] }, signedBy("test"), "Began", {
    tiles: tiles.map((tile) => ({ layerId: layer.id, ...tile })),
    photos: [],
  });
});
const ana = signedBy("Ana");
const keep = (...patches: Patch[]) => recordChange(store.db, { planId: "valley", ...ana, what: "Changed", patches });
const now = async () => (await planContext(store, "valley"))!;

/** That a context says what one says that is made from the rows as they stand. */
async function expectAsAnew(context: PlanContext): Promise<void> {
  const anew = await contextOf(store, (await readPlan(store.db, "valley"))!);
  const sorted = <T extends { id: string }>(list: readonly T[]) => [...list].sort((x, y) => (x.id < y.id ? -1 : 1));
  const { plan, ...lists } = context.rows;
  expect(plan).toEqual(anew.rows.plan);
  for (const [kind, list] of Object.entries(lists))
    expect({ kind, list: sorted(list as { id: string }[]) }).toEqual({
      kind,
      list: sorted(anew.rows[kind as "sites"]),
    });
  const [is, should] = [await context.review(), await anew.review()];
  expect(is.outcome).toEqual(should.outcome);
  expect(is.findings).toEqual(should.findings);
  expect(new Map(is.summaries)).toEqual(new Map(should.summaries));
}

test("a plan that has not changed is the same context; after changes and undo it says what its rows say", async () => {
  const first = await now();
  expect(await now()).toBe(first);
  await first.evaluate();
  await keep(setPatch("sites", "west", { name: " Mast ", notes: "wasps" }));
  await keep(setPatch("carriers", "sector", { frequencyMHz: 5320 }), removePatch("links", "bridge"));
  const second = await now();
  expect(second.revision).toBe(3);
  expect(second.world.sites.get("west")!.name).toBe("Mast");
  await expectAsAnew(second);
  await stepRecord(store.db, { planId: "valley", ...ana, way: "undo" });
  await expectAsAnew(await now());
});

test("only what a change touches is answered anew, and windows are told which links since when", async () => {
  const first = await now();
  const { answers } = await first.evaluate();
  await keep(setPatch("sites", "east", { notes: "bees" }));
  const second = await now();
  expect((await second.evaluate()).answers.get("bridge")).toBe(answers.get("bridge"));
  expect(second.answeredSince(1)).toEqual([]);
  await keep(setPatch("subscribers", "farm", { demandMbps: 3 }));
  const third = await now();
  await third.evaluate();
  expect(third.answeredSince(1)).toEqual(["access"]);
  expect(third.answeredSince(2)).toEqual(["access"]);
  expect(third.answeredSince(3)).toEqual([]);
  forgetPlans();
  const anew = await now();
  await anew.evaluate();
  expect(anew.answeredSince(1)).toBeNull();
});

test("states that nobody asked about are caught up with in one step", async () => {
  await (await now()).evaluate();
  await keep(setPatch("radios", "sector", { azimuthDeg: 90 }));
  await now();
  await keep(setPatch("subscribers", "farm", { demandMbps: 3 }));
  const last = await now();
  await expectAsAnew(last);
  expect(last.answeredSince(1)).toEqual(["access"]);
});

test("another ground answers everything anew", async () => {
  const first = await now();
  await first.evaluate();
  const corners: [number, number][] = [
    [20.05, -1.01],
    [20.06, -1.01],
    [20.06, -0.99],
    [20.05, -0.99],
    [20.05, -1.01],
  ];
  const own = { id: "wood", planId: "valley", name: "wood", kind: "wood", heightM: 40, density: 1 };
  const wood: Area = areaSchema.parse({ ...own, rings: [corners] });
  await keep(putPatch("areas", wood));
  const second = await now();
  expect(second.terrainVersion).not.toBe(first.terrainVersion);
  expect([...(await second.evaluate()).answered].sort()).toEqual(["access", "bridge"]);
  await expectAsAnew(second);
});

test("a plan that was removed and made again is another one", async () => {
  const first = await now();
  await deletePlan(store.db, "valley");
  expect(await planContext(store, "valley")).toBeNull();
  const rows = valley().rows;
  await createPlan(store.db, { ...rows, plan: { ...rows.plan, createdAt: "2030-01-01T00:00:00.000Z" } }, ana, "Again");
  expect(await now()).not.toBe(first);
  await expectAsAnew(await now());
});

test("whoever listens hears where a plan stands, and each new revision until the line is ended", async () => {
  const heard: number[] = [];
  const end = await onChange(store, "valley", (revision) => heard.push(revision));
  const other = await onChange(store, "elsewhere", () => heard.push(-1));
  const until = async (count: number) => {
    for (let i = 0; i < 100 && heard.length < count; i++) await new Promise((resolve) => setTimeout(resolve, 20));
  };
  expect(heard).toEqual([1]);
  await keep(setPatch("sites", "west", { notes: "a" }));
  await keep(setPatch("sites", "west", { notes: "b" }));
  await until(3);
  expect(heard).toEqual([1, 2, 3]);
  end();
  await keep(setPatch("sites", "west", { notes: "c" }));
  await new Promise((resolve) => setTimeout(resolve, 200));
  expect(heard).toEqual([1, 2, 3]);
  other();
});
