import { rmSync } from "node:fs";
import { afterAll, beforeAll, expect, jest, test } from "@jest/globals";
import { z } from "zod";

/** A kind that does not ship, with a field that points at a site, and a field that sites do not have: declared, and nowhere else named. */
const kinds = await import("./kinds");
const { field, keys, kindOf, name } = await import("./kinds/field");
const hutSchema = z.object({
  ...keys,
  name: field(name, { label: "Name" }),
  siteId: field(z.string(), { label: "Site", refersTo: { to: "sites", whenGone: "remove" } }),
  radioId: field(z.string().nullable().default(null), {
    label: "Radio",
    refersTo: { to: "radios", whenGone: "clear" },
  }),
  beds: field(z.number().int().min(1).max(20).default(2), { label: "Beds", unit: "beds" }),
});
const siteSchema = kinds.siteSchema.extend({
  colour: field(z.enum(["red", "white"]).default("white"), {
    label: "Colour of the mast",
    short: "colour",
    words: { red: "red and white bands" },
    register: { at: 99, widthPx: 80 },
  }),
});
jest.unstable_mockModule("./kinds", () => {
  const KINDS = {
    ...kinds.KINDS,
    sites: kindOf(siteSchema, { one: "site", many: "sites", isTable: true }),
    huts: kindOf(hutSchema, { one: "hut", many: "huts" }),
  };
  const ROW_KINDS = Object.keys(KINDS);
  return { ...kinds, siteSchema, KINDS, ROW_KINDS, LIST_KINDS: ROW_KINDS.filter((kind) => kind !== "plans") };
});

const { begunDirectory } = await import("../../store/testing");
const plan = await import("#core/plan");
const { valley } = await import("#core/testing");
const { readRowFiles, rowFiles } = await import("#formats/archive");
const { COLUMNS, withCell } = await import("../../app/register/columns");
const { describePatches } = await import("../../app/desk/describe");
const { createPlan, openStore, readHistory, readPlan, recordChange, signedBy, stepRecord } = await import("#store");

type AnyPatch = Parameters<typeof plan.checkPatches>[1][number];
const put = (row: { id: string }) => ({ kind: "huts", id: row.id, put: row }) as unknown as AnyPatch;
const set = (kind: string, id: string, fields: object) => ({ kind, id, set: fields }) as unknown as AnyPatch;
const HUT = { id: "refuge", planId: "valley", name: "Refuge", siteId: "west", radioId: "sector", beds: 4 };
const rows = () => ({
  ...valley().rows,
  sites: valley().rows.sites.map((site) => ({ ...site, colour: "white" })),
  huts: [],
});
const huts = (of: object) => (of as { huts: unknown }).huts;

let directory: string;
let store: Awaited<ReturnType<typeof openStore>>;
beforeAll(async () => {
  directory = await begunDirectory("made-up");
  store = await openStore(directory, { databaseUrl: "" });
  await store.db.exec(`
    CREATE TABLE huts (plan_id text NOT NULL REFERENCES plans ON DELETE CASCADE, id text NOT NULL, name text NOT NULL,
      site_id text NOT NULL, radio_id text, beds int NOT NULL, PRIMARY KEY (plan_id, id));
    ALTER TABLE sites ADD COLUMN colour text NOT NULL DEFAULT 'white';`);
  await createPlan(store.db, rows() as never, signedBy("test"), "Began");
}, 60_000);
afterAll(async () => {
  await store.close();
  rmSync(directory, { recursive: true, force: true });
});

test("a made-up kind is checked: what it points at must be there, and what it stands on is not taken from under it", () => {
  const world = plan.worldOf(rows() as never);
  const wrong = (patches: AnyPatch[]) =>
    plan.checkPatches(world, patches).map(({ field: at, message }) => [at, message]);
  expect(wrong([put(HUT)])).toEqual([]);
  expect(wrong([put({ ...HUT, siteId: "nowhere" } as never)])).toEqual([
    ["siteId", 'Refuge: there is no site "nowhere" in the plan'],
  ]);
  const inhabited = plan.withPatches(world, [put(HUT)]);
  const problems = plan.checkPatches(inhabited, [plan.removePatch("sites", "west")]);
  expect(problems.map(({ message }) => message)).toContain("west is in use by 1 hut: Refuge");
});

test("it goes along with what it stands on, and is cleared of what else goes", () => {
  const inhabited = plan.withPatches(plan.worldOf(rows() as never), [put(HUT)]);
  const { patches, along } = plan.removalOf(inhabited, [{ kind: "sites", id: "west" }]);
  expect(along).toContain("1 hut");
  expect(patches).toContainEqual({ kind: "huts", id: "refuge", remove: true });
  const alone = plan.removalOf(inhabited, [{ kind: "radios", id: "sector" }]).patches;
  expect(alone).toContainEqual({ kind: "huts", id: "refuge", set: { radioId: null } });
});

test("the record keeps it, merges it by field, takes it back, and finds what it stands on", async () => {
  const change = (patches: AnyPatch[], base?: number) =>
    recordChange(store.db, {
      ...{ planId: "valley", ...signedBy("Ana"), what: "Changed", patches },
      ...(base === undefined ? {} : { base }),
    });
  expect(await change([put(HUT)])).toMatchObject({ kind: "kept" });
  expect(huts((await readPlan(store.db, "valley"))!)).toEqual([HUT]);
  expect(await change([put({ ...HUT, id: "barn", siteId: "nowhere" } as never)])).toMatchObject({
    kind: "refused",
    problems: [{ kind: "huts", field: "siteId" }],
  });
  expect(await change([plan.removePatch("sites", "east")])).toMatchObject({ kind: "refused" });
  expect(await change([set("huts", "refuge", { beds: 8 }), set("sites", "west", { colour: "red" })])).toMatchObject({
    kind: "kept",
  });
  expect(await change([set("huts", "refuge", { beds: 99 })])).toMatchObject({
    problems: [{ field: "beds", message: "must be at most 20" }],
  });
  const [entry] = await readHistory(store.db, "valley", { kind: "huts" as never });
  expect(entry!.patches).toEqual([
    { kind: "huts", id: "refuge", set: { beds: 8 }, was: { beds: 4 } },
    { kind: "sites", id: "west", set: { colour: "red" }, was: { colour: "white" } },
  ]);
  expect(await stepRecord(store.db, { planId: "valley", ...signedBy("Ana"), way: "undo" })).toMatchObject({
    kind: "kept",
  });
  const back = (await readPlan(store.db, "valley"))!;
  expect([huts(back), (back.sites.find(({ id }) => id === "west") as unknown as { colour: string }).colour]).toEqual([
    [HUT],
    "white",
  ]);
});

test("the logbook calls both by their words", () => {
  const kept = plan.withPatches(plan.worldOf(rows() as never), [put(HUT)]);
  const patches = [set("huts", "refuge", { beds: 8 }), set("sites", "west", { colour: "red" })];
  expect(describePatches(kept, plan.withPatches(kept, patches), patches)).toBe(
    "Refuge: beds 4 → 8; west: colour white → red and white bands",
  );
});

test("an archive carries both there and back", () => {
  const files = rowFiles({ ...rows(), huts: [HUT] } as never);
  expect(new TextDecoder().decode(files.get("sites.csv")).split("\r\n")[0]).toContain("colour");
  const back = readRowFiles(files, "valley");
  expect(huts(back)).toEqual([HUT]);
});

test("the register has the field as a column with its choices", () => {
  const column = COLUMNS.sites.at(-1)!;
  expect(column).toEqual({
    ...{ key: "colour", label: "Colour", type: "choice", choices: ["red", "white"], widthPx: 80, usual: true },
  });
  const [site] = rows().sites;
  expect(withCell("sites", site as never, column, "Red")).toMatchObject({ colour: "red" });
  expect(withCell("sites", site as never, column, "green")).toBe('west: Colour "green" must be one of red, white');
});
