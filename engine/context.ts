import { createHash } from "node:crypto";
import { setImmediate } from "node:timers/promises";
import { evaluateGently, reviewed, type Evaluation, type Pace, type Review } from "#core/evaluate";
import type { ProfileSource } from "#core/findings";
import { rowsOf, withPatches, worldOf, type Patch, type PlanRows, type World } from "#core/plan";
import { terrainExtent, type Terrain } from "#core/terrain";
import { patchesSince, planStamp, readPlanAt, readTerrain, type Store } from "#store";
import { forgetProfiles, profilesOver, remember, type Profiles } from "./profiles";

/** The ground of a plan in one state of its rasters and outlines. */
interface Ground {
  terrain: Terrain;
  /** West, south, east, north; null without any raster. */
  extent: [number, number, number, number] | null;
  /** Changes whenever anything that a profile crosses does. */
  terrainVersion: string;
  /** Changes whenever the rasters do: what the map's relief is drawn from. */
  reliefVersion: string;
  profiles: Profiles;
}

/** A plan as it stands, with its terrain and all that is worked out from both. */
export interface PlanContext extends Ground {
  profileBetween: ProfileSource;
  readonly rows: PlanRows;
  /** Of these rows; 0 of a named version, which nothing is kept on. */
  revision: number;
  world: World;
  /** Every link answered and all that is wrong, worked out once; the thread serves others meanwhile. */
  evaluate: () => Promise<Evaluation>;
  /** The same with the ways out of the worst of it. */
  review: () => Promise<Review>;
  /** What has been worked out already. */
  readonly known: Evaluation | null;
  /** Whether a page may wait for what is not worked out yet. */
  readonly isQuick: boolean;
  /** Links answered anew since a revision, once this one is worked out; null where that is not known any more. */
  answeredSince: (revision: number) => string[] | null;
}

const KEPT_PLANS = 8;
/** In a larger plan no remedy is worked out before it is asked for, and no page waits for the answers. */
const MOST_LINKS_AT_ONCE = 500;

/** How long this thread works before it looks after others, ms. */
const PORTION_MS = 15;

interface Kept extends Made {
  stamp: string;
}
const contexts = new Map<string, Kept>();
/** Contexts being made: whoever asks meanwhile waits for the same one. */
const making = new Map<string, Promise<PlanContext | null>>();

/** Drops all that was worked out: the database is another one now. */
export function forgetPlans(): void {
  contexts.clear();
  stretches.clear();
  forgetProfiles();
}

function pace(): Pace {
  let since = performance.now();
  return {
    isDue: () => performance.now() - since > PORTION_MS,
    rest: async () => {
      await setImmediate();
      since = performance.now();
    },
  };
}

/** A short name for the state of things. */
function versionOf(things: unknown): string {
  return createHash("sha256").update(JSON.stringify(things)).digest("hex").slice(0, 16);
}

async function groundOf(
  store: Store,
  { plan, layers, areas }: Pick<PlanRows, "plan" | "layers" | "areas">,
): Promise<Ground> {
  const reliefVersion = versionOf(layers.map(({ id, kind }) => [id, kind]));
  const terrainVersion = areas.length === 0 ? reliefVersion : versionOf([reliefVersion, areas]);
  const terrain = await readTerrain(store.db, layers, areas);
  const profiles = profilesOver(terrain, `${plan.id} ${terrainVersion}`);
  return { terrain, extent: terrainExtent(terrain), terrainVersion, reliefVersion, profiles };
}

/** From where a plan is worked out: what was worked out before, or is just being, and the patches since; null from nothing. */
type Origin = { previous: Promise<Evaluation>; revision: number; patches: readonly Patch[] } | null;

interface Made {
  context: PlanContext;
  /** From where a later state of the plan is best worked out. */
  originOf: (patches: readonly Patch[]) => Origin;
}

/** Links that were answered anew from one revision of a plan to another. */
interface Stretch {
  from: number;
  to: number;
  linkIds: ReadonlySet<string>;
}
/** Stretches that are remembered for each plan: windows that have slept longer are sent the plan whole. */
const MOST_STRETCHES = 200;
const stretches = new Map<string, Stretch[]>();

function answeredSince(planId: string, from: number, to: number): string[] | null {
  const ids = new Set<string>();
  // Backward from this revision, stretch by stretch, to one that begins no later than where the window stands.
  let reached = to;
  for (const stretch of [...(stretches.get(planId) ?? [])].reverse()) {
    if (reached <= from) break;
    if (stretch.to !== reached) continue;
    for (const id of stretch.linkIds) ids.add(id);
    reached = stretch.from;
  }
  return reached <= from ? [...ids] : null;
}

function made(world: World, ground: Ground, revision: number, start: Origin, known: PlanRows | null): Made {
  const { profiles } = ground;
  let origin = start;
  let rows = known;
  let evaluation: Evaluation | null = null;
  let evaluating: Promise<Evaluation> | null = null;
  let reviewing: Promise<Review> | null = null;
  const work = async () => {
    const from = origin ? { previous: await origin.previous, patches: origin.patches, world } : { world };
    const before = origin?.revision;
    // What it was made from is let go, or every state that a plan ever had would be held.
    origin = null;
    evaluation = await evaluateGently(from, profiles, pace());
    if (before !== undefined) {
      const known = stretches.get(world.plan.id) ?? [];
      const next = [...known, { from: before, to: revision, linkIds: evaluation.answered }];
      stretches.set(world.plan.id, next.slice(-MOST_STRETCHES));
    }
    return evaluation;
  };
  const evaluate = () =>
    (evaluating ??= work().catch((error: unknown) => {
      evaluating = null;
      throw error;
    }));
  const isLarge = world.links.size > MOST_LINKS_AT_ONCE;
  const context: PlanContext = {
    ...ground,
    profileBetween: profiles.between,
    world,
    revision,
    evaluate,
    review: () => (reviewing ??= evaluate().then((done) => reviewed(done, profiles.between, isLarge ? 0 : undefined))),
    get rows() {
      return (rows ??= rowsOf(world));
    },
    get known() {
      return evaluation;
    },
    get isQuick() {
      return evaluation !== null || !isLarge;
    },
    answeredSince: (from) => answeredSince(world.plan.id, from, revision),
  };
  const originOf = (patches: readonly Patch[]): Origin => {
    if (evaluating) return { previous: evaluating, revision, patches };
    return origin && { ...origin, patches: [...origin.patches, ...patches] };
  };
  return { context, originOf };
}

/** The context of a plan, worked out once for each state of its rows; null when there is no such plan. */
export async function planContext(store: Store, planId: string): Promise<PlanContext | null> {
  const stamp = await planStamp(store.db, planId);
  if (!stamp) return null;
  const known = contexts.get(planId);
  if (known?.stamp === stamp) return known.context;
  const key = `${planId} ${stamp}`;
  const underWay = making.get(key) ?? makeContext(store, planId, known).finally(() => making.delete(key));
  making.set(key, underWay);
  return underWay;
}

async function makeContext(store: Store, planId: string, known: Kept | undefined): Promise<PlanContext | null> {
  const next = known && (await nextContext(store, planId, known));
  const at = next ? null : await readPlanAt(store.db, planId);
  if (!next && !at) return null;
  const kept = next ?? { stamp: at!.stamp, ...(await madeOf(store, at!.rows, at!.revision)) };
  contexts.delete(planId);
  remember(contexts, planId, kept, KEPT_PLANS);
  return kept.context;
}

/** The context after an earlier one, by the patches that were kept since; null where they do not lead there. */
async function nextContext(store: Store, planId: string, before: Kept): Promise<Kept | null> {
  const { stamp, context, originOf } = before;
  const since = await patchesSince(store.db, planId, context.revision);
  if (!since || !stamp.startsWith(`${since.createdAt} `)) return null;
  const { patches, revision, createdAt } = since;
  const world = withPatches(context.world, patches);
  const isOtherGround = patches.some(({ kind }) => kind === "layers" || kind === "areas");
  const places = { plan: world.plan, layers: [...world.layers.values()], areas: [...world.areas.values()] };
  const { terrain, extent, terrainVersion, reliefVersion, profiles } = isOtherGround
    ? await groundOf(store, places)
    : context;
  const ground = { terrain, extent, terrainVersion, reliefVersion, profiles };
  return { stamp: `${createdAt} ${revision}`, ...made(world, ground, revision, originOf(patches), null) };
}

async function madeOf(store: Store, rows: PlanRows, revision: number): Promise<Made> {
  return made(worldOf(rows), await groundOf(store, rows), revision, null, rows);
}

/** The context of a plan in any state that it is or was in. */
export async function contextOf(store: Store, rows: PlanRows, revision = 0): Promise<PlanContext> {
  return (await madeOf(store, rows, revision)).context;
}
