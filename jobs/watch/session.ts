import { wrap, type Remote } from "comlink";
import nodeEndpoint from "comlink/dist/esm/node-adapter.mjs";
import { startThread } from "../../threads";
import type { WatchTasks } from "../workers/watch";

/** Heap of the thread, MB. */
const HEAP_MB = 1200;

/** Has a thread of its own do work on series for as long as `use` takes. Throws where the thread ends before. */
export async function withWatchThread<T>(
  use: (thread: Remote<WatchTasks>) => Promise<T>,
  signal?: AbortSignal,
): Promise<T> {
  const worker = startThread("watch", HEAP_MB);
  const end = () => void worker.terminate();
  signal?.addEventListener("abort", end, { once: true });
  const ended = new Promise<never>((_resolve, reject) => {
    worker.once("error", reject);
    worker.once("exit", () => reject(new Error("Work on the series was broken off.")));
  });
  ended.catch(() => undefined);
  try {
    return await Promise.race([use(wrap<WatchTasks>(nodeEndpoint(worker))), ended]);
  } finally {
    signal?.removeEventListener("abort", end);
    end();
  }
}
