import { beforeEach, expect, test } from "@jest/globals";
import { putPatch, removalOf, removePatch, setPatch, worldOf, type Patch, type Site } from "#core/plan";
import { valley } from "#core/testing";
import {
  createPlan,
  deletePlan,
  NoSuchPlan,
  readHistory,
  readPlan,
  readPlanAt,
  recordChange,
  signedBy,
  stepRecord,
  stepsOf,
  type Change,
} from "#store";
import { onBothDrivers } from "./testing/drivers";

const ana = signedBy("Ana");
const ben = signedBy("Ben");

onBothDrivers(({ store, second }) => {
  const db = () => store().db;
  beforeEach(async () => {
    await deletePlan(db(), "valley");
    await createPlan(db(), valley().rows, signedBy("test"), "Began");
  });
  const change = (patches: Patch[], more: Partial<Change> = {}) =>
    recordChange(db(), { planId: "valley", ...ana, what: "Changed", patches, ...more });
  const west = async (): Promise<Site> => (await readPlan(db(), "valley"))!.sites.find(({ id }) => id === "west")!;
  const name = (text: string): Patch => setPatch("sites", "west", { name: text });
  const step = (way: "undo" | "redo", author = ana, leaveTheirs = false) =>
    stepRecord(db(), { planId: "valley", ...author, way, leaveTheirs });

  test("fields that different people set on one revision merge; each change raises the revision by one", async () => {
    expect(await change([name("Uno")], { base: 1, op: "a-1" })).toEqual({ kind: "kept", revision: 2, what: "Changed" });
    expect(await change([setPatch("sites", "west", { notes: "wasps" })], { base: 1, op: "b-1", ...ben })).toMatchObject(
      {
        kind: "kept",
        revision: 3,
      },
    );
    expect(await west()).toMatchObject({ name: "Uno", notes: "wasps" });
    expect((await readPlanAt(db(), "valley"))!.revision).toBe(3);
  });

  test("a field that somebody else set since is a conflict with both values, who and when, and nothing is kept", async () => {
    await change([name("Uno")], { base: 1, op: "a-1" });
    const outcome = await change([name("Dos"), setPatch("sites", "east", { notes: "kept?" })], {
      base: 1,
      op: "b-1",
      ...ben,
    });
    expect(outcome).toMatchObject({
      kind: "conflict",
      conflicts: [
        { kind: "sites", id: "west", name: "Uno", field: "name", theirs: "Uno", mine: "Dos", who: "Ana", revision: 2 },
      ],
    });
    if (outcome.kind === "conflict") expect(Date.now() - outcome.conflicts[0]!.at.getTime()).toBeLessThan(60_000);
    const rows = (await readPlan(db(), "valley"))!;
    expect(rows.sites.map(({ notes }) => notes)).toEqual(["", ""]);
    // Begun anew on what the other one made, it is kept; the same value was no conflict at all.
    expect(await change([name("Uno")], { base: 1, op: "b-2", ...ben })).toMatchObject({ kind: "nothing" });
    expect(await change([name("Dos")], { base: 2, op: "b-3", ...ben })).toMatchObject({ kind: "kept" });
  });

  test("a window does not stand in its own way", async () => {
    await change([name("Uno")], { base: 1, op: "a-1" });
    expect(await change([name("Dos")], { base: 1, op: "a-2" })).toMatchObject({ kind: "kept" });
    expect(await change([name("Tres")], { base: 1, op: "another-1" })).toMatchObject({ kind: "conflict" });
  });

  test("the same op twice is kept once, and answers as it did", async () => {
    const first = await change([name("Uno")], { base: 1, op: "a-1" });
    expect(await change([name("Uno")], { base: 1, op: "a-1" })).toEqual(first);
    const undo = { planId: "valley", ...ana, way: "undo" as const, op: "a-2" };
    const undone = await stepRecord(db(), undo);
    expect(undone).toMatchObject({ kind: "kept", revision: 3 });
    expect(await stepRecord(db(), undo)).toEqual(undone);
    expect((await readHistory(db(), "valley")).map(({ kind }) => kind)).toEqual(["undo", "change", "change"]);
  });

  test("what is gone cannot be set, what was worked on is not removed unseen, an id is not taken twice", async () => {
    await change([removePatch("links", "access")], { base: 1, op: "a-1" });
    expect(
      await change([setPatch("links", "access", { state: "proven" })], { base: 1, op: "b-1", ...ben }),
    ).toMatchObject({
      kind: "conflict",
      conflicts: [{ field: "", theirs: null, who: "Ana" }],
    });
    await change([setPatch("links", "bridge", { foliageDepthM: 3 })], { base: 2, op: "a-2" });
    expect(await change([removePatch("links", "bridge")], { base: 1, op: "b-2", ...ben })).toMatchObject({
      kind: "conflict",
      conflicts: [{ field: "", mine: null, who: "Ana" }],
    });
    const other = { ...(await west()), name: "somewhere else" };
    expect(await change([putPatch("sites", other)], { base: 3, op: "b-3", ...ben })).toMatchObject({
      kind: "conflict",
      conflicts: [{ id: "west", field: "" }],
    });
  });

  test("undo takes back one's own last change and leaves what others changed beside it", async () => {
    await change([name("Uno")]);
    await change([setPatch("sites", "west", { notes: "Ben's" })], ben);
    expect(await stepsOf(db(), "valley", ana.authors)).toEqual({ undo: "Changed", redo: null });
    expect(await step("undo")).toMatchObject({ kind: "kept", what: "Changed" });
    expect(await west()).toMatchObject({ name: "west", notes: "Ben's" });
    expect(await stepsOf(db(), "valley", ana.authors)).toEqual({ undo: null, redo: "Changed" });
    expect(await stepsOf(db(), "valley", ben.authors)).toEqual({ undo: "Changed", redo: null });
    expect(await step("undo")).toBeNull();
    expect(await step("redo")).toMatchObject({ kind: "kept" });
    expect(await west()).toMatchObject({ name: "Uno", notes: "Ben's" });
    expect((await readHistory(db(), "valley")).map(({ kind, who }) => `${kind} ${who}`)).toEqual([
      "redo Ana",
      "undo Ana",
      "change Ben",
      "change Ana",
      "change test",
    ]);
  });

  test("undo walks back through several changes of one field, redo forth again, and a new change ends redo", async () => {
    for (const text of ["Uno", "Dos", "Tres"]) await change([name(text)], { what: text });
    const names = async () => (await west()).name;
    await step("undo");
    await step("undo");
    expect(await names()).toBe("Uno");
    await step("redo");
    expect(await names()).toBe("Dos");
    await step("undo");
    await step("redo");
    await step("redo");
    expect(await names()).toBe("Tres");
    await step("undo");
    await change([name("Cuatro")], { what: "Cuatro" });
    expect(await stepsOf(db(), "valley", ana.authors)).toEqual({ undo: "Cuatro", redo: null });
    expect(await step("redo")).toBeNull();
  });

  test("undo says who has changed the same field since, and takes back the rest when asked to", async () => {
    await change([setPatch("sites", "west", { name: "Uno", notes: "mine" })]);
    await change([name("Ben's name")], ben);
    expect(await step("undo")).toMatchObject({
      kind: "conflict",
      conflicts: [{ field: "name", theirs: "Ben's name", mine: "west", who: "Ben" }],
    });
    expect(await west()).toMatchObject({ name: "Ben's name", notes: "mine" });
    expect(await step("undo", ana, true)).toMatchObject({ kind: "kept" });
    expect(await west()).toMatchObject({ name: "Ben's name", notes: "" });
    expect(await step("undo")).toBeNull();
  });

  test("a site goes with all that stands on it in one change, and one undo brings all of it back", async () => {
    const before = (await readPlan(db(), "valley"))!;
    const { patches } = removalOf(worldOf(before), [{ kind: "sites", id: "west" }]);
    expect(await change(patches)).toMatchObject({ kind: "kept" });
    const after = (await readPlan(db(), "valley"))!;
    expect([after.sites.length, after.radios.length, after.links.length, after.carriers.length]).toEqual([1, 0, 0, 0]);
    await step("undo");
    expect(await readPlan(db(), "valley")).toEqual(before);
  });

  test("a change is checked in all that it touches, and refused whole with the field", async () => {
    const refused = async (patches: Patch[]) => {
      const outcome = await change(patches);
      return outcome.kind === "refused" ? outcome.problems : [];
    };
    const [lower] = await refused([setPatch("sites", "west", { structureHeightM: 10 })]);
    expect(lower).toMatchObject({ kind: "radios", field: "heightM", isUnknown: false });
    expect(lower!.message).toMatch(/is above the 10 m that west offers/);
    expect(await refused([setPatch("radios", "sector", { radioModelId: "nothing" })])).toMatchObject([
      { kind: "radios", id: "sector", field: "radioModelId", isUnknown: true },
    ]);
    expect(await refused([removePatch("sites", "west")])).toMatchObject([
      { kind: "sites", id: "west", message: "west is in use by 2 radios, first: west-east" },
    ]);
    expect(await refused([removePatch("equipment", "brisote-tramo-5")])).toMatchObject([
      { kind: "equipment", field: "id" },
    ]);
    expect(await refused([setPatch("plans", "valley", { ruleSetId: "none" })])).toMatchObject([
      { kind: "plans", field: "ruleSetId" },
    ]);
    expect(await refused([removePatch("carriers", "sector")])).toMatchObject([
      { kind: "carriers", id: "sector", message: "sector is in use by 2 radios, first: farm-radio" },
    ]);
    expect((await readPlanAt(db(), "valley"))!.revision).toBe(1);
    await expect(recordChange(db(), { planId: "none", ...ana, what: "x", patches: [] })).rejects.toThrow(NoSuchPlan);
  });

  test("twenty writers with twenty changes each: every one is merged or answered as a conflict, none is lost", async () => {
    const stores = [store(), ...(second ? [await second(), await second()] : [])];
    let kept = 0;
    let conflicts = 0;
    await Promise.all(
      Array.from({ length: 20 }, async (_, writer) => {
        const its = stores[writer % stores.length]!;
        let base = 1;
        for (let turn = 0; turn < 20; turn++) {
          const field = ["name", "notes", "access", "terms", "hazards"][(writer + turn) % 5]!;
          const outcome = await recordChange(its.db, {
            ...signedBy(`writer ${writer}`),
            planId: "valley",
            op: `w${writer}-${turn}`,
            what: `${writer} ${turn}`,
            patches: [{ ...setPatch("sites", writer % 2 ? "west" : "east", { [field]: `${writer} ${turn}` }), base }],
          });
          if (outcome.kind === "kept") kept++;
          else conflicts++;
          if (outcome.kind === "kept" || outcome.kind === "conflict") base = outcome.revision;
        }
      }),
    );
    const { revision } = (await readPlanAt(db(), "valley"))!;
    const entries = await readHistory(db(), "valley", { limit: 2000 });
    expect(kept + conflicts).toBe(400);
    expect(conflicts).toBeGreaterThan(0);
    expect([revision, entries.length]).toEqual([kept + 1, kept + 1]);
    expect(entries.map((entry) => entry.revision)).toEqual(Array.from({ length: kept + 1 }, (_, i) => kept + 1 - i));
    for (const other of stores.slice(1)) await other.close();
  }, 120_000);
});
