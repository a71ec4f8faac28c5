import { readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { gzipSync } from "node:zlib";
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import { pack as tarPack } from "tar-stream";
import { removePatch, setPatch } from "#core/plan";
import { valley } from "#core/testing";
import {
  backUp,
  backUpDaily,
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
  signedBy,
  stepRecord,
  type Store,
} from "#store";
import { begunDirectory } from "./testing";

const directory = await begunDirectory("versions");
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
  const { path, ...found } = await backUp(store);
  expect(listBackups(store)).toHaveLength(1);
  expect(found.entries).toBeGreaterThan(500);
  expect(found.bytes).toBeGreaterThan(10_000_000);
  expect(backupPath(store, "../db")).toBeNull();
  await rename("After the backup");
  const broken = join(directory, "broken.tar.gz");
  const cut = readFileSync(path).subarray(0, 200_000);
  for (const content of ["no archive at all", "\x1f\x8b\x08broken", cut]) {
    writeFileSync(broken, content);
    await expect(restore(store, broken)).rejects.toThrow("the file is damaged, cut off, or no backup. The data stay");
    expect((await siteNow()).name).toBe("After the backup");
  }
  await restore(store, path);
  expect((await siteNow()).name).toBe("Before the backup");
  await rename("Written after the restore");
  expect(readdirSync(directory)).toContain("db-before-restore");
  expect(readdirSync(directory)).not.toContain("db-restoring");
}, 60_000);

test("a bomb is refused at its bound, and what holds no database by name", async () => {
  const file = join(directory, "bomb.tar.gz");
  const packed = async (entries: [name: string, bytes: Uint8Array][]) => {
    const pack = tarPack();
    for (const [name, bytes] of entries) pack.entry({ name }, Buffer.from(bytes));
    pack.finalize();
    const parts: Uint8Array[] = [];
    for await (const part of pack as AsyncIterable<Uint8Array>) parts.push(part);
    return gzipSync(Buffer.concat(parts));
  };
  const most = 512 * 2 ** 20;
  // Headers claim what never comes: the claim alone is enough to be refused.
  const claims = Buffer.alloc(1024);
  claims.write("PG_VERSION\0", 0, "latin1");
  claims.write("0000644\0", 100, "latin1");
  claims.write((most * 2).toString(8).padStart(11, "0"), 124, "latin1");
  claims.write("ustar\x0000", 257, "latin1");
  claims.fill(" ", 148, 156);
  const sum = claims.subarray(0, 512).reduce((all, byte) => all + byte, 0);
  claims.write(`${sum.toString(8).padStart(6, "0")}\0 `, 148, "latin1");
  writeFileSync(file, gzipSync(claims));
  await expect(restore(store, file)).rejects.toThrow("which no backup does");
  writeFileSync(file, await packed([["readme.txt", new Uint8Array(10)]]));
  await expect(restore(store, file)).rejects.toThrow("the file holds no database. The data stay as they were.");
});

test("under a passphrase a backup is sealed, and opens by that passphrase alone", async () => {
  process.env.TEJADO_BACKUP_PASSPHRASE = "north of the ridge";
  try {
    const { path, name } = await backUp(store);
    expect(name).toMatch(/\.tar\.gz\.sealed$/);
    expect(listBackups(store).map((one) => one.name)).toContain(name);
    expect(readFileSync(path).includes("PG_VERSION")).toBe(false);
    await rename("After the sealed backup");
    process.env.TEJADO_BACKUP_PASSPHRASE = "another";
    await expect(restore(store, path)).rejects.toThrow("sealed with another passphrase");
    process.env.TEJADO_BACKUP_PASSPHRASE = "";
    await expect(restore(store, path)).rejects.toThrow("TEJADO_BACKUP_PASSPHRASE");
    process.env.TEJADO_BACKUP_PASSPHRASE = "north of the ridge";
    await restore(store, path);
    expect((await siteNow()).name).not.toBe("After the sealed backup");
  } finally {
    delete process.env.TEJADO_BACKUP_PASSPHRASE;
  }
}, 60_000);

test("one backup a day is made and the last seven are kept", async () => {
  const day = (number: number) => new Date(Date.UTC(2026, 10, number, 3));
  const before = listBackups(store).length;
  expect(await backUpDaily(store, day(1))).toMatchObject({ name: "tejado-daily-2026-11-01T03-00-00-000Z.tar.gz" });
  expect(await backUpDaily(store, new Date(day(1).getTime() + 23 * 3600 * 1000))).toBeNull();
  // Those of earlier days as they would lie there.
  const folder = join(directory, "backups");
  for (let number = 20; number <= 26; number++)
    writeFileSync(join(folder, `tejado-daily-2026-10-${number}T03-00-00-000Z.tar.gz`), "");
  await backUpDaily(store, day(2));
  const daily = listBackups(store).filter(({ name }) => name.startsWith("tejado-daily-"));
  expect(daily.map(({ name }) => name.slice(13, 23)).sort()).toEqual([
    ...["2026-10-22", "2026-10-23", "2026-10-24", "2026-10-25", "2026-10-26", "2026-11-01", "2026-11-02"],
  ]);
  expect(listBackups(store).length - daily.length).toBe(before);
}, 60_000);
