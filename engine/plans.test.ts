import { rmSync } from "node:fs";
import { afterAll, beforeAll, beforeEach, expect, jest, test } from "@jest/globals";
import { askOf, forgetPlans, onChange, planContext, stopEngine, type PlanContext } from "#engine";
import { fromColumns, shownAfter, type ChangeWire, type PlanWire, type ShownSince } from "#wire";
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
import { begunDirectory } from "../store/testing";

let directory: string;
let store: Store;
beforeAll(async () => {
  directory = await begunDirectory("engine");
  store = await openStore(directory);
});
afterAll(async () => {
  await stopEngine();
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

/** What a window is shown of a plan, its rows in the order of their ids, the ways out of what is wrong left aside. */
function shown(text: string) {
  const { plan, rows, terrain, shown, summaries } = JSON.parse(text) as PlanWire;
  const sorted = <T extends object>(list: T[], key: string) =>
    list.sort((x, y) => (x as Record<string, string>)[key]!.localeCompare((y as Record<string, string>)[key]!));
  const lists = Object.entries(rows).map(([kind, columns]) => [kind, sorted(fromColumns<object>(columns), "id")]);
  const findings = shown!.findings.map((finding) => ({ ...finding, remedies: null }));
  return {
    plan,
    terrain,
    shown: { ...shown, findings },
    rows: lists,
    summaries: sorted(fromColumns<object>(summaries), "linkId"),
  };
}

/** That a context says what one says that is made from the rows as they stand. */
async function expectAsAnew(context: PlanContext): Promise<void> {
  const rows = (await readPlan(store.db, "valley"))!;
  expect(shown(await context.ask("window"))).toEqual(shown(await askOf(store, rows, "window")));
}

test("a plan that has not changed is the same context; after changes and undo it says what its rows say", async () => {
  const first = await now();
  expect(await now()).toBe(first);
  await first.ask("counts");
  await keep(setPatch("sites", "west", { name: " Mast ", notes: "wasps" }));
  await keep(setPatch("carriers", "sector", { frequencyMHz: 5320 }), removePatch("links", "bridge"));
  const second = await now();
  expect(second.revision).toBe(3);
  expect((await second.load()).world.sites.get("west")!.name).toBe("Mast");
  await expectAsAnew(second);
  await stepRecord(store.db, { planId: "valley", ...ana, way: "undo" });
  await expectAsAnew(await now());
});

test("a window is shown what is wrong at once, and the ways out of it with its next question", async () => {
  const context = await now();
  const first = JSON.parse(await context.ask("window")) as PlanWire;
  expect(first.isSettled).toBe(false);
  expect(first.shown!.findings.map(({ remedies }) => remedies)).toEqual(first.shown!.findings.map(() => null));
  const asked = { from: 1, unsettled: 1, all: false, patches: [] };
  const next = JSON.parse((await context.ask("since", asked))!) as ChangeWire;
  const after = shownAfter(next.shown as ShownSince, first.shown!.findings)!;
  expect(next.isSettled).toBe(true);
  expect(after.findings.map(({ id }) => id)).toEqual(first.shown!.findings.map(({ id }) => id));
  expect(after.findings.every(({ remedies }) => remedies !== null)).toBe(true);
  const again = JSON.parse(await context.ask("window")) as PlanWire;
  expect([again.isSettled, again.shown]).toEqual([true, after]);
});

test("many who ask while changes are kept all get a plan, and the engine is told of each change once", async () => {
  const before = await now();
  await before.ask("counts");
  const asked: Promise<PlanContext>[] = [];
  for (let i = 0; i < 6; i++) {
    await keep(setPatch("radios", "sector", { azimuthDeg: 10 * i }));
    asked.push(now(), now());
  }
  const contexts = await Promise.all(asked);
  contexts.forEach(({ revision }, i) => expect(revision).toBeGreaterThanOrEqual(2 + (i >> 1)));
  // Nobody read the plan anew: what was answered since the first state is known.
  expect(await contexts.at(-1)!.ask("since", { from: 1, unsettled: null, all: false, patches: [] })).not.toBeNull();
  await expectAsAnew(await now());
});

test("a change waits for nobody who still reads the plan's rows, and whoever reads gets them with the change in them", async () => {
  const before = await now();
  let letGo = () => {};
  const held = new Promise<void>((resolve) => (letGo = resolve));
  const { query } = store.db;
  const slow = jest.spyOn(store.db, "query").mockImplementation(async (sql, parameters) => {
    if (sql.includes("json_agg")) await held;
    return query.call(store.db, sql, parameters) as never;
  });
  const reading = before.load();
  await keep(setPatch("sites", "west", { notes: "wasps" }));
  const after = await now();
  expect(after.revision).toBe(before.revision + 1);
  const readLater = after.load();
  letGo();
  for (const { world, revision } of [await reading, await readLater])
    expect([world.sites.get("west")!.notes, revision]).toEqual(["wasps", after.revision]);
  slow.mockRestore();
  // What was read before a change gets it by the change alone.
  await keep(setPatch("sites", "west", { notes: "no wasps" }));
  const { world, revision } = await (await now()).load();
  expect([world.sites.get("west")!.notes, revision]).toEqual(["no wasps", after.revision + 1]);
});

test("another ground answers everything anew", async () => {
  const first = await now();
  await first.ask("counts");
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
  expect(second.versions.terrain).not.toBe(first.versions.terrain);
  expect(second.versions.relief).toBe(first.versions.relief);
  const since = await second.ask("since", { from: 1, unsettled: null, all: false, patches: [] });
  expect(
    fromColumns<{ linkId: string }>((JSON.parse(since!) as PlanWire).summaries)
      .map(({ linkId }) => linkId)
      .sort(),
  ).toEqual(["access", "bridge"]);
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

test("an engine that dies is replaced: what was asked of it is answered by the next one", async () => {
  const context = await now();
  const before = await context.ask("window");
  const asked = context.ask("window");
  void stopEngine();
  expect(shown(await asked)).toEqual(shown(before));
  expect(await (await now()).ask("ground", { latDeg: -1, lonDeg: 20.02 })).toBeCloseTo(10, 3);
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
