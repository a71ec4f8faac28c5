import type { Place } from "#core/geodesy";
import { removePatch } from "#core/plan";
import { randomUUID } from "node:crypto";
import { execFileSync, spawnSync } from "node:child_process";
import { copyFileSync, existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { Readable } from "node:stream";
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import { fieldNoteSchema } from "#core/crews";
import { valley, valleySurface } from "#core/testing";
import { arraySurface, coverCode } from "#core/terrain";
import { ARCHIVE_VERSION, ArchiveError, MANIFEST } from "#formats/archive";
import { writeGeotiff } from "#formats/raster";
import { unzipWithin, zipFiles } from "#formats/zip";
import {
  archivePlan,
  jobOf,
  pauseWork,
  dropUpload,
  noRoomFor,
  receiveUpload,
  startWork,
  stopJob,
  submit,
  takeArchive,
  uploadPath,
  type JobTools,
  type JobView,
  type TerrainImport,
} from "#jobs";
import { stopPool } from "#pool";
import { terrain } from "./terrain";
import { profileFromWire } from "#wire";
import { planContext, stopEngine } from "#engine";
import type { StagingNote } from "#core/staging";
import {
  recordChange,
  signedBy,
  createPlan,
  deletePlan,
  listPlans,
  openStore,
  packLayer,
  readPlan,
  putStock,
  readStaging,
  readStock,
  readTiles,
  readVoice,
  writeStaging,
  type Store,
} from "#store";
import { begunDirectory } from "../store/testing";

const directory = await begunDirectory("jobs");
let store: Store;
/** A recording, by what it begins with. */
const SPOKEN = new TextEncoder().encode("OggS and what was said");
const quiet: JobTools = { progress: () => undefined, check: () => undefined, signal: new AbortController().signal };
const ENTRIES = { totalBytes: 1e9, entries: 1000 };

beforeAll(async () => {
  store = await openStore(directory);
  const { rows } = valley(0, (made) => {
    made.subscribers[0]!.notes = '=HYPERLINK("x")\nsecond line, with "quotes"';
    made.areas.push({
      id: "barn",
      planId: "valley",
      name: "Barn",
      kind: "building",
      heightM: 7.5,
      density: 1,
      rings: [
        [
          [20.05, -1],
          [20.051, -1],
          [20.051, -1.001],
          [20.05, -1],
        ],
      ],
    });
    made.outsiders.push({
      ...{
        id: "fish-farm",
        planId: "valley",
        name: "Fish farm",
        latDeg: -1.01,
        lonDeg: 20.1,
        heightM: 12,
        azimuthDeg: 45,
      },
      ...{ antennaModelId: null, frequencyMHz: 2437, widthMHz: 20, eirpDbm: 30, timeShare: 0.3, notes: "since spring" },
    });
    made.photos.push({
      id: "photo",
      planId: "valley",
      ownerKind: "site",
      ownerId: "west",
      name: "p.jpg",
      caption: "",
      takenAt: null,
      latDeg: null,
      lonDeg: null,
      widthPx: 4,
      heightPx: 4,
    });
  });
  const ground = valleySurface(30);
  const cells = ground.frame.columns * ground.frame.rows;
  const covered = arraySurface(
    ground.frame,
    Float32Array.from({ length: cells }, (_, i) => (i === 5 ? NaN : i / 32)),
    {
      heightM: new Float32Array(cells).fill(12.3),
      code: new Uint8Array(cells).fill(coverCode("wood", 0.5)),
    },
  );
  const bare = packLayer("valley", "bare", "bare", ground, "layer-a", "2026-01-01T00:00:00Z");
  const wood = packLayer("valley", "wood", "bare", covered, "layer-b", "2026-01-02T00:00:00Z");
  rows.layers.push(bare.layer, wood.layer);
  const note = fieldNoteSchema.parse({
    ...{ id: "note-0001", visitId: "job", side: "a", kind: "voice", value: 3, by: "Ana" },
    at: "2026-12-01T08:00:00.000Z",
  });
  const beside = { staging: [], stock: [], fieldNotes: [note], voices: new Map([[note.id, SPOKEN]]) };
  const bytes = {
    tiles: [bare, wood].flatMap(({ layer, tiles }) => tiles.map((tile) => ({ layerId: layer.id, ...tile }))),
    photos: [{ photoId: "photo", data: new Uint8Array([0xff, 0xd8, 1, 2, 3]) }],
  };
  await createPlan(store.db, rows, signedBy("test"), "Began", bytes, beside);
});
afterAll(async () => {
  await pauseWork(store);
  await stopPool();
  await stopEngine();
  await store.close();
  rmSync(directory, { recursive: true, force: true });
});

const ended = async ({ planId, id }: JobView): Promise<JobView> => {
  for (;;) {
    const job = (await jobOf(store, planId, id))!;
    if (job.state !== "running") return job;
    await new Promise((resolve) => setTimeout(resolve, 30));
  }
};

/** Makes a plan of the bytes of an archive, as if they had been received as a file. */
async function takeBytes(into: Store, archive: Uint8Array, author: ReturnType<typeof signedBy>, tools: typeof quiet) {
  const path = join(directory, "received.zip");
  writeFileSync(path, archive);
  return takeArchive(into, path, author, tools);
}

/** The version of an archive that is written now, as it stands in its manifest. */
const NOW = `"version": ${ARCHIVE_VERSION}`;

test("a plan's archive opens in an empty Tejado to the same plan, and its second archive is equal byte for byte", async () => {
  const note: StagingNote = {
    ...{ radioId: "sector", practiceRun: null, serial: "S-77", problem: "", foundFirmware: "4.2.1" },
    done: { password: { at: "2026-11-27T08:00:00.000Z", who: "Ana", note: "" } },
    found: { name: "north", frequencyMHz: 5500, timingGroup: null },
  };
  await writeStaging(store.db, "valley", note);
  await putStock(store.db, "valley", "brisote-vela-5", "ordered", 3);
  const first = await archivePlan(store, "valley", quiet);
  const elsewhere = await begunDirectory("elsewhere");
  const other = await openStore(elsewhere);
  try {
    const planId = await takeBytes(other, first, signedBy("Ana"), quiet);
    const [before, after] = [await readPlan(store.db, "valley"), await readPlan(other.db, planId)];
    const plain = (rows: unknown) => JSON.parse(JSON.stringify(rows).replaceAll(planId, "valley")) as unknown;
    expect(plain(after)).toEqual(plain(before));
    expect(await readTiles(other.db, planId, "layer-b")).toEqual(await readTiles(store.db, "valley", "layer-b"));
    expect(await readStaging(other.db, planId)).toEqual([note]);
    expect(await readVoice(other.db, planId, "note-0001")).toEqual({ visitId: "job", bytes: SPOKEN });
    expect(await readStock(other.db, planId)).toEqual(await readStock(store.db, "valley"));
    const second = await archivePlan(other, planId, quiet);
    const differing = [...unzipWithin(first, ENTRIES)].flatMap(([name, data]) =>
      Buffer.from(data).equals(Buffer.from(unzipWithin(second, ENTRIES).get(name) ?? [])) ? [] : [name],
    );
    expect(differing).toEqual([]);
    expect(Buffer.from(second).equals(Buffer.from(first))).toBe(true);
  } finally {
    await other.close();
    rmSync(elsewhere, { recursive: true, force: true });
  }
});

test("an archive of before channels had carriers opens to the same plan", async () => {
  const files = unzipWithin(await archivePlan(store, "valley", quiet), ENTRIES);
  const before = (await readPlan(store.db, "valley"))!;
  const channels = new Map(before.carriers.map((carrier) => [carrier.id, carrier]));
  const radios = before.radios.map((radio) => {
    const { frequencyMHz, widthMHz } = channels.get(radio.carrierId)!;
    return { ...radio, planId: undefined, carrierId: undefined, frequencyMHz, widthMHz };
  });
  const manifest = new TextDecoder().decode(files.get(MANIFEST)).replace(NOW, '"version": 1');
  const old = new Map(files);
  old.delete("carriers.json");
  old.delete("outsiders.json");
  old.set(MANIFEST, new TextEncoder().encode(manifest));
  old.set("radios.json", new TextEncoder().encode(JSON.stringify(radios)));
  const planId = await takeBytes(
    store,
    zipFiles(old, () => false),
    signedBy("Ana"),
    quiet,
  );
  const after = (await readPlan(store.db, planId))!;
  const plain = (rows: unknown) => JSON.parse(JSON.stringify(rows).replaceAll(planId, "valley")) as unknown;
  // Mounts were those beside the radios that are planned: two at the west, one at the east.
  const sites = before.sites.map((site) => ({
    ...site,
    freeMounts: site.freeMounts + before.radios.filter(({ siteId }) => siteId === site.id).length,
  }));
  expect(plain(after)).toEqual(plain({ ...before, sites, outsiders: [] }));
  await deletePlan(store.db, planId);
});

test("an archive of before carriers had power plans opens to the same plan", async () => {
  const files = unzipWithin(await archivePlan(store, "valley", quiet), ENTRIES);
  const edit = (name: string, change: (text: string) => string) =>
    files.set(name, new TextEncoder().encode(change(new TextDecoder().decode(files.get(name)))));
  edit(MANIFEST, (text) => text.replace(NOW, '"version": 2'));
  edit("carriers.json", (text) => text.replaceAll(',"arriveAtDbm":null,"downShare":null', ""));
  files.delete("outsiders.json");
  const archive = zipFiles(files, () => false);
  const planId = await takeBytes(store, archive, signedBy("Ana"), quiet);
  const [before, after] = [await readPlan(store.db, "valley"), await readPlan(store.db, planId)];
  expect(after!.carriers.map((carrier) => ({ ...carrier, planId: "valley" }))).toEqual(before!.carriers);
  await deletePlan(store.db, planId);
});

test("an archive that is broken, newer, or points at nothing is refused by name, and no plan is made", async () => {
  const files = unzipWithin(await archivePlan(store, "valley", quiet), ENTRIES);
  const edited = (name: string, change: (text: string) => string | null) => {
    const copy = new Map(files);
    const text = change(new TextDecoder().decode(files.get(name)));
    if (text === null) copy.delete(name);
    else copy.set(name, new TextEncoder().encode(text));
    return zipFiles(copy, () => false);
  };
  const refused: [Uint8Array, string][] = [
    [edited(MANIFEST, () => null), "the archive has no tejado-plan.json"],
    [edited(MANIFEST, (text) => text.replace(NOW, '"version": 99')), `version 99 is newer than ${ARCHIVE_VERSION}`],
    [edited("sites.csv", (text) => text.replace("-1,20,", "-95,20,")), "sites.csv, row 2: latDeg"],
    [
      edited("radios.json", (text) => text.replace('"siteId":"west"', '"siteId":"nowhere"')),
      "names nowhere, which the archive does not hold",
    ],
    [edited("links.json", (text) => text.slice(0, 40)), "links.json is no JSON"],
    [edited("terrain/layer-a-ground.tif", () => null), "the archive has no terrain/layer-a-ground.tif"],
    [edited("terrain/layer-a-ground.tif", () => "II*"), "the file"],
    [edited("photos/photo.jpg", () => null), "the archive has no photos/photo.jpg"],
    [edited("voices/note-0001", () => "MP3"), "voices/note-0001: byte 0: a WebM, Ogg or MP4 recording"],
  ];
  for (const [archive, message] of refused)
    await expect(takeBytes(store, archive, signedBy("Ana"), quiet)).rejects.toThrow(message);
  await expect(takeBytes(store, refused[0]![0], signedBy("Ana"), quiet)).rejects.toThrow(ArchiveError);
  expect(await listPlans(store.db)).toHaveLength(1);
  expect(readdirSync(directory).filter((name) => name.startsWith("plane-"))).toEqual([]);
});

const order = (files: TerrainImport["files"]): TerrainImport => ({
  author: signedBy("Ana"),
  kind: "bare",
  files,
  epsg: null,
  legend: null,
});
const importTerrain = (files: TerrainImport["files"], silenceMs?: number) =>
  submit(store, "terrain", "valley", "Terrain", { ...order(files), ...(silenceMs ? { silenceMs } : {}) });
const frame = { westDeg: 19.98, northDeg: -0.98, cellLonDeg: 0.0001, cellLatDeg: 0.0001, columns: 600, rows: 300 };

test("rasters are read by a worker and become layers in one change; profiles then cross them", async () => {
  const body = () => Readable.from([Buffer.from(writeGeotiff(frame, (x) => (x === 3 ? NaN : 99)))]);
  const files = [
    { uploadId: await receiveUpload(store, "ana", body()), name: "one.tif" },
    { uploadId: await receiveUpload(store, "ana", body()), name: "two.tif" },
  ];
  const done = await ended(await importTerrain(files));
  expect(done).toMatchObject({
    state: "done",
    message: expect.stringContaining("Took 2 rasters with 360000 cells; 600 cells are holes"),
  });
  const context = (await planContext(store, "valley"))!;
  expect((await context.load()).rows.layers.map(({ name }) => name).sort()).toEqual([
    "bare",
    "one.tif",
    "two.tif",
    "wood",
  ]);
  const pair: [Place, Place] = [
    { latDeg: -1, lonDeg: 19.985 },
    { latDeg: -1, lonDeg: 20.03 },
  ];
  const [wire] = await context.ask("profiles", { pairs: [pair] });
  const { groundAmslM, holes } = profileFromWire(wire!);
  expect([groundAmslM[40], holes]).toEqual([99, null]);
  expect(files.map(({ uploadId }) => uploadPath(store, uploadId))).toEqual([null, null]);
});

test("a raster that fails, or is stopped, leaves the terrain as it was and no tile behind", async () => {
  const before = (await readPlan(store.db, "valley"))!.layers;
  const good = {
    uploadId: await receiveUpload(store, "ana", Readable.from([Buffer.from(writeGeotiff(frame, () => 5))])),
    name: "good.tif",
  };
  const bad = {
    uploadId: await receiveUpload(store, "ana", Readable.from([Buffer.from("ncols 2\nnrows 2\nno")])),
    name: "bad.asc",
  };
  expect(await ended(await importTerrain([good, bad]))).toMatchObject({
    state: "failed",
    message:
      "bad.asc: the header has no cellsize, which a grid needs. Fetch the file again, or write it anew as a GeoTIFF in EPSG:4326, and bring it again. The terrain stays as it was.",
  });
  mkdirSync(join(directory, "uploads"), { recursive: true });
  const large = { uploadId: randomUUID(), name: "large.tif" };
  writeFileSync(
    join(directory, "large"),
    writeGeotiff({ ...frame, columns: 3000, rows: 3000 }, (x, y) => x * y),
  );
  copyFileSync(join(directory, "large"), join(directory, "uploads", large.uploadId));
  const job = await importTerrain([large]);
  expect(await stopJob(store, "valley", job.id)).toBe(true);
  expect(await ended(job)).toMatchObject({ state: "stopped" });
  expect((await readPlan(store.db, "valley"))!.layers).toEqual(before);
  const { rows } = await store.db.query<{ count: number }>(
    "SELECT count(DISTINCT layer_id)::int AS count FROM layer_tiles",
  );
  expect(rows[0]!.count).toBe(before.length);
});

test("a file is taken only where those that wait leave room for it, and the disk too", async () => {
  const id = await receiveUpload(store, "ana", Readable.from([Buffer.alloc(1000)]));
  expect(noRoomFor(store, "ana", 500, { leftFreeBytes: 0 })).toBeNull();
  expect(noRoomFor(store, "ana", 500, { waitingBytes: 1200, leftFreeBytes: 0 })).toMatch(
    /wait to be used already, and at most/,
  );
  // What one asker has waiting is counted against nobody else.
  expect(noRoomFor(store, "ana", 500, { askerBytes: 1200, leftFreeBytes: 0 })).toMatch(
    /^Files of yours of 0\.0 GB wait/,
  );
  expect(noRoomFor(store, "bea", 500, { askerBytes: 1200, leftFreeBytes: 0 })).toBeNull();
  expect(noRoomFor(store, "ana", 500, { leftFreeBytes: 1e18 })).toMatch(/must stay free; this file has 0\.0 GB/);
  dropUpload(store, id);
});

test("a reader that says nothing for too long is ended, with the file and the place", async () => {
  const before = (await readPlan(store.db, "valley"))!.layers;
  const slow = {
    uploadId: await receiveUpload(store, "ana", Readable.from([Buffer.from(writeGeotiff(frame, () => 5))])),
    name: "slow.tif",
  };
  expect(await ended(await importTerrain([slow], 1))).toMatchObject({
    state: "failed",
    message:
      "slow.tif: reading its header took longer than 0.001 s; the file is damaged there. Fetch the file again, or write it anew as a GeoTIFF in EPSG:4326, and bring it again. The terrain stays as it was.",
  });
  expect((await readPlan(store.db, "valley"))!.layers).toEqual(before);
});

const hasGdal = spawnSync("gdal_translate", ["--version"]).status === 0;
(hasGdal ? test : test.skip)(
  "flipped bits in packed rasters end in a message that names file and rows, and nothing is kept",
  async () => {
    const path = join(directory, "packed.tif");
    writeFileSync(
      path,
      writeGeotiff(frame, (x, y) => 100 + ((x * 7 + y * 13) % 50)),
    );
    const before = (await readPlan(store.db, "valley"))!.layers;
    for (const [compression, at] of [
      ["LZW", 0.3],
      ["LZW", 0.71],
      ["ZSTD", 0.5],
      ["ZSTD", 0.83],
      ["DEFLATE", 0.6],
    ] as const) {
      execFileSync("gdal_translate", ["-q", "-co", `COMPRESS=${compression}`, path, `${path}.packed.tif`]);
      const bytes = readFileSync(`${path}.packed.tif`);
      for (let i = 0; i < 40; i++) bytes[Math.floor(bytes.length * at) + i * 3]! ^= 0x5a;
      const damaged = { uploadId: await receiveUpload(store, "ana", Readable.from([bytes])), name: "damaged.tif" };
      const done = await ended(await importTerrain([damaged], 30_000));
      expect([compression, done.state]).toEqual([compression, "failed"]);
      expect(done.message).toMatch(/^damaged\.tif: .*(rows \d+ to \d+|strip \d+|field \d+)/);
      expect(done.message).not.toMatch(/undefined|\[object/);
    }
    expect((await readPlan(store.db, "valley"))!.layers).toEqual(before);
  },
);

(hasGdal ? test : test.skip)(
  "an archive with a damaged member is refused in words, whichever and wherever it is, and no plan is made",
  async () => {
    const plans = (await listPlans(store.db)).length;
    const files = unzipWithin(await archivePlan(store, "valley", quiet), ENTRIES);
    const raster = [...files.keys()].find((name) => name.endsWith("-ground.tif"))!;
    const path = join(directory, "member.tif");
    writeFileSync(path, files.get(raster)!);
    execFileSync("gdal_translate", ["-q", "-co", "COMPRESS=LZW", path, `${path}.lzw.tif`]);
    const packed = readFileSync(`${path}.lzw.tif`);
    const members: [name: string, bytes: Uint8Array][] = [
      ...[0.2, 0.5, 0.8].map((at): [string, Uint8Array] => {
        const bytes = Uint8Array.from(packed);
        for (let i = 0; i < 30; i++) bytes[Math.floor(bytes.length * at) + i * 3]! ^= 0xa5;
        return [raster, bytes];
      }),
      [raster, packed.subarray(0, packed.length >> 1)],
      [raster, new TextEncoder().encode("ncols 2\nnrows 2\nno")],
      ...["layers.json", "radios.json", "links.json"].map((name): [string, Uint8Array] => [
        name,
        files.get(name)!.subarray(0, files.get(name)!.length >> 1),
      ]),
    ];
    for (const [name, bytes] of members) {
      const archive = zipFiles(new Map([...files, [name, bytes]]), () => false);
      const refused = await takeBytes(store, archive, signedBy("Ana"), quiet).then(
        () => "taken",
        (error: unknown) => error,
      );
      expect(refused).toBeInstanceOf(ArchiveError);
      expect((refused as ArchiveError).message).toContain(name.replace(/^terrain\//, ""));
      expect((refused as ArchiveError).message).not.toMatch(/undefined|\[object|Zod|SyntaxError/);
    }
    expect(await listPlans(store.db)).toHaveLength(plans);
    expect(readdirSync(join(directory, "exports")).filter((name) => name.startsWith("unpacked-"))).toEqual([]);
  },
);

test("photographs go with their rows", async () => {
  const files = unzipWithin(await archivePlan(store, "valley", quiet), ENTRIES);
  expect([...files.keys()].filter((name) => name.startsWith("photos/"))).toEqual(["photos/photo.jpg"]);
  expect(existsSync(join(directory, "uploads"))).toBe(true);
  await recordChange(store.db, {
    planId: "valley",
    ...signedBy("Ana"),
    what: "Out",
    patches: [removePatch("photos", "photo")],
  });
  expect(unzipWithin(await archivePlan(store, "valley", quiet), ENTRIES).has("photos/photo.jpg")).toBe(false);
});

test("what is under way when the process ends goes on with the next one, and is kept once", async () => {
  const before = (await readPlan(store.db, "valley"))!;
  const raster = {
    uploadId: await receiveUpload(store, "ana", Readable.from([Buffer.from(writeGeotiff(frame, () => 42))])),
    name: "again.tif",
  };
  const job = await submit(store, "terrain", "valley", "Terrain", order([raster]));
  await pauseWork(store);
  expect(await jobOf(store, "valley", job.id)).toMatchObject({ state: "running" });
  await startWork(store);
  expect(await ended(job)).toMatchObject({ state: "done" });
  const after = (await readPlan(store.db, "valley"))!;
  expect(after.layers.map(({ name }) => name)).toEqual(
    expect.arrayContaining([...before.layers.map(({ name }) => name), "again.tif"]),
  );
  expect(after.layers).toHaveLength(before.layers.length + 1);
});

const waysOut = () =>
  submit(store, "search", "valley", "Ways out", {
    patches: [],
    ask: { linkId: "bridge", moveAM: 200, moveBM: 0, mastM: 0 },
  });
const triesOf = async ({ id }: JobView) =>
  (await store.db.query<{ tries: number }>("SELECT tries FROM jobs WHERE id = $1", [id])).rows[0]!.tries;

test("a job over which the process died twice is given up, and says so; an end in good order is no death", async () => {
  const job = await waysOut();
  await pauseWork(store);
  expect(await triesOf(job)).toBe(0);
  await store.db.query("UPDATE jobs SET tries = 2 WHERE id = $1", [job.id]);
  await startWork(store);
  expect(await ended(job)).toMatchObject({
    state: "failed",
    message: expect.stringContaining("Tejado ended 2 times while it worked on this"),
  });
});

test("a job that was at work at a death is tried once more, with nothing beside it", async () => {
  const jobs = [await waysOut(), await waysOut(), await waysOut()];
  await pauseWork(store);
  const suspect = jobs[1]!;
  await store.db.query("UPDATE jobs SET tries = 1 WHERE id = $1", [suspect.id]);
  const deeds: string[] = [];
  const told = store.db;
  store.db = {
    ...told,
    query: (sql, parameters) => {
      const deed = /^UPDATE jobs SET state = ('running'|\$2)/.exec(sql)?.[1];
      if (deed) deeds.push(`${deed === "$2" ? "ends" : "begins"} ${parameters![0] as string}`);
      return told.query(sql, parameters);
    },
  } as typeof told;
  await startWork(store);
  for (const job of jobs) expect(await ended(job)).toMatchObject({ state: "done" });
  store.db = told;
  const from = deeds.indexOf(`begins ${suspect.id}`);
  expect(deeds[from + 1]).toBe(`ends ${suspect.id}`);
  const before = deeds.slice(0, from).map((deed) => deed.split(" ")[0]);
  expect(before.filter((deed) => deed === "begins")).toHaveLength(before.filter((deed) => deed === "ends").length);
  expect(await triesOf(suspect)).toBe(2);
});

test("an import that was kept before its process died is not read again, and loses nothing", async () => {
  const file = {
    uploadId: await receiveUpload(store, "ana", Readable.from([Buffer.from(writeGeotiff(frame, () => 17))])),
    name: "kept.tif",
  };
  const tools: JobTools = { ...quiet };
  const job = { id: randomUUID(), planId: "valley", order: order([file]) };
  const first = await terrain.work(store, job, tools);
  const { layers } = (await readPlan(store.db, "valley"))!;
  const { id } = layers.find(({ name }) => name === "kept.tif")!;
  const tiles = await readTiles(store.db, "valley", id);
  expect(uploadPath(store, file.uploadId)).toBeNull();
  // Its file is gone, and so it would be in the next process.
  expect(await terrain.work(store, job, tools)).toEqual(first);
  await terrain.clear!(store, job);
  expect((await readPlan(store.db, "valley"))!.layers).toEqual(layers);
  expect(await readTiles(store.db, "valley", id)).toEqual(tiles);
});

test("what was kept before anybody could stop it is told as done", async () => {
  const file = {
    uploadId: await receiveUpload(store, "ana", Readable.from([Buffer.from(writeGeotiff(frame, () => 23))])),
    name: "late.tif",
  };
  const { db } = store;
  const job = await importTerrain([file]);
  let isStopped = false;
  // Somebody stops it in the moment after its layer became part of the plan.
  store.db = {
    ...db,
    transaction: async (work) => {
      const done = await db.transaction(work);
      const { rows } = await db.query("SELECT 1 FROM layers WHERE plan_id = 'valley' AND name = 'late.tif'");
      if (rows.length > 0 && !isStopped) isStopped = await stopJob(store, "valley", job.id);
      return done;
    },
  };
  try {
    expect(await ended(job)).toMatchObject({ state: "done", message: "Took 1 raster with 180000 cells." });
  } finally {
    store.db = db;
  }
  expect(isStopped).toBe(true);
});
