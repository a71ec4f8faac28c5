import { evaluateGently, evaluateOwn, reviewed, type Evaluation, type Review } from "#core/evaluate";
import type { Finding } from "#core/findings";
import { rowsOf, type Patch, type World } from "#core/plan";
import { terrainExtent } from "#core/terrain";
import { groundOver, type Ground, type SharedGround } from "#ground";
import type { TerrainInfo } from "#wire";
import { pace } from "./pace";
import { profilesOver, type Profiles } from "./profiles";

/** A plan's ground in one state of its rasters and outlines. */
export interface PlanGround {
  shared: SharedGround;
  ground: Ground;
  profiles: Profiles;
  /** What a window needs to know of it; null without any raster. */
  info: TerrainInfo | null;
}

/** Names of what is on the ground, which change whenever that does. */
export interface GroundVersions {
  /** Of all that profiles cross. */
  terrain: string;
  /** Of the rasters alone: what the map's relief is drawn from. */
  relief: string;
}

export function planGround(shared: SharedGround, versions: GroundVersions): PlanGround {
  const ground = groundOver(shared);
  const extent = terrainExtent(ground.terrain);
  return {
    shared,
    ground,
    profiles: profilesOver(ground),
    info: extent && { version: versions.terrain, reliefVersion: versions.relief, extent },
  };
}

/** A plan in one state, with its ground and all that is worked out from both. */
export interface PlanState extends PlanGround {
  world: World;
  /** 0 of a state that nothing is kept on. */
  revision: number;
  /** Every link answered and all that is wrong, worked out once; questions are answered meanwhile. */
  evaluate: () => Promise<Evaluation>;
  /** The same with the ways out of the worst of it. */
  review: () => Promise<Review>;
  /**
   * A first look at the change that led here, while those who hear of it are still to be worked out; null where there is no need.
   * It stands on what was worked out of revision `since`.
   */
  firstLook: () => Promise<{ evaluation: Evaluation; since: number } | null>;
  /** Findings that windows were shown, by the name of the look; of the newest looks alone. */
  shown: Map<string, readonly Finding[]>;
  /** Whether a page may wait for what is not worked out yet. */
  readonly isQuick: boolean;
  /** Whether the ways out of what is wrong are known. */
  readonly isReviewed: boolean;
  /** Links answered anew since a revision, once this one is worked out; null where that is not known any more. */
  answeredSince: (revision: number) => string[] | null;
  /** The plan's rows as JSON on memory that all threads share, without what nothing is worked out of. */
  sharedRows: () => Uint8Array;
  /** The state that some patches lead to, worked out from this one; `onto` where they change the ground. */
  next: (world: World, patches: readonly Patch[], revision: number, onto: PlanGround | null) => PlanState;
}

/** In a larger plan no remedy is worked out before it is asked for, and no page waits for the answers. */
const MOST_LINKS_AT_ONCE = 500;

/** From where a plan is worked out: what was worked out before, or is just being, and the patches since; null from nothing. */
type Origin = { previous: Promise<Evaluation>; revision: number; patches: readonly Patch[] } | null;

/** Links that were answered anew from one revision of a plan to another. */
interface Stretch {
  from: number;
  to: number;
  linkIds: ReadonlySet<string>;
}
/** Stretches that are remembered for each plan: windows that have slept longer are sent the plan whole. */
const MOST_STRETCHES = 200;

function answeredSince(stretches: readonly Stretch[], from: number, to: number): string[] | null {
  const ids = new Set<string>();
  // Backward from this revision, stretch by stretch, to one that begins no later than where the window stands.
  let reached = to;
  for (const stretch of [...stretches].reverse()) {
    if (reached <= from) break;
    if (stretch.to !== reached) continue;
    for (const id of stretch.linkIds) ids.add(id);
    reached = stretch.from;
  }
  return reached <= from ? [...ids] : null;
}

function sharedText(text: string): Uint8Array {
  const bytes = new TextEncoder().encode(text);
  const shared = new Uint8Array(new SharedArrayBuffer(bytes.length));
  shared.set(bytes);
  return shared;
}

/** What the states of one plan share. */
interface Shared {
  stretches: Stretch[];
  shown: Map<string, readonly Finding[]>;
}

function stateOf(world: World, ground: PlanGround, revision: number, start: Origin, shared: Shared): PlanState {
  const { profiles } = ground;
  const { stretches, shown } = shared;
  let origin = start;
  let isKnown = false;
  let isReviewed = false;
  let rowsText: Uint8Array | null = null;
  let evaluating: Promise<Evaluation> | null = null;
  let reviewing: Promise<Review> | null = null;
  const work = async () => {
    const from = origin ? { previous: await origin.previous, patches: origin.patches, world } : { world };
    const before = origin?.revision;
    // What it was made from is let go, or every state that a plan ever had would be held.
    origin = null;
    const evaluation = await evaluateGently(from, profiles.glance, pace());
    isKnown = true;
    if (before !== undefined) stretches.push({ from: before, to: revision, linkIds: evaluation.answered });
    if (stretches.length > MOST_STRETCHES) stretches.shift();
    return evaluation;
  };
  const evaluate = () =>
    (evaluating ??= work().catch((error: unknown) => {
      evaluating = null;
      throw error;
    }));
  const isLarge = world.links.size > MOST_LINKS_AT_ONCE;
  return {
    ...ground,
    world,
    revision,
    evaluate,
    review: () =>
      (reviewing ??= evaluate().then((done) => {
        const review = reviewed(done, profiles.between, isLarge ? 0 : undefined);
        isReviewed = true;
        return review;
      })),
    get isReviewed() {
      return isReviewed;
    },
    get isQuick() {
      return isKnown || !isLarge;
    },
    sharedRows: () => (rowsText ??= sharedText(JSON.stringify({ ...rowsOf(world), photos: [], overlays: [] }))),
    firstLook: async () => {
      if (!isLarge || !origin || evaluating) return null;
      const { previous, patches, revision: since } = origin;
      const evaluation = evaluateOwn({ previous: await previous, patches, world }, profiles.glance);
      return evaluation && { evaluation, since };
    },
    shown,
    answeredSince: (from) => answeredSince(stretches, from, revision),
    next: (after, patches, to, onto) => {
      const from: Origin = evaluating
        ? { previous: evaluating, revision, patches }
        : origin && { ...origin, patches: [...origin.patches, ...patches] };
      return stateOf(after, onto ?? ground, to, from, shared);
    },
  };
}

/** A plan's first state here. */
export function firstState(world: World, ground: PlanGround, revision: number): PlanState {
  return stateOf(world, ground, revision, null, { stretches: [], shown: new Map() });
}
