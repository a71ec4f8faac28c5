// Answers questions about many paths, one task after another. Run by piscina; what it was given last it keeps.
import type { MessagePort } from "node:worker_threads";
import { withPatches, worldOf, type Patch, type PlanRows, type World } from "#core/plan";
import type { SearchProgress } from "#core/search";
import { groundOver, type Ground, type SharedGround } from "#ground";
import { glances, type TaskGround } from "./taskGround";
import { goBehindServing } from "../threads";
import { TASKS, type TaskAsk } from "./tasks";

export interface TaskOrder {
  /** Names of the plan's state and of its ground. */
  planKey: string;
  groundKey: string;
  /** Rows as JSON on shared memory. */
  rows: Uint8Array;
  ground: SharedGround;
  patches: Patch[];
  ask: TaskAsk;
  /** Where progress is told. */
  port?: MessagePort;
}
/** What a task came to; an error is an answer too, so that whatever else goes wrong is the worker's own death. */
export type TaskOutcome = { answer: unknown; tookMs: number } | { failed: Error };

/** What a task says while it is worked on. */
export type Told = { progress: SearchProgress } | { found: unknown };

/** Progress is told no oftener than this, ms. */
const TELL_MS = 100;

goBehindServing();
let world: { key: string; value: World } | null = null;
let ground: { key: string; value: Ground } | null = null;

function worldFor({ planKey, rows }: TaskOrder): World {
  if (world?.key !== planKey)
    world = { key: planKey, value: worldOf(JSON.parse(new TextDecoder().decode(rows.slice())) as PlanRows) };
  return world.value;
}

function groundFor(order: TaskOrder): Ground {
  if (ground?.key !== order.groundKey) ground = { key: order.groundKey, value: groundOver(order.ground) };
  return ground.value;
}

export default async function work(order: TaskOrder): Promise<TaskOutcome> {
  const start = performance.now();
  try {
    const over = groundFor(order);
    let told = 0;
    const given: TaskGround = {
      world: withPatches(worldFor(order), order.patches),
      ground: over,
      between: glances(over),
      progress: (now) => {
        if (performance.now() - told < TELL_MS) return;
        told = performance.now();
        order.port?.postMessage({ progress: now } satisfies Told);
      },
      found: (something) => order.port?.postMessage({ found: something } satisfies Told),
    };
    const answer = await (TASKS[order.ask.kind] as (given: TaskGround, ask: TaskAsk) => unknown)(given, order.ask);
    return { answer, tookMs: performance.now() - start };
  } catch (error) {
    return { failed: error as Error };
  } finally {
    order.port?.close();
  }
}
