import type { Worker } from "node:worker_threads";
import { wrap, type Remote } from "comlink";
import nodeEndpoint from "comlink/dist/esm/node-adapter.mjs";
import { startThread } from "../../threads";
import type { WatchTasks } from "../workers/watch";

/** Heap of a thread, MB, and how long one waits for more work before it is ended, ms. */
const HEAP_MB = 1200;
const IDLE_MS = 30_000;

/** A thread that has ended its work and waits for more. */
interface Idle {
  worker: Worker;
  tasks: Remote<WatchTasks>;
  timer: NodeJS.Timeout;
}
const idle: Idle[] = [];

/** A thread for one piece of work: one that waits, or a new one. */
function taken(): Pick<Idle, "worker" | "tasks"> {
  const known = idle.pop();
  if (known) {
    clearTimeout(known.timer);
    known.worker.ref();
    return known;
  }
  const worker = startThread("watch", HEAP_MB);
  // Whoever has it at work hears of its end himself; one that ends while it waits is only forgotten.
  worker.on("error", () => undefined);
  worker.once("exit", () => {
    const at = idle.findIndex((one) => one.worker === worker);
    if (at >= 0) clearTimeout(idle.splice(at, 1)[0]!.timer);
  });
  return { worker, tasks: wrap<WatchTasks>(nodeEndpoint(worker)) };
}

/** Keeps a thread for the next piece of work. */
function putBack({ worker, tasks }: Pick<Idle, "worker" | "tasks">): void {
  const timer = setTimeout(() => void worker.terminate(), IDLE_MS).unref();
  // Nobody waits for it with ending the process.
  worker.unref();
  idle.push({ worker, tasks, timer });
}

/** Has a thread of its own do work on series for as long as `use` takes. Throws where the thread ends before; what it was at is then gone. */
export async function withWatchThread<T>(
  use: (thread: Remote<WatchTasks>) => Promise<T>,
  signal?: AbortSignal,
): Promise<T> {
  const { worker, tasks } = taken();
  const end = () => void worker.terminate();
  signal?.addEventListener("abort", end, { once: true });
  let tellEnd: () => void = () => undefined;
  const ended = new Promise<never>((_resolve, reject) => {
    tellEnd = () => reject(new Error("Work on the series was broken off."));
    worker.once("exit", tellEnd);
    worker.once("error", tellEnd);
  });
  ended.catch(() => undefined);
  let isWhole = false;
  try {
    const found = await Promise.race([use(tasks), ended]);
    isWhole = true;
    return found;
  } finally {
    signal?.removeEventListener("abort", end);
    worker.removeListener("exit", tellEnd);
    worker.removeListener("error", tellEnd);
    if (isWhole && !signal?.aborted) putBack({ worker, tasks });
    else end();
  }
}
