import { spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { createInterface } from "node:readline";
import { beforeAll, expect, test } from "@jest/globals";
import { putPatch } from "#core/plan";
import { valley, valleySurface } from "#core/testing";
import { groundIn, tiledSurface } from "#core/terrain";
import { decodeTile } from "#ground";
import {
  createPlan,
  DataDirectoryBusy,
  deletePlan,
  dropStrayTiles,
  dropTiles,
  listPlans,
  openStore,
  frameOf,
  packLayer,
  readCoverage,
  readHistory,
  readPhoto,
  readPlan,
  readTiles,
  recordChange,
  signedBy,
  stageTiles,
  stepRecord,
  writeCoverage,
} from "#store";
import { onBothDrivers } from "./testing/drivers";
import { begunDirectory } from "./testing";

const ana = signedBy("Ana");

onBothDrivers(({ store, second }) => {
  beforeAll(() => createPlan(store().db, valley().rows, signedBy("test"), "Began"));

  test("a plan reads back as it was written", async () => {
    const { rows } = valley();
    const back = (await readPlan(store().db, "valley"))!;
    const sorted = <T extends { id: string }>(list: T[]) => [...list].sort((x, y) => x.id.localeCompare(y.id));
    expect(back.plan).toEqual(rows.plan);
    for (const kind of ["radios", "carriers", "equipment", "links", "sites", "subscribers"] as const)
      expect(sorted<{ id: string }>(back[kind])).toEqual(sorted<{ id: string }>(rows[kind]));
    expect(await listPlans(store().db)).toMatchObject([
      { id: "valley", siteCount: 2, subscriberCount: 1, linkCount: 2 },
    ]);
  });

  test("losses of a coverage are found under their key, the least used go first, and all go with their plan", async () => {
    const { db } = store();
    const bytes = (n: number) => Uint8Array.of(n & 255, n >> 8, 7);
    expect(await readCoverage(db, "valley", "k0")).toBeNull();
    for (const n of [0, 1, 2]) await writeCoverage(db, "valley", `k${n}`, bytes(n), 3);
    expect(await readCoverage(db, "valley", "k0")).toEqual(bytes(0));
    await writeCoverage(db, "valley", "k3", bytes(3), 3);
    expect(await readCoverage(db, "valley", "k1")).toBeNull();
    expect(await readCoverage(db, "valley", "k0")).toEqual(bytes(0));
    await writeCoverage(db, "valley", "k0", bytes(900), 3);
    expect(await readCoverage(db, "valley", "k0")).toEqual(bytes(900));
    expect(await readCoverage(db, "other", "k0")).toBeNull();
  });

  test("terrain keeps its heights and its holes, and undo leaves the tiles for redo", async () => {
    const { db } = store();
    const surface = valleySurface(50);
    const { layer, tiles } = packLayer("valley", "made", "bare", surface);
    await stageTiles(db, "valley", layer.id, tiles, false);
    await recordChange(db, { planId: "valley", ...ana, what: "Terrain", patches: [putPatch("layers", layer)] });
    const rows = (await readPlan(db, "valley"))!;
    const packed = await readTiles(db, "valley", layer.id);
    const unpacked = new Map(packed.map(({ index, data }) => [index, decodeTile(data)]));
    const back = tiledSurface(frameOf(rows.layers[0]!), unpacked);
    expect(back.frame).toEqual(surface.frame);
    for (let column = 0; column < 500; column += 17)
      expect(groundIn(back, column, 60)).toBe(groundIn(surface, column, 60));
    await stepRecord(db, { planId: "valley", ...ana, way: "undo" });
    await dropStrayTiles(db);
    await stepRecord(db, { planId: "valley", ...ana, way: "redo" });
    expect(await readTiles(db, "valley", layer.id)).toHaveLength(tiles.length);
  });

  test("tiles of an import under way are nobody's rubbish; those of one that died long ago are", async () => {
    const { db } = store();
    const { tiles } = packLayer("valley", "made", "bare", valleySurface(50));
    await stageTiles(db, "valley", "under way", tiles.slice(0, 2), false);
    await stageTiles(db, "valley", "died", tiles.slice(0, 2), false);
    await db.query("UPDATE imports SET touched_at = now() - interval '2 hours' WHERE layer_id = 'died'");
    await dropStrayTiles(db);
    expect(await readTiles(db, "valley", "under way")).toHaveLength(2);
    expect(await readTiles(db, "valley", "died")).toEqual([]);
    await dropTiles(db, "valley", "under way");
    expect(await readTiles(db, "valley", "under way")).toEqual([]);
    expect((await db.query("SELECT * FROM imports")).rows).toEqual([]);
  });

  test("a photograph's bytes and its row are kept together, or neither is", async () => {
    const { db } = store();
    const photo = {
      id: "p1",
      planId: "valley",
      ownerKind: "site" as const,
      ownerId: "west",
      name: "mast",
      caption: "",
      takenAt: null,
      latDeg: null,
      lonDeg: null,
      widthPx: 4,
      heightPx: 3,
    };
    const data = new Uint8Array([1, 2, 250]);
    const keep = (ownerId: string, id: string) =>
      recordChange(db, {
        planId: "valley",
        ...ana,
        what: "Photograph",
        patches: [putPatch("photos", { ...photo, id, ownerId })],
        bytes: { tiles: [], photos: [{ photoId: id, data }] },
      });
    expect(await keep("west", "p1")).toMatchObject({ kind: "kept" });
    expect(await readPhoto(db, "valley", "p1")).toEqual(data);
    expect(await keep("nowhere", "p2")).toMatchObject({ kind: "refused" });
    expect(await readPhoto(db, "valley", "p2")).toBeNull();
  });

  test("what one process says the others hear", async () => {
    const other = second ? await second() : store();
    const heard: string[] = [];
    let tell = () => undefined as void;
    const told = new Promise<void>((resolve) => (tell = resolve));
    const stop = await other.db.listen("tejado_test", (payload) => {
      heard.push(payload);
      tell();
    });
    await store().db.notify("tejado_test", "valley 7");
    await told;
    await stop();
    expect(heard).toEqual(["valley 7"]);
    if (second) await other.close();
  });

  test("a snapshot sees one moment and writes nothing", async () => {
    const { db } = store();
    await expect(db.snapshot((tx) => tx.query("UPDATE plans SET name = 'x'"))).rejects.toThrow("read-only");
    const count = async (tx: Parameters<Parameters<typeof db.snapshot>[0]>[0]) =>
      (await tx.query<{ n: number }>("SELECT count(*)::int AS n FROM sites")).rows[0]!.n;
    expect(await db.snapshot(count)).toBe(2);
  });

  test("a deleted plan leaves nothing", async () => {
    const { db } = store();
    const rows = valley().rows;
    const renamed = JSON.parse(JSON.stringify(rows).replaceAll('"planId":"valley"', '"planId":"other"')) as typeof rows;
    renamed.plan.id = "other";
    await createPlan(db, renamed, signedBy("test"), "Began");
    await deletePlan(db, "other");
    expect(await readPlan(db, "other")).toBeNull();
    expect(await readHistory(db, "other")).toEqual([]);
  });
});

test("a second holder of the data directory is refused", async () => {
  const directory = mkdtempSync(join(tmpdir(), "tejado-held-"));
  const store = await openStore(directory);
  await expect(openStore(directory)).rejects.toThrow(DataDirectoryBusy);
  await store.close();
  rmSync(directory, { recursive: true, force: true });
});

test("after kill -9 in the middle of writes every acknowledged change is there", async () => {
  const crashDirectory = await begunDirectory("crash");
  let acknowledged = 0;
  for (let round = 0; round < 2; round++) {
    const child = spawn(
      process.execPath,
      ["--import", "tsx", "store/testing/writer.ts", crashDirectory, String(acknowledged)],
      {
        stdio: ["ignore", "pipe", "inherit"],
        detached: true,
      },
    );
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
