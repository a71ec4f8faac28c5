import { createHash, randomUUID } from "node:crypto";
import { setImmediate } from "node:timers/promises";
import { rowsOf, withPatches, worldOf, type Area, type Layer, type Plan, type PlanRows, type World } from "#core/plan";
import { patchesSince, planStamp, readGroundRows, readPlanText, type Store } from "#store";
import { readRows } from "./thread/readRows";
import { forgetRasters, readShared } from "./rasters";
import { ThreadEnded } from "../threads";
import { askEngine, onEngineEnd, tellEngine } from "./thread";
import type { Answer, AskedWith, QuestionName } from "./thread/questions";
import type { GroundVersions } from "./thread/state";
import type { GroundOrder } from "./thread/worker";

/** A plan as it stands. Whatever is worked out of it is asked of the engine; its rows are read here only for who needs them. */
export interface PlanContext {
  plan: Pick<Plan, "id" | "createdAt">;
  /** Of the state that questions are asked of. */
  revision: number;
  /** Names what is on the ground. */
  versions: GroundVersions;
  ask: <N extends QuestionName>(name: N, ...asked: AskedWith<N>) => Promise<Answer<N>>;
  /** The plan's rows, and the world that they make. */
  load: () => Promise<Loaded>;
}
export interface Loaded {
  rows: PlanRows;
  world: World;
  /** Of these rows. */
  revision: number;
}

const KEPT_PLANS = 8;

interface Kept {
  stamp: string;
  context: PlanContext;
}
const contexts = new Map<string, Kept>();
/** Whose contexts are being made: one after another, so that the engine is told of each step once and in its order. */
const turns = new Map<string, Promise<unknown>>();

onEngineEnd(() => contexts.clear());

/** Drops all that is kept warm: the database is another one now. */
export function forgetPlans(): void {
  for (const key of contexts.keys()) tellEngine(({ drop }) => drop(key));
  contexts.clear();
  forgetRasters();
}

/** A short name for the state of things. */
function versionOf(things: unknown): string {
  return createHash("sha256").update(JSON.stringify(things)).digest("hex").slice(0, 16);
}

/** What of an outline a profile crosses. */
const outline = ({ id, kind, heightM, density, rings }: Area) => [id, kind, heightM, density, rings];

function versionsOf(layers: readonly Layer[], areas: readonly Area[]): GroundVersions {
  const relief = versionOf(layers.map(({ id, kind }) => [id, kind]));
  return { relief, terrain: areas.length === 0 ? relief : versionOf([relief, areas.map(outline)]) };
}

async function groundOrder(store: Store, layers: readonly Layer[], areas: readonly Area[]): Promise<GroundOrder> {
  return { shared: await readShared(store.db, layers, areas), versions: versionsOf(layers, areas) };
}

/** The context of a plan in the state in which its rows are, or a later one; null when there is no such plan. */
export async function planContext(store: Store, planId: string): Promise<PlanContext | null> {
  const stamp = await planStamp(store.db, planId);
  if (!stamp) return null;
  const known = contexts.get(planId);
  if (known?.stamp === stamp) return known.context;
  const before = turns.get(planId) ?? Promise.resolve();
  const turn = before.catch(() => undefined).then(() => makeContext(store, planId, stamp));
  turns.set(planId, turn);
  try {
    return await turn;
  } finally {
    if (turns.get(planId) === turn) turns.delete(planId);
  }
}

/** Whether a context was made while its asker waited for the turn: of the same plan, and no older. */
function isThere({ context }: Kept, stamp: string): boolean {
  const [createdAt, revision] = [
    stamp.slice(0, stamp.lastIndexOf(" ")),
    Number(stamp.slice(stamp.lastIndexOf(" ") + 1)),
  ];
  return context.plan.createdAt === createdAt && context.revision >= revision;
}

async function makeContext(store: Store, planId: string, stamp: string): Promise<PlanContext | null> {
  const known = contexts.get(planId);
  if (known && isThere(known, stamp)) return known.context;
  const kept = (known && (await stepped(store, planId, known))) ?? (await opened(store, planId));
  if (!kept) return null;
  contexts.delete(planId);
  contexts.set(planId, kept);
  const [oldest] = contexts.keys();
  if (contexts.size > KEPT_PLANS) {
    contexts.delete(oldest!);
    tellEngine(({ drop }) => drop(oldest!));
  }
  return kept.context;
}

async function opened(store: Store, planId: string): Promise<Kept | null> {
  const at = await readPlanText(store.db, planId);
  if (!at) return null;
  const { plan, lists, revision, stamp } = at;
  const { layers, areas } = await readGroundRows(store.db, planId);
  const ground = await groundOrder(store, layers, areas);
  tellEngine(({ open }) => open(planId, { plan, lists, revision, ground }));
  return { stamp, context: contextOf(store, plan, revision, ground.versions) };
}

/** The context after an earlier one, by the patches that were kept since; null where they do not lead there. */
async function stepped(store: Store, planId: string, { stamp, context }: Kept): Promise<Kept | null> {
  const since = await patchesSince(store.db, planId, context.revision);
  if (!since || !stamp.startsWith(`${since.createdAt} `)) return null;
  const { patches, revision, createdAt } = since;
  const isOtherGround = patches.some(({ kind }) => kind === "layers" || kind === "areas");
  const rows = isOtherGround ? await readGroundRows(store.db, planId) : null;
  const ground = rows && (await groundOrder(store, rows.layers, rows.areas));
  // While the ground was read the engine may have ended.
  if (contexts.get(planId)?.context !== context) return null;
  tellEngine(({ step }) => step(planId, { patches, revision, ground }));
  const versions = ground?.versions ?? context.versions;
  // Rows may still be read for somebody else: a change does not wait for that.
  const known = loadedBy.get(context)?.then((loaded) => {
    if (loaded.revision >= revision) return loaded;
    if (loaded.revision > context.revision) return loadRows(store, planId);
    return loadedOf(withPatches(loaded.world, patches), revision);
  });
  loadedBy.delete(context);
  return { stamp: `${createdAt} ${revision}`, context: contextOf(store, context.plan, revision, versions, known) };
}

/** How long rows that nobody asks for are held, ms. */
const HELD_MS = 120_000;
const loadedBy = new Map<PlanContext, Promise<Loaded>>();

/** Holds a plan's rows for as long as they are asked for. */
function hold(context: PlanContext, loaded: Promise<Loaded>): Promise<Loaded> {
  loadedBy.set(context, loaded);
  setTimeout(() => loadedBy.delete(context), HELD_MS).unref();
  loaded.catch(() => loadedBy.delete(context));
  return loaded;
}

/** A world whose rows are listed once somebody asks for them: most who change a large plan do not. */
function loadedOf(world: World, revision: number): Loaded {
  let rows: PlanRows | null = null;
  return {
    world,
    revision,
    get rows() {
      return (rows ??= rowsOf(world));
    },
  };
}

async function loadRows(store: Store, planId: string): Promise<Loaded> {
  const at = await readPlanText(store.db, planId);
  if (!at) throw new Error(`the plan ${planId} is gone`);
  const reading = readRows(at);
  for (;;) {
    const { done, value: rows } = reading.next();
    if (done) return { rows, world: worldOf(rows), revision: at.revision };
    // Pages are served in between.
    await setImmediate();
  }
}

function contextOf(
  store: Store,
  { id, createdAt }: Pick<Plan, "id" | "createdAt">,
  revision: number,
  versions: GroundVersions,
  known?: Promise<Loaded>,
): PlanContext {
  const context: PlanContext = {
    plan: { id, createdAt },
    revision,
    versions,
    load: () => loadedBy.get(context) ?? hold(context, loadRows(store, id)),
    ask: async <N extends QuestionName>(name: N, ...asked: AskedWith<N>): Promise<Answer<N>> => {
      try {
        return await askEngine(id, name, asked[0]);
      } catch (error) {
        if (!(error instanceof ThreadEnded)) throw error;
        // What the engine held is read anew, and the question asked once more.
        if (!(await planContext(store, id))) throw error;
        return askEngine(id, name, asked[0]);
      }
    },
  };
  if (known) void hold(context, known);
  return context;
}

/** Asks one question of a plan in any state that it is or was in, over the ground that it had. */
export async function askOf<N extends QuestionName>(
  store: Store,
  rows: PlanRows,
  name: N,
  ...asked: AskedWith<N>
): Promise<Answer<N>> {
  const key = `${rows.plan.id} ${randomUUID()}`;
  const ground = await groundOrder(store, rows.layers, rows.areas);
  const { plan, ...lists } = rows;
  const texts = Object.fromEntries(Object.entries(lists).map(([kind, list]) => [kind, [JSON.stringify(list)]]));
  tellEngine(({ open }) => open(key, { plan, lists: texts, revision: 0, ground }));
  try {
    return await askEngine(key, name, asked[0]);
  } finally {
    tellEngine(({ drop }) => drop(key));
  }
}
