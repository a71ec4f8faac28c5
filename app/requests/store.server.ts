import { resolve } from "node:path";
import { DEMO_CLOCK_DAY, DEMO_FAULTS, DEMO_PLAN_ID, demoPlan, islandSurface } from "#demo";
import {
  createPlan,
  deletePlan,
  openStore,
  packLayer,
  planStamp,
  putWatchSettings,
  signedBy,
  type Store,
} from "#store";

const held = globalThis as { tejadoStore?: Promise<Store> };

/** The one store of this process. It stands on globalThis, so that a reload while developing opens no second one. */
export function getStore(): Promise<Store> {
  return (held.tejadoStore ??= openStore(resolve(process.env.TEJADO_DATA || "data")));
}

/** Makes sure that the demo plan is there whole, begun anew when `fresh`, and gives its id. */
export async function seedDemo(store: Store, fresh = false): Promise<string> {
  if (await planStamp(store.db, DEMO_PLAN_ID)) {
    if (!fresh) return DEMO_PLAN_ID;
    await deletePlan(store.db, DEMO_PLAN_ID);
  }
  const surface = islandSurface();
  const rows = demoPlan(surface);
  const { layer, tiles } = packLayer(
    DEMO_PLAN_ID,
    "Isla Orvena, generated",
    "bare",
    surface,
    "island",
    rows.plan.createdAt,
  );
  await createPlan(store.db, { ...rows, layers: [layer] }, signedBy("Tejado"), "Laid out the demo", {
    tiles: tiles.map((tile) => ({ layerId: layer.id, ...tile })),
    photos: [],
  });
  await putWatchSettings(store.db, DEMO_PLAN_ID, {
    source: "simulated",
    clockDay: DEMO_CLOCK_DAY,
    faults: DEMO_FAULTS,
  });
  return DEMO_PLAN_ID;
}
