import { createHash } from "node:crypto";
import { availableParallelism } from "node:os";
import { MessageChannel, type Worker } from "node:worker_threads";
import { Piscina } from "piscina";
import type { Patch } from "#core/plan";
import type { SearchProgress } from "#core/search";
import type { PlanContext } from "#engine";
import { entryOf, limitsOf } from "../threads";
import type { TaskAnswers, TaskAsk } from "./tasks";
import type { TaskOrder, TaskOutcome, Told } from "./worker";

const HEAP_MB = 900;
/** Rows of many paths come and go: with more room for the newest they are cleared away half as often. */
const YOUNG_MB = 48;
/** A worker with nothing to do ends after this, ms. */
const IDLE_MS = 120_000;

/** Thrown by work that was stopped. */
export class Stopped extends Error {}

let pool: Piscina | null = null;

function runningPool(): Piscina {
  if (pool) return pool;
  const { file, argv } = entryOf("pool");
  pool = new Piscina({
    filename: file,
    argv,
    minThreads: 0,
    maxThreads: availableParallelism(),
    idleTimeout: IDLE_MS,
    resourceLimits: limitsOf(HEAP_MB, YOUNG_MB),
  });
  // Whose task it was is told by the task's own promise.
  pool.on("error", () => undefined);
  return pool;
}

/** Ends all workers; the next question starts others. */
export async function stopPool(): Promise<void> {
  const ended = pool;
  pool = null;
  await ended?.destroy();
}

/** Workers of the pool, for whoever looks after them. */
export const poolThreads = (): readonly Worker[] => pool?.threads ?? [];

/** What a task came to. */
export interface Answered<T> {
  answer: T;
  /** Time that the answering took a worker, ms; not how long it waited for its turn. */
  tookMs: number;
}

interface UnderWay {
  answer: Promise<Answered<unknown>>;
  /** Who waits for it: the last one to leave stops it. */
  askers: number;
  stop: AbortController;
  hear: Set<(told: Told) => void>;
}
/** Tasks that are being worked on, by the hash of all that goes into them: equal questions are answered once. */
const underWay = new Map<string, UnderWay>();

/** Columns of numbers go in as their bytes: as JSON each number would carry its place as a name. */
const flat = (_key: string, value: unknown) =>
  ArrayBuffer.isView(value) ? Buffer.from(value.buffer, value.byteOffset, value.byteLength).toString("base64") : value;
const hashOf = (things: unknown) => createHash("sha256").update(JSON.stringify(things, flat)).digest("hex");

/** Runs a task, once more where its worker died; a task over which three workers die is given up. */
async function worked(order: TaskOrder, signal: AbortSignal, hear: (told: Told) => void): Promise<Answered<unknown>> {
  for (let tries = 1; ; tries++) {
    const { port1, port2 } = new MessageChannel();
    port1.on("message", hear);
    port1.unref();
    let outcome: TaskOutcome;
    try {
      const options = { signal, transferList: [port2] };
      outcome = (await runningPool().run({ ...order, port: port2 }, options)) as TaskOutcome;
    } catch (error) {
      if (signal.aborted) throw new Stopped();
      if (tries === MOST_TRIES) throw new Error("Its workers died over this; it was given up.", { cause: error });
      continue;
    } finally {
      port1.close();
    }
    if ("failed" in outcome) throw outcome.failed;
    return outcome;
  }
}
const MOST_TRIES = 3;

export interface TaskOptions {
  signal?: AbortSignal;
  progress?: (now: SearchProgress) => void;
  /** Is handed what the task finds on its way. */
  found?: (something: unknown) => void;
}

/** Asks the pool a question about a plan under some patches. RangeError names what the plan lacks; Stopped where `signal` says so. */
export async function askPool<A extends TaskAsk>(
  context: PlanContext,
  patches: Patch[],
  ask: A,
  { signal, progress, found }: TaskOptions = {},
): Promise<Answered<TaskAnswers[A["kind"]]>> {
  const { plan } = context;
  const planKey = `${plan.id} ${plan.createdAt} ${context.revision}`;
  const groundKey = `${plan.id} ${context.versions.terrain}`;
  const key = hashOf([planKey, groundKey, patches, ask]);
  const known = underWay.get(key) ?? begin(key, context, { planKey, groundKey, patches, ask });
  known.askers++;
  const hear = (told: Told) => ("found" in told ? found?.(told.found) : progress?.(told.progress));
  known.hear.add(hear);
  let leave = () => undefined as void;
  const left = new Promise<never>((_resolve, reject) => {
    leave = () => {
      reject(new Stopped());
      if (--known.askers > 0) return;
      // Whoever asks the same from now on begins it anew.
      underWay.delete(key);
      known.stop.abort();
    };
  });
  if (signal?.aborted) leave();
  signal?.addEventListener("abort", leave, { once: true });
  try {
    return (await Promise.race([known.answer, left])) as Answered<TaskAnswers[A["kind"]]>;
  } finally {
    signal?.removeEventListener("abort", leave);
    known.hear.delete(hear);
  }
}

/** Begins a task that nobody is at work on. */
function begin(
  key: string,
  context: PlanContext,
  asked: Pick<TaskOrder, "planKey" | "groundKey" | "patches" | "ask">,
): UnderWay {
  const stop = new AbortController();
  const hear: UnderWay["hear"] = new Set();
  const answer = context
    .ask("shared")
    .then((shared) => worked({ ...shared, ...asked }, stop.signal, (told) => hear.forEach((one) => one(told))))
    .finally(() => {
      if (underWay.get(key) === begun) underWay.delete(key);
    });
  // Whoever asked hears of a failure; where all have left, nobody needs to.
  answer.catch(() => undefined);
  const begun: UnderWay = { answer, askers: 0, stop, hear };
  underWay.set(key, begun);
  return begun;
}
