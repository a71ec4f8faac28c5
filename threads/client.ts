import type { TransferListItem, Worker } from "node:worker_threads";
import { wrap, type Remote } from "comlink";
import nodeEndpoint from "comlink/dist/esm/node-adapter.mjs";
import { startThread, type ThreadName } from "./start";

/** A thread ended, or was ended, while somebody waited for it. */
export class ThreadEnded extends Error {
  constructor(
    message: string,
    /** Whether it was ended because its work took longer than is waited for. */
    readonly isLate = false,
  ) {
    super(message);
  }
}

export interface ClientOptions {
  heapMB: number;
  /** How long a thread that nobody uses is kept, ms; 0 ends it at once, and it is kept for good where left out. */
  idleMs?: number;
  /** Whether each use has a thread to itself; else all share one. */
  isExclusive?: boolean;
  workerData?: unknown;
  transferList?: readonly TransferListItem[];
  /** Told when a thread has ended by itself or by `stop`, with why. */
  onEnd?: (why: string) => void;
  /** Starts a thread where it is not one of Tejado's own. */
  start?: () => Worker;
}

interface UseOptions {
  /** Ends the work together with its thread. */
  signal?: AbortSignal;
  /** The longest that the work may take, ms. */
  mostMs?: number;
}

interface ThreadClient<Tasks> {
  /**
   * Has a thread work for as long as `work` takes; `work` begins at once, so that what is told a shared thread arrives in the order in
   * which it was told. Throws what the tasks throw, and ThreadEnded where the thread ends before.
   */
  use: <T>(work: (tasks: Remote<Tasks>) => Promise<T>, options?: UseOptions) => Promise<T>;
  /** Starts a shared thread ahead of its first use. */
  warm: () => void;
  /** Ends all threads; the next use starts another. */
  stop: () => Promise<void>;
}

interface Running<Tasks> {
  worker: Worker;
  tasks: Remote<Tasks>;
  /** Never kept: broken when the thread ends. */
  ended: Promise<never>;
  users: number;
  idle: NodeJS.Timeout | undefined;
  /** Whether it is being ended: a thread takes a while to end, and nobody new gets it meanwhile. */
  isEnding: boolean;
}

/**
 * The client of one kind of thread: starts threads when they are needed and after they have ended, keeps the process alive only while
 * somebody waits, and tells whoever waits when a thread ends.
 */
export function threadClient<Tasks>(name: ThreadName, options: ClientOptions): ThreadClient<Tasks> {
  // Packages that start workers of their own look for theirs in what a thread was given: none is an object without it.
  const { heapMB, idleMs, isExclusive = false, workerData = {}, transferList, onEnd } = options;
  const running = new Set<Running<Tasks>>();

  const started = (): Running<Tasks> => {
    const worker = options.start?.() ?? startThread(name, heapMB, workerData, transferList);
    worker.unref();
    let tell: (why: string) => void = () => undefined;
    const ended = new Promise<never>((_, reject) => (tell = (why) => reject(new ThreadEnded(why))));
    // Where nobody waits, nobody complains.
    ended.catch(() => undefined);
    const one: Running<Tasks> = {
      worker,
      tasks: wrap<Tasks>(nodeEndpoint(worker)),
      ended,
      users: 0,
      idle: undefined,
      isEnding: false,
    };
    const end = (why: string) => {
      if (!running.delete(one)) return;
      clearTimeout(one.idle);
      onEnd?.(why);
      tell(why);
    };
    worker.on("error", (error: Error) => end(`the ${name} thread broke down: ${error.message}`));
    worker.on("exit", (code) => end(`the ${name} thread ended with ${code}`));
    running.add(one);
    return one;
  };
  const taken = (): Running<Tasks> => {
    for (const one of running) if (!one.isEnding && (!isExclusive || one.users === 0)) return one;
    return started();
  };
  const halt = (one: Running<Tasks>) => {
    one.isEnding = true;
    return one.worker.terminate();
  };
  const leave = (one: Running<Tasks>, isBroken: boolean) => {
    if (--one.users > 0) return;
    one.worker.unref();
    if (isBroken || idleMs === 0) void halt(one);
    else if (idleMs !== undefined && running.has(one)) one.idle = setTimeout(() => void halt(one), idleMs).unref();
  };

  return {
    use: async (work, { signal, mostMs } = {}) => {
      signal?.throwIfAborted();
      const one = taken();
      clearTimeout(one.idle);
      one.users++;
      // A process that waits for an answer does not end before it is there.
      one.worker.ref();
      let late: NodeJS.Timeout | undefined;
      let refuse: (error: ThreadEnded) => void = () => undefined;
      const broken = new Promise<never>((_, reject) => (refuse = reject));
      const breakOff = () => void halt(one);
      signal?.addEventListener("abort", breakOff, { once: true });
      if (mostMs !== undefined)
        late = setTimeout(() => {
          refuse(new ThreadEnded(`the ${name} thread took longer than ${mostMs / 1000} s`, true));
          breakOff();
        }, mostMs);
      let isWhole = false;
      try {
        const found = await Promise.race([work(one.tasks), one.ended, broken]);
        isWhole = true;
        return found;
      } finally {
        clearTimeout(late);
        signal?.removeEventListener("abort", breakOff);
        // Work that was broken off may still hold what it was at: nobody else gets that thread.
        leave(one, isExclusive && !isWhole);
      }
    },
    warm: () => void taken(),
    stop: async () => {
      await Promise.all([...running].map(halt));
    },
  };
}
