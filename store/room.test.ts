import { spawnSync } from "node:child_process";
import { randomBytes } from "node:crypto";
import { mkdirSync, mkdtempSync, rmSync, statfsSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, test } from "@jest/globals";
import { putPatch, setPatch } from "#core/plan";
import { valley } from "#core/testing";
import { createPlan, NoRoom, openStore, readPlan, recordChange, signedBy, type Store } from "#store";
import { begunDirectory } from "./testing";

const MB = 1024 * 1024;
const ana = signedBy("Ana");
const write = (store: Store, notes: string) =>
  recordChange(store.db, { planId: "valley", ...ana, what: "Note", patches: [setPatch("sites", "west", { notes })] });
const notes = async (store: Store) =>
  (await readPlan(store.db, "valley"))!.sites.find(({ id }) => id === "west")!.notes;

test("with too little room a change is refused in words, reading goes on, and it recovers when there is room again", async () => {
  const directory = await begunDirectory("room");
  let free = 500 * MB;
  const store = await openStore(directory, { freeSpace: () => free });
  await createPlan(store.db, valley().rows, ana, "Began");
  await write(store, "kept");
  free = 20 * MB;
  await expect(write(store, "lost?")).rejects.toThrow(NoRoom);
  expect(store.roomProblem()).toMatch(/^The disk has \d+ MB left/);
  await expect(write(store, "lost?")).rejects.toThrow("The disk has 20 MB left");
  expect(await notes(store)).toBe("kept");
  free = 500 * MB;
  expect(await write(store, "kept again")).toMatchObject({ kind: "kept" });
  expect(await notes(store)).toBe("kept again");
  await store.close();
  free = 20 * MB;
  await expect(openStore(directory, { freeSpace: () => free })).rejects.toThrow(NoRoom);
  free = 500 * MB;
  const again = await openStore(directory, { freeSpace: () => free });
  expect(await notes(again)).toBe("kept again");
  await again.close();
  rmSync(directory, { recursive: true, force: true });
}, 60_000);

/** Keeps a photograph of half a megabyte that nothing can pack. */
const photograph = (store: Store, id: string) =>
  recordChange(store.db, {
    planId: "valley",
    ...ana,
    what: "Photograph",
    patches: [
      putPatch("photos", {
        ...{ id, planId: "valley", ownerKind: "site", ownerId: "west", name: id, caption: "" },
        ...{ takenAt: null, latDeg: null, lonDeg: null, widthPx: 4, heightPx: 3 },
      }),
    ],
    bytes: { tiles: [], photos: [{ photoId: id, data: randomBytes(500_000) }] },
  });

const mount = mkdtempSync(join(tmpdir(), "tejado-small-"));
const mayMount = spawnSync("mount", ["-t", "tmpfs", "-o", "size=400m", "tmpfs", mount]).status === 0;
(mayMount ? test : test.skip)(
  "on a small disk that fills up writers are refused before the database can hang, and go on when there is room",
  async () => {
    try {
      const directory = join(mount, "data");
      mkdirSync(directory);
      const store = await openStore(directory);
      await createPlan(store.db, valley().rows, ana, "Began");
      // Somebody else fills the disk; our own log must never be what finds it full.
      const { bavail, bsize } = statfsSync(mount);
      writeFileSync(join(mount, "filler"), Buffer.alloc(bavail * bsize - 100 * MB));
      let kept = 0;
      let refused: unknown = null;
      while (!refused && kept < 500)
        await photograph(store, `photo-${kept + 1}`).then(
          () => void kept++,
          (error: unknown) => (refused = error),
        );
      expect(refused).toBeInstanceOf(NoRoom);
      expect((await readPlan(store.db, "valley"))!.photos).toHaveLength(kept);
      rmSync(join(mount, "filler"));
      expect(await write(store, "room again")).toMatchObject({ kind: "kept" });
      await store.close();
      const again = await openStore(directory);
      expect(await notes(again)).toBe("room again");
      await again.close();
    } finally {
      spawnSync("umount", ["-l", mount]);
      rmSync(mount, { recursive: true, force: true });
    }
  },
  180_000,
);
