import { randomUUID } from "node:crypto";
import { rmSync } from "node:fs";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { withPatches, worldOf, type Area, type Layer } from "#core/plan";
import { searchWaysOut, type SearchResult } from "#core/search";
import { readGround, sampleProfile } from "#core/terrain";
import { groundOver, shareTiles } from "#ground";
import { radioIn, town, valley, valleySurface } from "#core/testing";
import { stopEngine } from "#engine";
import {
  jobOf,
  optimizeTitle,
  pauseWork,
  searchResult,
  searchTitle,
  stopJob,
  submit,
  type OptimizeResult,
  type SitesAsk,
  type SitesResult,
} from "#jobs";
import { askView } from "#pool";
import { planContext } from "#engine";
import { Stopped, stopPool } from "#pool";
import { createPlan, frameOf, openStore, packLayer, readPlan, readTiles, signedBy, type Store } from "#store";
import { optimize } from "./optimize";
import { PAUSED, type JobTools } from "./tools";
import { begunDirectory } from "../store/testing";

const directory = await begunDirectory("searches");
const made = valley(60, (rows) => {
  town(rows);
  const [farm] = rows.subscribers;
  for (let i = 0; i < 5; i++) {
    const place = { latDeg: -1 - 0.001 * i, lonDeg: 20.08 + 0.002 * i };
    rows.subscribers.push({ ...farm!, id: `far-${i}`, name: `far-${i}`, ...place, demandMbps: 5, demandUpMbps: 1 });
  }
  Object.assign(radioIn(rows, "sector-2"), { azimuthDeg: 250 });
});
let store: Store;
beforeAll(async () => {
  store = await openStore(directory);
  const { layer, tiles } = packLayer("valley", "ground", "bare", valleySurface(60));
  await createPlan(store.db, { ...made.rows, layers: [layer] }, signedBy("test"), "Began", {
    tiles: tiles.map((tile) => ({ layerId: layer.id, ...tile })),
    photos: [],
  });
});
afterAll(async () => {
  await pauseWork(store);
  await stopPool();
  await stopEngine();
  await store.close();
  rmSync(directory, { recursive: true, force: true });
});

const SECTORS = { siteIds: ["west", "north-west"], may: ["heading", "tilt", "power"] as const, reachKm: 5 };
const ended = async (id: string) => {
  for (;;) {
    const job = (await jobOf(store, "valley", id))!;
    if (job.state !== "running") return job;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
};

/** The ground of some layers, read here. */
const groundOf = async (layers: readonly Layer[], areas: readonly Area[]) => ({
  areas,
  rasters: await Promise.all(
    [...layers]
      .sort((x, y) => y.addedAt.localeCompare(x.addedAt))
      .map(async (layer) => ({
        kind: layer.kind,
        whole: shareTiles(frameOf(layer), await readTiles(store.db, "valley", layer.id)),
        overview: null,
      })),
  ),
});

const SEARCH = { linkId: "bridge", moveAM: 200, moveBM: 0, mastM: 0 };
const startSearch = (ask: typeof SEARCH) => submit(store, "search", "valley", "Ways out", { patches: [], ask });

test("a search runs in the pool, tells how it stands, and its result is kept with the plan", async () => {
  const job = await startSearch(SEARCH);
  const done = await ended(job.id);
  expect(done).toMatchObject({ state: "done", doneShare: 1, resultUrl: `/plans/valley/searches/${job.id}` });
  expect(done.message).toMatch(/changes tried; \d+ ways? out/);
  const result = (await searchResult(store, "valley", job.id)) as SearchResult;
  expect(result.heatA.length).toBeGreaterThan(300);
  expect(result.heatB).toEqual([]);
  expect(await searchResult(store, "another", job.id)).toBeNull();
  // The same ways as on this thread, the ground being the same.
  const rows = (await readPlan(store.db, "valley"))!;
  const ground = groundOver(await groundOf(rows.layers, rows.areas));
  const sample = { groundAmslM: NaN, coverHeightM: 0, coverCode: 0 };
  const work = searchWaysOut(
    worldOf(rows),
    SEARCH,
    ({ latDeg, lonDeg }) => {
      ground.read((terrain) => readGround(terrain, latDeg, lonDeg, sample));
      return sample.groundAmslM;
    },
    (from, to) => ground.read((terrain) => sampleProfile(terrain, from, to)),
    randomUUID,
  );
  let step = work.next();
  while (!step.done) step = work.next();
  const told = (ways: typeof result.ways) => ways.map(({ label, effect }) => [label, effect]);
  expect(told(result.ways)).toEqual(told(step.value.ways));
  expect(result.triedCount).toBe(step.value.triedCount);
  const { world } = await (await planContext(store, "valley"))!.load();
  expect(searchTitle(world, { patches: [], ask: SEARCH })).toBe("Ways out: west – east");
  expect(() => searchTitle(world, { patches: [], ask: { ...SEARCH, linkId: "none" } })).toThrow(
    'There is no link "none" in the plan.',
  );
});

test("a stopped search says so and leaves no result", async () => {
  const job = await startSearch({ ...SEARCH, moveAM: 5000, moveBM: 5000, mastM: 30 });
  while ((await jobOf(store, "valley", job.id))!.doneShare === 0)
    await new Promise((resolve) => setTimeout(resolve, 5));
  expect(await stopJob(store, "another", job.id)).toBe(false);
  expect(await stopJob(store, "valley", job.id)).toBe(true);
  expect(await ended(job.id)).toMatchObject({
    state: "stopped",
    resultUrl: null,
    message: "Stopped; nothing was kept.",
  });
  expect(await stopJob(store, "valley", job.id)).toBe(false);
});

describe("sectors that better themselves", () => {
  test("leave their trade with the plan", async () => {
    const { id } = await submit(store, "optimize", "valley", "Sectors", { patches: [], ask: SECTORS });
    const done = await ended(id);
    expect(done).toMatchObject({ state: "done", resultUrl: `/plans/valley/searches/${id}` });
    const { before, points } = (await searchResult(store, "valley", id)) as OptimizeResult;
    expect(before.steps).toEqual([]);
    expect(points[0]!.peopleServed).toBeGreaterThan(before.peopleServed);
    const world = withPatches(worldOf(made.rows), points[0]!.patches);
    expect(world.radios.get("sector-2")!.azimuthDeg).not.toBe(250);
    expect(done.message).toBe(
      `${points.length} ${points.length === 1 ? "choice" : "choices"} of ${/of (\d+) steps/.exec(done.message)![1]} steps`,
    );
  });

  /** Works on it by hand, and aborts as soon as something was told past the beginning. */
  const abortedWith = (reason?: unknown) => {
    const stop = new AbortController();
    const tools: JobTools = {
      signal: stop.signal,
      check: () => undefined,
      progress: (share) => {
        if (share > 0) stop.abort(reason);
      },
    };
    return optimize.work(
      store,
      {
        id: "by-hand",
        planId: "valley",
        order: { patches: [], ask: { ...SECTORS, may: [...SECTORS.may, "height", "antenna", "customers"] } },
      },
      tools,
    );
  };
  test("that are stopped give the best so far; those that only pause are begun anew", async () => {
    const { message, result } = await abortedWith();
    expect(message).toMatch(/^Stopped with the best so far: \d+ choices? of \d+ steps$/);
    expect((result as OptimizeResult).points.length).toBeGreaterThan(0);
    await expect(abortedWith(PAUSED)).rejects.toThrow(Stopped);
  });

  test("are called by their sites, and a site that is not there is named", () => {
    expect(optimizeTitle(made.world, { patches: [], ask: SECTORS })).toBe("Sectors of west and 1 more");
    const wrong = { patches: [], ask: { ...SECTORS, siteIds: ["none"] } };
    expect(() => optimizeTitle(made.world, wrong)).toThrow('There is no site "none" in the plan.');
    expect(() => optimizeTitle(made.world, { ...wrong, ask: { ...SECTORS, siteIds: [] } })).toThrow(RangeError);
  });
});

test("where to build is chosen and built on trial in each way that is asked", async () => {
  const ask: SitesAsk = {
    ...{ whom: "unserved", share: 0.9, withNewMasts: true, powerM: null, joinKm: 15, seconds: 2 },
    styles: [
      { reachKm: 9, mastM: 12, mastEur: 2000 },
      { reachKm: 1.5, mastM: 6, mastEur: 500 },
    ],
  };
  const { id } = await submit(store, "sites", "valley", "Where to build", {
    patches: [],
    ask,
  });
  const done = await ended(id);
  expect(done).toMatchObject({ state: "done" });
  const { styles, isWithoutFeed } = (await searchResult(store, "valley", id)) as SitesResult;
  expect(isWithoutFeed).toBe(false);
  expect(styles).toHaveLength(2);
  for (const { peopleAsked, peopleReachable, peopleWanted, peopleReached, costEur, lowerBoundEur, built } of styles) {
    expect(peopleReachable).toBeLessThanOrEqual(peopleAsked);
    expect(peopleWanted).toBeLessThanOrEqual(peopleReachable + 1);
    expect(peopleReached).toBeGreaterThanOrEqual(peopleWanted);
    expect(costEur).toBeGreaterThanOrEqual(lowerBoundEur - 1e-6);
    expect(built!.peopleServed).toBeGreaterThan(0);
  }
  expect(done.message).toBe(
    styles.map(({ built }) => `${built!.sites.length} site${built!.sites.length === 1 ? "" : "s"}`).join(" against "),
  );
});

test("views tell of gains, of a customer's antennas and of a list to be linked", async () => {
  const context = (await planContext(store, "valley"))!;
  const gains = await askView(context, [], { kind: "gains", radioId: "sector" });
  expect(gains.rows.length).toBeGreaterThan(2);
  const antennas = await askView(context, [], { kind: "clientAntennas", linkId: "access" });
  expect(antennas.rows.length).toBeGreaterThan(1);
  await expect(askView(context, [], { kind: "clientAntennas", linkId: "bridge" })).rejects.toThrow(
    `There is no customer's link "bridge" in the plan.`,
  );
  const { rows } = await askView(context, [], { kind: "attach", subscriberIds: ["far-0", "farm"] });
  expect(rows[0]).toMatchObject({ customers: [{ subscriberId: "far-0" }, { subscriberId: "farm" }] });
});
