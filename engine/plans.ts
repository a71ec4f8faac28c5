import { createHash, randomUUID } from "node:crypto";
import { rowsOf, withPatches, worldOf, type Area, type Layer, type PlanRows, type World } from "#core/plan";
import { patchesSince, planStamp, readPlanAt, type Store } from "#store";
import { forgetRasters, readShared } from "./rasters";
import { EngineEnded, onEngineEnd, runningEngine } from "./thread";
import type { Answer, AskedWith, QuestionName } from "./thread/questions";
import type { GroundVersions } from "./thread/state";
import type { GroundOrder } from "./thread/worker";

/** A plan as it stands. Its rows are here; whatever is worked out of them is asked of the engine. */
export interface PlanContext {
  readonly rows: PlanRows;
  /** Of these rows; 0 of a state that nothing is kept on. */
  revision: number;
  world: World;
  /** Names what is on the ground. */
  versions: GroundVersions;
  ask: <N extends QuestionName>(name: N, ...asked: AskedWith<N>) => Promise<Answer<N>>;
}

const KEPT_PLANS = 8;

interface Kept {
  stamp: string;
  context: PlanContext;
}
const contexts = new Map<string, Kept>();
/** Contexts being made: whoever asks meanwhile waits for the same one. */
const making = new Map<string, Promise<PlanContext | null>>();

onEngineEnd(() => contexts.clear());

/** Drops all that is kept warm: the database is another one now. */
export function forgetPlans(): void {
  for (const key of contexts.keys()) runningEngine().tell({ kind: "drop", key });
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

/** The context of a plan in the state in which its rows are; null when there is no such plan. */
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
  const kept = (known && (await stepped(store, planId, known))) ?? (await opened(store, planId));
  if (!kept) return null;
  contexts.delete(planId);
  contexts.set(planId, kept);
  const [oldest] = contexts.keys();
  if (contexts.size > KEPT_PLANS) {
    contexts.delete(oldest!);
    runningEngine().tell({ kind: "drop", key: oldest! });
  }
  return kept.context;
}

async function opened(store: Store, planId: string): Promise<Kept | null> {
  const at = await readPlanAt(store.db, planId);
  if (!at) return null;
  const { rows, revision, stamp } = at;
  const ground = await groundOrder(store, rows.layers, rows.areas);
  runningEngine().tell({ kind: "open", key: planId, rows, revision, ground });
  return { stamp, context: contextOf(store, planId, worldOf(rows), revision, ground.versions, rows) };
}

/** The context after an earlier one, by the patches that were kept since; null where they do not lead there. */
async function stepped(store: Store, planId: string, { stamp, context }: Kept): Promise<Kept | null> {
  const since = await patchesSince(store.db, planId, context.revision);
  if (!since || !stamp.startsWith(`${since.createdAt} `)) return null;
  const { patches, revision, createdAt } = since;
  const world = withPatches(context.world, patches);
  const isOtherGround = patches.some(({ kind }) => kind === "layers" || kind === "areas");
  const ground = isOtherGround ? await groundOrder(store, [...world.layers.values()], [...world.areas.values()]) : null;
  // While the ground was read the engine may have ended, and others have begun anew.
  if (contexts.get(planId)?.context !== context) return null;
  runningEngine().tell({ kind: "step", key: planId, patches, revision, ground });
  const versions = ground?.versions ?? context.versions;
  return { stamp: `${createdAt} ${revision}`, context: contextOf(store, planId, world, revision, versions, null) };
}

function contextOf(
  store: Store,
  planId: string,
  world: World,
  revision: number,
  versions: GroundVersions,
  known: PlanRows | null,
): PlanContext {
  let rows = known;
  return {
    world,
    revision,
    versions,
    get rows() {
      return (rows ??= rowsOf(world));
    },
    ask: async <N extends QuestionName>(name: N, ...asked: AskedWith<N>): Promise<Answer<N>> => {
      try {
        return await runningEngine().ask(planId, name, asked[0]);
      } catch (error) {
        if (!(error instanceof EngineEnded)) throw error;
        // What the engine held is read anew, and the question asked once more.
        if (!(await planContext(store, planId))) throw error;
        return runningEngine().ask(planId, name, asked[0]);
      }
    },
  };
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
  const engine = runningEngine();
  engine.tell({ kind: "open", key, rows, revision: 0, ground });
  try {
    return await engine.ask(key, name, asked[0]);
  } finally {
    engine.tell({ kind: "drop", key });
  }
}
