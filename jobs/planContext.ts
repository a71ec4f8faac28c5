import { createHash } from "node:crypto";
import { reviewPlan, type ProfileSource, type Review } from "#core/findings";
import type { Place } from "#core/geodesy";
import { worldOf, type PlanRows, type World } from "#core/plan";
import { sampleProfile, terrainExtent, type Profile, type Terrain } from "#core/terrain";
import { planStamp, readPlanAt, readTerrain, type Store } from "#store";

/** A plan as it stands, with its terrain and all that was worked out from both. */
export interface PlanContext {
  rows: PlanRows;
  /** Of these rows; 0 of a named version, which nothing is kept on. */
  revision: number;
  world: World;
  terrain: Terrain;
  /** West, south, east, north; null without any raster. */
  extent: [number, number, number, number] | null;
  /** Changes whenever anything that a profile crosses does. */
  terrainVersion: string;
  /** Changes whenever the rasters do: what the map's relief is drawn from. */
  reliefVersion: string;
  profileBetween: ProfileSource;
  /** Every link answered and all that is wrong; worked out when it is first asked for. */
  readonly review: Review;
  /** The same where it has been asked for already. */
  readonly knownReview: Review | null;
}

/** Most profiles kept for one terrain; a 16 km path at 30 m takes some 25 KB. */
const KEPT_PROFILES = 4000;
const KEPT_PLANS = 8;

const profileCaches = new Map<string, Map<string, Profile>>();
const contexts = new Map<string, { stamp: string; context: PlanContext }>();

/** Drops all that was worked out: the database is another one now. */
export function forgetPlans(): void {
  contexts.clear();
  profileCaches.clear();
}

/** Keeps at most `limit` entries, dropping the one put first. */
function remember<V>(cache: Map<string, V>, key: string, value: V, limit: number): V {
  if (cache.size >= limit) cache.delete(cache.keys().next().value!);
  cache.set(key, value);
  return value;
}

function profileSource(terrain: Terrain, version: string): ProfileSource {
  const cache = profileCaches.get(version) ?? remember(profileCaches, version, new Map<string, Profile>(), KEPT_PLANS);
  return (from: Place, to: Place) => {
    const key = `${from.latDeg},${from.lonDeg},${to.latDeg},${to.lonDeg}`;
    return cache.get(key) ?? remember(cache, key, sampleProfile(terrain, from, to), KEPT_PROFILES);
  };
}

/** A short name for the state of things. */
function versionOf(things: unknown): string {
  return createHash("sha256").update(JSON.stringify(things)).digest("hex").slice(0, 16);
}

/** The context of a plan, worked out once for each state of its rows; null when there is no such plan. */
export async function planContext(store: Store, planId: string): Promise<PlanContext | null> {
  const stamp = await planStamp(store.db, planId);
  if (!stamp) return null;
  const known = contexts.get(planId);
  if (known?.stamp === stamp) return known.context;
  const at = await readPlanAt(store.db, planId);
  if (!at) return null;
  const context = await contextOf(store, at.rows, at.revision);
  contexts.delete(planId);
  remember(contexts, planId, { stamp: at.stamp, context }, KEPT_PLANS);
  return context;
}

/** The context of a plan in any state that it is or was in. */
export async function contextOf(store: Store, rows: PlanRows, revision = 0): Promise<PlanContext> {
  const terrain = await readTerrain(store.db, rows.layers, rows.areas);
  const reliefVersion = versionOf(rows.layers.map(({ id, kind }) => [id, kind]));
  const terrainVersion = rows.areas.length === 0 ? reliefVersion : versionOf([reliefVersion, rows.areas]);
  const world = worldOf(rows);
  const profileBetween = profileSource(terrain, `${rows.plan.id} ${terrainVersion}`);
  let review: Review | null = null;
  return {
    rows,
    revision,
    world,
    terrain,
    extent: terrainExtent(terrain),
    terrainVersion,
    reliefVersion,
    profileBetween,
    get review() {
      return (review ??= reviewPlan(world, profileBetween));
    },
    get knownReview() {
      return review;
    },
  };
}
