import type { Worker } from "node:worker_threads";
import { withPatches, type Patch } from "#core/plan";
import { boundsOf } from "#core/terrain";
import { cutGently } from "./cut";
import type { PlanContext } from "#engine";
import { startWorker } from "./startWorker";
import type { ViewAnswers, ViewAsk, ViewMessage, ViewOrder } from "./workers/views";

export type { ViewAnswers, ViewAsk } from "./workers/views";

const WORKER_HEAP_MB = 900;
/** Ground about a plan's places that its worker is given, m. */
const MARGIN_M = 500;

interface Waiting {
  resolve(answers: ViewAnswers): void;
  reject(error: Error): void;
}
let worker: Worker | null = null;
const waiting = new Map<number, Waiting>();
let questions = 0;
/** What the worker holds, and the last question on its way to it: they go in the order in which they were asked. */
const NOTHING = { rows: null as unknown, terrainVersion: "", bounds: "" };
let held = NOTHING;
let turn: Promise<unknown> = Promise.resolve();

function failAll(error: Error): void {
  worker = null;
  held = NOTHING;
  for (const { reject } of waiting.values()) reject(error);
  waiting.clear();
}

function startedWorker(): Worker {
  if (worker) return worker;
  worker = startWorker("views.ts", {}, WORKER_HEAP_MB);
  worker.unref();
  worker.on("message", (message: ViewMessage) => {
    const asker = waiting.get(message.id);
    waiting.delete(message.id);
    if ("failed" in message) asker?.reject(new RangeError(message.failed));
    else asker?.resolve(message.answers);
  });
  worker.on("error", failAll);
  worker.on("exit", () => failAll(new Error("the worker for views ended")));
  return worker;
}

/** Starts the worker ahead of the first question, so that it does not wait for it. */
export function warmViews(): void {
  startedWorker();
}

/** Ends the worker; the next question starts another. */
export async function stopViews(): Promise<void> {
  await worker?.terminate();
}

/** Answers a question about many paths of a plan under `patches` in a worker that stays; RangeError names what is missing. */
export function askView(context: PlanContext, patches: Patch[], ask: ViewAsk): Promise<ViewAnswers> {
  const sent = turn.then(() => sendView(context, patches, ask));
  turn = sent.then(
    () => undefined,
    () => undefined,
  );
  return sent.then(({ answers }) => answers);
}

/** Hands a question to the worker; done when it is on its way, with the promise of its answers. */
async function sendView(
  context: PlanContext,
  patches: Patch[],
  ask: ViewAsk,
): Promise<{ answers: Promise<ViewAnswers> }> {
  const world = withPatches(context.world, patches);
  const places = [...world.sites.values(), ...world.subscribers.values()];
  const bounds = boundsOf(places, MARGIN_M);
  const order: ViewOrder = { id: questions++, patches, ask };
  const boundsKey = bounds.join(",");
  const asked = startedWorker();
  if (held.rows !== context.rows) order.rows = { ...context.rows, photos: [], overlays: [] };
  if (held.terrainVersion !== context.terrainVersion || held.bounds !== boundsKey)
    order.cut = await cutGently(context.terrain, bounds);
  held = { rows: context.rows, terrainVersion: context.terrainVersion, bounds: boundsKey };
  const answers = new Promise<ViewAnswers>((resolve, reject) => waiting.set(order.id, { resolve, reject }));
  asked.postMessage(order);
  return { answers };
}
