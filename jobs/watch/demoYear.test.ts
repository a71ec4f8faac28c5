import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, test } from "@jest/globals";
import { DEMO_CLOCK_DAY, DEMO_FAULTS, DEMO_PLAN_ID, demoPlan, islandSurface } from "#demo";
import { planContext, stopEngine } from "#engine";
import { createPlan, openStore, packLayer, planStamp, putWatchSettings, readWatch, signedBy } from "#store";
import { watch } from "./index";
import type { Look } from "./look";

test("the demo's first look finds what its plan says that the watch has raised, and changes nothing of it", async () => {
  const directory = mkdtempSync(join(tmpdir(), "tejado-year-"));
  const store = await openStore(directory);
  const surface = islandSurface();
  const rows = demoPlan(surface);
  const { layer, tiles } = packLayer(DEMO_PLAN_ID, "Isla", "bare", surface, "island", rows.plan.createdAt);
  await createPlan(store.db, { ...rows, layers: [layer] }, signedBy("test"), "Began", {
    tiles: tiles.map((tile) => ({ layerId: layer.id, ...tile })),
    photos: [],
  });
  await putWatchSettings(store.db, DEMO_PLAN_ID, {
    source: "simulated",
    clockDay: DEMO_CLOCK_DAY,
    faults: DEMO_FAULTS,
  });
  const before = await planStamp(store.db, DEMO_PLAN_ID);
  const job = { id: "look", planId: DEMO_PLAN_ID, order: { play: { linkIds: "all" as const, fromDay: null } } };
  const tools = { progress: () => undefined, signal: new AbortController().signal, check: () => undefined };
  const { message } = await watch.work(store, job, tools);
  expect(message).toMatch(/^\d+ links looked at, 0 new alarms$/);
  const { world } = await (await planContext(store, DEMO_PLAN_ID))!.load();
  expect([...world.alarms.values()].sort((x, y) => (x.id < y.id ? -1 : 1))).toEqual(
    [...rows.alarms].sort((x, y) => (x.id < y.id ? -1 : 1)),
  );
  expect(await planStamp(store.db, DEMO_PLAN_ID)).toEqual(before);
  const { look } = await readWatch<unknown, Look>(store.db, DEMO_PLAN_ID);
  const known = look!.links.filter(({ lastDay }) => lastDay !== null);
  expect(known.length).toBeGreaterThan(30);
  expect(known.find(({ linkId }) => linkId === "link-long")!.state).toBe("below");
  await stopEngine();
  await store.close();
  rmSync(directory, { recursive: true, force: true });
}, 240_000);
