import { reviewPlan, type ProfileSource, type Review } from "#core/findings";
import type { Place } from "#core/geodesy";
import { worldOf, type PlanRows, type World } from "#core/plan";
import { sampleProfile, UNKNOWN_SURFACE, type Profile } from "#core/terrain";
import { readHistory, readPlan, readTerrain, type Store, type Terrain } from "#store";

/** A plan as it stands, with its terrain and all that was worked out from both. */
export interface PlanContext {
  rows: PlanRows;
  world: World;
  terrain: Terrain | null;
  profileBetween: ProfileSource;
  review: Review;
}

/** Most profiles kept for one terrain; a 16 km path at 30 m takes some 25 KB. */
const KEPT_PROFILES = 4000;
const KEPT_PLANS = 8;

const profileCaches = new Map<string, Map<string, Profile>>();
const contexts = new Map<string, { stamp: string; context: PlanContext }>();

/** Keeps at most `limit` entries, dropping the one put first. */
function remember<V>(cache: Map<string, V>, key: string, value: V, limit: number): V {
  if (cache.size >= limit) cache.delete(cache.keys().next().value!);
  cache.set(key, value);
  return value;
}

function profileSource(terrain: Terrain | null): ProfileSource {
  const version = terrain?.version ?? "none";
  const cache = profileCaches.get(version) ?? remember(profileCaches, version, new Map<string, Profile>(), KEPT_PLANS);
  const surface = terrain?.surface ?? UNKNOWN_SURFACE;
  return (from: Place, to: Place) => {
    const key = `${from.latDeg},${from.lonDeg},${to.latDeg},${to.lonDeg}`;
    return cache.get(key) ?? remember(cache, key, sampleProfile(surface, from, to), KEPT_PROFILES);
  };
}

/** The context of a plan, worked out once for each state of its rows and terrain; null when there is no such plan. */
export async function planContext(store: Store, planId: string): Promise<PlanContext | null> {
  const rows = await readPlan(store.db, planId);
  if (!rows) return null;
  const terrain = await readTerrain(store.db, planId);
  const [newest] = await readHistory(store.db, planId, 1);
  const stamp = `${newest?.id ?? 0} ${terrain?.version ?? ""} ${rows.plan.createdAt}`;
  const known = contexts.get(planId);
  if (known?.stamp === stamp) return known.context;
  const world = worldOf(rows);
  const profileBetween = profileSource(terrain);
  const context = { rows, world, terrain, profileBetween, review: reviewPlan(world, profileBetween) };
  contexts.delete(planId);
  remember(contexts, planId, { stamp, context }, KEPT_PLANS);
  return context;
}
