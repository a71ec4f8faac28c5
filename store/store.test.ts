import { spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { createInterface } from "node:readline";
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import { radio, valley, valleySurface } from "#core/testing";
import {
  applyChange,
  BrokenReference,
  createPlan,
  DataDirectoryBusy,
  deletePlan,
  historySteps,
  listPlans,
  openStore,
  readHistory,
  readPlan,
  dropStrayTiles,
  readTerrain,
  readTiles,
  stepHistory,
  packLayer,
  writeTiles,
  type Store,
} from "#store";

const directory = mkdtempSync(join(tmpdir(), "tejado-store-"));
let store: Store;
beforeAll(async () => {
  store = await openStore(directory);
  await createPlan(store.db, valley().rows, "test", "Began");
}, 60_000);
afterAll(async () => {
  await store.close();
  rmSync(directory, { recursive: true, force: true });
});

const site = () => valley().rows.sites[0]!;
const rename = (name: string) =>
  applyChange(store.db, {
    planId: "valley",
    who: "Ana",
    what: `Named it ${name}`,
    reason: "because",
    edits: [{ kind: "sites", id: "west", row: { ...site(), name } }],
  });
const nameNow = async () => (await readPlan(store.db, "valley"))!.sites.find(({ id }) => id === "west")!.name;

test("a plan reads back as it was written", async () => {
  const { rows } = valley();
  const back = (await readPlan(store.db, "valley"))!;
  const sorted = <T extends { id: string }>(list: T[]) => [...list].sort((x, y) => x.id.localeCompare(y.id));
  expect(back.plan).toEqual(rows.plan);
  expect(sorted(back.radios)).toEqual(sorted(rows.radios));
  expect(sorted(back.equipment)).toEqual(sorted(rows.equipment));
  expect(await listPlans(store.db)).toMatchObject([{ id: "valley", siteCount: 2, subscriberCount: 1, linkCount: 2 }]);
});

test("a change carries who, what, why, before and after; undo and redo walk it, and a new change ends redo", async () => {
  await rename("Uno");
  await rename("Dos");
  const [entry] = await readHistory(store.db, "valley");
  expect(entry).toMatchObject({
    who: "Ana",
    what: "Named it Dos",
    reason: "because",
    kind: "change",
    edits: [{ kind: "sites", id: "west", before: { name: "Uno" }, after: { name: "Dos" } }],
  });
  expect(await stepHistory(store.db, "valley", "Ana", "undo")).toBe("Named it Dos");
  expect(await nameNow()).toBe("Uno");
  expect(await stepHistory(store.db, "valley", "Ana", "undo")).toBe("Named it Uno");
  expect(await nameNow()).toBe("west");
  expect(await stepHistory(store.db, "valley", "Ana", "undo")).toBeNull();
  await stepHistory(store.db, "valley", "Ana", "redo");
  expect(await nameNow()).toBe("Uno");
  await rename("Tres");
  expect(await historySteps(store.db, "valley")).toEqual({ undo: "Named it Tres", redo: null });
  expect((await readHistory(store.db, "valley")).map(({ kind }) => kind)).toEqual([
    "change",
    "redo",
    "undo",
    "undo",
    "change",
    "change",
    "change",
  ]);
});

test("a change that would break a reference or a bound is refused whole", async () => {
  const edits = [{ kind: "radios" as const, id: "lost", row: radio("lost", { siteId: "nowhere" }) }];
  await expect(applyChange(store.db, { planId: "valley", who: "Ana", what: "x", edits })).rejects.toThrow(
    BrokenReference,
  );
  const bad = [
    { kind: "sites" as const, id: "west", row: { ...site(), name: "kept?" } },
    { kind: "sites" as const, id: "east", row: { ...site(), id: "east", latDeg: 91 } },
  ];
  await expect(applyChange(store.db, { planId: "valley", who: "Ana", what: "x", edits: bad })).rejects.toThrow(
    "latDeg",
  );
  expect(await nameNow()).not.toBe("kept?");
  await expect(
    applyChange(store.db, {
      planId: "valley",
      who: "Ana",
      what: "x",
      edits: [{ kind: "sites", id: "west", row: { ...site(), planId: "other" } }],
    }),
  ).rejects.toThrow("another plan");
});

test("removing a link and its radios in one change can be taken back", async () => {
  const edits = [
    { kind: "radios" as const, id: "farm-radio", row: null },
    { kind: "links" as const, id: "access", row: null },
  ];
  await applyChange(store.db, { planId: "valley", who: "Ana", what: "Removed", edits });
  expect((await readPlan(store.db, "valley"))!.links).toHaveLength(1);
  await stepHistory(store.db, "valley", "Ana", "undo");
  expect((await readPlan(store.db, "valley"))!.links).toHaveLength(2);
});

test("terrain keeps its heights and its holes", async () => {
  const surface = valleySurface(50);
  const { layer, tiles } = packLayer("valley", "made", "bare", surface);
  await writeTiles(store.db, "valley", layer.id, tiles);
  await applyChange(store.db, {
    planId: "valley",
    who: "Ana",
    what: "Terrain",
    edits: [{ kind: "layers", id: layer.id, row: layer }],
  });
  const rows = (await readPlan(store.db, "valley"))!;
  const back = (await readTerrain(store.db, rows.layers, [])).layers[0]!.surface;
  expect(back.frame).toEqual(surface.frame);
  for (let column = 0; column < 500; column += 17)
    expect(back.groundAmslM(column, 60)).toBe(surface.groundAmslM(column, 60));
  // Undo takes the layer out and leaves its tiles, so that redo needs no file.
  await stepHistory(store.db, "valley", "Ana", "undo");
  await writeTiles(store.db, "valley", "nobody's", tiles);
  await dropStrayTiles(store.db);
  expect(await readTiles(store.db, "valley", "nobody's")).toEqual([]);
  await stepHistory(store.db, "valley", "Ana", "redo");
  expect(await readTiles(store.db, "valley", layer.id)).toHaveLength(tiles.length);
});

test("a second holder of the data directory is refused", async () => {
  await expect(openStore(directory)).rejects.toThrow(DataDirectoryBusy);
});

test("a deleted plan leaves nothing", async () => {
  const rows = valley().rows;
  const renamed = JSON.parse(JSON.stringify(rows).replaceAll('"planId":"valley"', '"planId":"other"')) as typeof rows;
  renamed.plan.id = "other";
  await createPlan(store.db, renamed, "test", "Began");
  await deletePlan(store.db, "other");
  expect(await readPlan(store.db, "other")).toBeNull();
  expect(await readHistory(store.db, "other")).toEqual([]);
});

test("after kill -9 in the middle of writes every acknowledged change is there", async () => {
  const crashDirectory = mkdtempSync(join(tmpdir(), "tejado-crash-"));
  let acknowledged = 0;
  for (let round = 0; round < 3; round++) {
    const child = spawn("npx", ["tsx", "store/testing/writer.ts", crashDirectory, String(acknowledged)], {
      stdio: ["ignore", "pipe", "inherit"],
      detached: true,
    });
    const goal = acknowledged + 12 + round * 5;
    await new Promise<void>((resolve) => {
      createInterface({ input: child.stdout }).on("line", (line) => {
        acknowledged = Number(line);
        if (acknowledged === goal) process.kill(-child.pid!, "SIGKILL");
      });
      child.once("close", () => resolve());
    });
    const again = await openStore(crashDirectory);
    const rows = (await readPlan(again.db, "valley"))!;
    const written = Number(rows.sites.find(({ id }) => id === "west")!.notes);
    const entries = await readHistory(again.db, "valley", { limit: 1000 });
    // The write that was under way may have been finished unheard; a change never stands without its entry.
    expect(written).toBeGreaterThanOrEqual(acknowledged);
    expect(entries.filter(({ what }) => what.startsWith("Write ")).map(({ what }) => Number(what.slice(6)))).toEqual(
      Array.from({ length: written }, (_, i) => written - i),
    );
    acknowledged = written;
    await again.close();
  }
  rmSync(crashDirectory, { recursive: true, force: true });
}, 120_000);
