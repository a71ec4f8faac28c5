import { resolve } from "node:path";
import { DEMO_PLAN_ID, demoPlan, islandSurface } from "#demo";
import { createPlan, deletePlan, openStore, readPlan, readTerrain, writeTerrain, type Store } from "#store";

const held = globalThis as { tejadoStore?: Promise<Store> };

/** The one store of this process. It stands on globalThis, so that a reload while developing opens no second one. */
export function getStore(): Promise<Store> {
  return (held.tejadoStore ??= openStore(resolve(process.env.TEJADO_DATA || "data")));
}

/** Makes sure that the demo plan is there whole, begun anew when `fresh`, and gives its id. */
export async function seedDemo(store: Store, fresh = false): Promise<string> {
  const there = await readPlan(store.db, DEMO_PLAN_ID);
  // Plan and terrain are written one after the other; a process that died between them left half a demo.
  if (there && !fresh && (await readTerrain(store.db, DEMO_PLAN_ID))) return DEMO_PLAN_ID;
  if (there) await deletePlan(store.db, DEMO_PLAN_ID);
  const surface = islandSurface();
  await createPlan(store.db, demoPlan(surface), "Tejado", "Laid out the demo");
  await writeTerrain(store.db, DEMO_PLAN_ID, "Isla Orvena, generated", surface);
  return DEMO_PLAN_ID;
}
