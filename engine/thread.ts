import type { Worker } from "node:worker_threads";
import { startThread } from "../threads";
import type { Answer, AskedWith, QuestionName } from "./thread/questions";
import type { Order, Reply } from "./thread/worker";

const HEAP_MB = 2000;

/** The thread ended while somebody waited for its answer. */
export class EngineEnded extends Error {}

interface Waiting {
  resolve: (answer: unknown) => void;
  reject: (error: Error) => void;
}

/** The thread in which plans are kept warm. */
interface Engine {
  tell: (order: Order) => void;
  ask: <N extends QuestionName>(key: string, name: N, asked: AskedWith<N>[0]) => Promise<Answer<N>>;
  worker: Worker;
}

let engine: Engine | null = null;
/** Told when the thread has ended: what it held is gone. */
const enders = new Set<() => void>();

export function onEngineEnd(ended: () => void): void {
  enders.add(ended);
}

/** The running engine, started when it is first needed and after it has ended. */
export function runningEngine(): Engine {
  if (engine) return engine;
  const worker = startThread("plan", HEAP_MB);
  worker.unref();
  const waiting = new Map<number, Waiting>();
  let count = 0;
  const end = (error?: Error) => {
    if (engine?.worker !== worker) return;
    engine = null;
    for (const ended of enders) ended();
    for (const { reject } of waiting.values())
      reject(new EngineEnded(`the engine ended: ${error?.message ?? "it was stopped"}`));
    waiting.clear();
  };
  worker.on("message", (reply: Reply) => {
    const asker = waiting.get(reply.id);
    waiting.delete(reply.id);
    if (waiting.size === 0) worker.unref();
    if ("failed" in reply) asker?.reject(new Error(reply.failed));
    else asker?.resolve(reply.answer);
  });
  worker.on("error", end);
  worker.on("exit", () => end());
  engine = {
    worker,
    tell: (order) => worker.postMessage(order),
    ask: (key, name, asked) =>
      new Promise((resolve, reject) => {
        const id = count++;
        // A process that waits for an answer does not end before it is there.
        worker.ref();
        waiting.set(id, { resolve: resolve as Waiting["resolve"], reject });
        worker.postMessage({ kind: "ask", id, key, name, asked } satisfies Order);
      }),
  };
  return engine;
}

/** Starts the engine ahead of the first question. */
export const warmEngine = (): void => void runningEngine();

/** Ends the engine; the next question starts another. */
export async function stopEngine(): Promise<void> {
  await engine?.worker.terminate();
}
