import type { Worker } from "node:worker_threads";
import { wrap, type Remote } from "comlink";
import nodeEndpoint from "comlink/dist/esm/node-adapter.mjs";
import PQueue from "p-queue";
import { data } from "react-router";
import { startThread } from "../../threads";
import type { DocumentGiven, DocumentName } from "./documents";
import type { Press } from "./worker";

const HEAP_MB = 700;
/** A file that takes longer is given up. */
const LONGEST_MS = 60_000;
/** How long a press that nobody uses is kept: its packages and fonts take memory. */
const IDLE_MS = 60_000;

interface Running {
  worker: Worker;
  press: Remote<Press>;
}
let running: Running | null = null;
let idle: NodeJS.Timeout | undefined;
/** One document at a time: two would only wait for each other, and hold twice the memory. */
const queue = new PQueue({ concurrency: 1 });

function runningPress(): Running {
  if (running) return running;
  const worker = startThread("print", HEAP_MB);
  worker.unref();
  const started: Running = { worker, press: wrap<Press>(nodeEndpoint(worker)) };
  // Whoever waits for a page hears of its end himself; one that breaks down while it waits is only forgotten.
  worker.on("error", () => undefined);
  worker.on("exit", () => {
    if (running === started) running = null;
  });
  running = started;
  return started;
}

function stop(): void {
  void running?.worker.terminate();
  running = null;
}

/**
 * A document as the bytes of its PDF, set beside the serving thread; what it is given must be plain data. Throws a refusal in words
 * where the press breaks down, or takes longer than a reader waits.
 */
export function printed<N extends DocumentName>(name: N, given: DocumentGiven<N>): Promise<Uint8Array<ArrayBuffer>> {
  return queue.add(async () => {
    clearTimeout(idle);
    const { worker, press } = runningPress();
    const { promise: broken, reject } = withReject();
    const end = () => reject(refusal("The thread that sets pages broke down."));
    worker.once("error", end);
    worker.once("exit", end);
    const late = setTimeout(() => {
      reject(refusal(`It was not set within ${LONGEST_MS / 1000} seconds.`));
      stop();
    }, LONGEST_MS);
    // A process that waits for a page does not end before it is set.
    worker.ref();
    try {
      return await Promise.race([press.print(name, given) as Promise<Uint8Array<ArrayBuffer>>, broken]);
    } finally {
      clearTimeout(late);
      worker.off("error", end);
      worker.off("exit", end);
      worker.unref();
      idle = setTimeout(stop, IDLE_MS).unref();
    }
  });
}

const refusal = (why: string) =>
  data(`This file could not be printed. ${why} Ask for it again, or for fewer things at once.`, { status: 503 });

/** A promise that is only ever broken, without a complaint where nobody waits for it any more. */
function withReject(): { promise: Promise<never>; reject: (reason: unknown) => void } {
  let reject: (reason: unknown) => void = () => undefined;
  const promise = new Promise<never>((_, fail) => (reject = fail));
  promise.catch(() => undefined);
  return { promise, reject };
}
