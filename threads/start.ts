import { fork, type ChildProcess } from "node:child_process";
import { setPriority } from "node:os";
import { fileURLToPath } from "node:url";
import { Worker, type TransferListItem } from "node:worker_threads";

/** What runs beside the serving thread: workers and child processes, each from an entry of its own. */
export const SOURCES = {
  plan: "../engine/thread/worker.ts",
  pool: "../pool/worker.ts",
  reader: "../jobs/workers/reader.ts",
  packer: "../jobs/workers/packer.ts",
  database: "../store/thread/worker.ts",
  watch: "../monitoring/worker.ts",
  print: "../app/print/worker.ts",
} as const;
export type ThreadName = keyof typeof SOURCES;

/** Where the built entries lie; from source they are read as they stand. */
const held = globalThis as { tejadoThreads?: URL };

/** Tells where the build put the entries of workers. */
export function useBuiltThreads(folder: URL): void {
  held.tejadoThreads = folder;
}

/** The file that a thread begins with, and the arguments that it wants. */
export function entryOf(name: ThreadName): { file: string; argv: string[] } {
  if (held.tejadoThreads) return { file: fileURLToPath(new URL(`${name}.js`, held.tejadoThreads)), argv: [] };
  const here = import.meta.url;
  return { file: fileURLToPath(new URL("boot.mjs", here)), argv: [new URL(SOURCES[name], here).href] };
}

/**
 * Said by whatever computes for long, at its start: where all cores are busy, whoever serves pages goes first. Linux counts a
 * thread like a process here; elsewhere the serving thread would be put back as well, so nothing is done there.
 */
export function goBehindServing(isWaitedFor = false): void {
  if (process.platform === "linux") setPriority(isWaitedFor ? BEHIND.waitedFor : BEHIND.unseen);
}
/** How far behind, on the system's scale from 0 to 19: work that somebody looks at, and work that nobody waits for. */
const BEHIND = { waitedFor: 4, unseen: 10 };

/** Memory for the newest objects of a thread, MB, where it says nothing else: the default is larger, and every thread has its own. */
const YOUNG_MB = 24;

/** What a thread's memory may grow to. */
export const limitsOf = (heapMB: number, youngMB = YOUNG_MB) => ({
  maxOldGenerationSizeMb: heapMB,
  maxYoungGenerationSizeMb: youngMB,
});

/** Starts a worker thread, with what it is given to work on. */
export function startThread(
  name: ThreadName,
  heapMB: number,
  workerData?: unknown,
  transferList: readonly TransferListItem[] = [],
): Worker {
  const { file, argv } = entryOf(name);
  return new Worker(file, { argv, workerData, transferList: [...transferList], resourceLimits: limitsOf(heapMB) });
}

/**
 * Starts a process of its own: what a damaged file does to the packages that unpack it, endless loops and aborts among them, ends
 * that process and nothing else. It gets `given` as its first message.
 */
export function startProcess(name: ThreadName, given: object, heapMB: number): ChildProcess {
  const { file, argv } = entryOf(name);
  const child = fork(file, argv, {
    serialization: "advanced",
    execArgv: [`--max-old-space-size=${heapMB}`],
    stdio: ["ignore", "ignore", "ignore", "ipc"],
  });
  child.send(given);
  return child;
}
