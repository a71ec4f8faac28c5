import type { Remote } from "comlink";
import { threadClient, ThreadEnded } from "../threads";
import type { WatchTasks } from "./worker";

/** Heap of a thread, MB, and how long one waits for more work before it is ended, ms. */
const HEAP_MB = 1200;
const IDLE_MS = 30_000;

const threads = threadClient<WatchTasks>("watch", { heapMB: HEAP_MB, idleMs: IDLE_MS, isExclusive: true });

/** Has a thread of its own do work on series for as long as `use` takes. Throws where the thread ends before; what it was at is then gone. */
export const withWatchThread = <T>(use: (thread: Remote<WatchTasks>) => Promise<T>, signal?: AbortSignal): Promise<T> =>
  threads.use(use, signal ? { signal } : {}).catch((error: unknown) => {
    throw error instanceof ThreadEnded ? new Error("Work on the series was broken off.", { cause: error }) : error;
  });
