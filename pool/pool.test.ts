import { rmSync } from "node:fs";
import { gunzipSync } from "node:zlib";
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import { setPatch } from "#core/plan";
import { valley, valleySurface } from "#core/testing";
import { gridAround, newLosses, newSwept, sweep, wedgeOf, WEDGES } from "#core/coverage";
import { plainTerrain } from "#core/terrain";
import { planContext, stopEngine } from "#engine";
import { askCoverage } from "#jobs";
import { lossesFromWire } from "#wire";
import { askView, askPool, poolThreads, Stopped, stopPool } from "#pool";
import { createPlan, openStore, packLayer, signedBy, type Store } from "#store";
import { begunDirectory } from "../store/testing";

const directory = await begunDirectory("pool");
let store: Store;
beforeAll(async () => {
  store = await openStore(directory);
  const { layer, tiles } = packLayer("valley", "ground", "bare", valleySurface(30));
  await createPlan(store.db, { ...valley().rows, layers: [layer] }, signedBy("test"), "Began", {
    tiles: tiles.map((tile) => ({ layerId: layer.id, ...tile })),
    photos: [],
  });
});
afterAll(async () => {
  await stopPool();
  await stopEngine();
  await store.close();
  rmSync(directory, { recursive: true, force: true });
});
const SEARCH = { linkId: "bridge", moveAM: 1500, moveBM: 1500, mastM: 8 };

test("the pool answers one state of a plan after another, equal questions once, and names what is not there", async () => {
  const context = (await planContext(store, "valley"))!;
  const from = (patches: Parameters<typeof askView>[1]) =>
    askView(context, patches, { kind: "fromSite", siteId: "west", of: "subscribers" });
  const [now, renamed] = await Promise.all([from([]), from([setPatch("subscribers", "farm", { name: "barn" })])]);
  expect(now.rows.map((row) => "name" in row && row.name)).toEqual(["farm"]);
  expect(renamed.rows.map((row) => "name" in row && row.name)).toEqual(["barn"]);
  expect((await askView(context, [], { kind: "fromSubscriber", subscriberId: "farm" })).rows).toHaveLength(2);
  expect((await askView(context, [], { kind: "bands", linkId: "bridge", demandMbps: 50 })).rows).toHaveLength(9);
  await expect(askView(context, [], { kind: "fromSite", siteId: "none", of: "sites" })).rejects.toThrow(
    'There is no site "none" in the plan.',
  );
  const asked = { kind: "bands", linkId: "bridge", demandMbps: 70 } as const;
  const [one, same] = await Promise.all([askPool(context, [], asked), askPool(context, [], asked)]);
  expect(same).toBe(one);
});

test("a coverage is worked out in parts, each once, and kept with the plan until what it follows from changes", async () => {
  const context = (await planContext(store, "valley"))!;
  const west = valley().world.sites.get("west")!;
  const ask = {
    ...{ middle: { latDeg: west.latDeg, lonDeg: west.lonDeg }, radiusM: 3000, cellM: 50 },
    ...{ txHeightM: 20, rxHeightM: 6, frequencyGHz: 5.6, kFactor: 4 / 3, season: "inLeaf" as const, learned: null },
  };
  const grid = gridAround(ask.middle, ask.radiusM, ask.cellM);
  const came = newLosses(grid);
  for (let wedge = 0; wedge < WEDGES; wedge++) {
    const bytes = gunzipSync(await askCoverage(store, context, { ...ask, wedge }));
    lossesFromWire(Uint8Array.from(bytes).buffer, grid, wedgeOf(grid, wedge).window, came);
  }
  const wanted = newSwept(grid);
  const terrain = plainTerrain(valleySurface(30));
  sweep(grid, (look) => look(terrain), ask, wanted);
  const known = [...wanted.lossDb.keys()].filter((cell) => !Number.isNaN(wanted.lossDb[cell]));
  expect(known.length).toBeGreaterThan(5000);
  for (const cell of known) expect(Math.abs(came.lossDb[cell]! - wanted.lossDb[cell]!)).toBeLessThan(0.01);
  const { rows } = await store.db.query<{ count: number }>("SELECT count(*)::int AS count FROM coverage_losses");
  expect(rows[0]!.count).toBe(WEDGES);
  await askCoverage(store, context, { ...ask, wedge: 0 });
  await askCoverage(store, context, { ...ask, wedge: 0, rxHeightM: 9 });
  const later = await store.db.query<{ count: number }>("SELECT count(*)::int AS count FROM coverage_losses");
  expect(later.rows[0]!.count).toBe(WEDGES + 1);
});

test("a task whose worker dies is done again; whoever asked notices nothing", async () => {
  const context = (await planContext(store, "valley"))!;
  const ask = { kind: "search", ask: SEARCH } as const;
  const killed = new Set<unknown>();
  const progress = () => {
    if (killed.size > 0) return;
    for (const thread of poolThreads()) {
      killed.add(thread);
      void thread.terminate();
    }
  };
  const { answer: result } = await askPool(context, [], ask, { progress });
  expect(killed.size).toBeGreaterThan(0);
  expect(result.triedCount).toBeGreaterThan(100);
});

test("whoever leaves is let go at once, and the task ends with the last of them", async () => {
  const context = (await planContext(store, "valley"))!;
  const ask = { kind: "search", ask: { ...SEARCH, moveAM: 5000, moveBM: 5000, mastM: 30 } } as const;
  const [one, other] = [new AbortController(), new AbortController()];
  const asked = [one, other].map(({ signal }) => askPool(context, [], ask, { signal }));
  one.abort();
  await expect(asked[0]).rejects.toThrow(Stopped);
  // The other one still waits, and goes in its turn; the same asked again is begun anew.
  const again = askPool(context, [], { kind: "bands", linkId: "bridge", demandMbps: 60 });
  other.abort();
  await expect(asked[1]).rejects.toThrow(Stopped);
  expect((await again).answer).toHaveLength(9);
  await expect(askPool(context, [], ask, { signal: AbortSignal.abort() })).rejects.toThrow(Stopped);
});
