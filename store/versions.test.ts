import { mkdtempSync, readdirSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import { removePatch, setPatch } from "#core/plan";
import { valley } from "#core/testing";
import {
  backUp,
  backupPath,
  createPlan,
  patchesBetween,
  historyPeople,
  listBackups,
  listVersions,
  nameVersion,
  openStore,
  readHistory,
  readPlan,
  readVersion,
  recordChange,
  restore,
  RestoreRefused,
  signedBy,
  stepRecord,
  type Store,
} from "#store";

const directory = mkdtempSync(join(tmpdir(), "tejado-versions-"));
let store: Store;
beforeAll(async () => {
  store = await openStore(directory);
  await createPlan(store.db, valley().rows, signedBy("test"), "Began");
});
afterAll(async () => {
  await store.close();
  rmSync(directory, { recursive: true, force: true });
});

const siteNow = async () => (await readPlan(store.db, "valley"))!.sites.find(({ id }) => id === "west")!;
const ana = signedBy("Ana");
const rename = async (name: string, who = "Ana") =>
  recordChange(store.db, {
    planId: "valley",
    ...signedBy(who),
    what: `Renamed to ${name}`,
    reason: "why not",
    patches: [setPatch("sites", "west", { name })],
  });

test("a named version is compared with later states and gone back to in one change", async () => {
  await nameVersion(store.db, "valley", "first", "Ana");
  await rename("Alto");
  const removed = removePatch("links", "access");
  await recordChange(store.db, { planId: "valley", ...ana, what: "Out", patches: [removed] });
  const [version] = await listVersions(store.db, "valley");
  const then = (await readVersion(store.db, "valley", version!.id))!;
  const now = (await readPlan(store.db, "valley"))!;
  expect(patchesBetween(then, then)).toEqual([]);
  expect(patchesBetween(then, now).map(({ kind, id, remove }) => [kind, id, remove === true])).toEqual([
    ["sites", "west", false],
    ["links", "access", true],
  ]);
  await recordChange(store.db, { planId: "valley", ...ana, what: "Back", patches: patchesBetween(now, then) });
  expect(await readPlan(store.db, "valley")).toEqual(then);
  await stepRecord(store.db, { planId: "valley", ...ana, way: "undo" });
  expect(await readPlan(store.db, "valley")).toEqual(now);
  expect(await readVersion(store.db, "valley", "none")).toBeNull();
});

test("the logbook is filtered by words, person and kind of thing, page by page", async () => {
  await rename("Bajo", "Bea");
  expect(await historyPeople(store.db, "valley")).toEqual(["Ana", "Bea", "test"]);
  const whats = async (filter: Parameters<typeof readHistory>[2]) =>
    (await readHistory(store.db, "valley", filter)).map(({ what }) => what);
  expect(await whats({ who: "Bea" })).toEqual(["Renamed to Bajo"]);
  expect(await whats({ words: "RENAMED" })).toEqual(["Renamed to Bajo", "Renamed to Alto"]);
  expect(await whats({ words: "why", who: "Ana" })).toEqual(["Renamed to Alto"]);
  expect(await whats({ kind: "links" })).toEqual(["Back", "Back", "Out"]);
  const [first] = await readHistory(store.db, "valley", { limit: 1 });
  expect(await whats({ beforeRevision: first!.revision, limit: 1 })).toEqual(["Back"]);
});

test("a backup restores what stood there; a file that is none leaves the data as they are", async () => {
  await rename("Before the backup");
  const path = await backUp(store);
  expect(listBackups(store)).toHaveLength(1);
  expect(backupPath(store, "../db")).toBeNull();
  await rename("After the backup");
  const broken = join(directory, "broken.tar.gz");
  for (const content of ["no archive at all", "\x1f\x8b\x08broken"]) {
    writeFileSync(broken, content);
    await expect(restore(store, broken)).rejects.toThrow(RestoreRefused);
    expect((await siteNow()).name).toBe("After the backup");
  }
  await restore(store, path);
  expect((await siteNow()).name).toBe("Before the backup");
  await rename("Written after the restore");
  expect(readdirSync(directory)).toContain("db-before-restore");
  expect(readdirSync(directory)).not.toContain("db-restoring");
}, 60_000);
