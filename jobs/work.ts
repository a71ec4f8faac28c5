import { FileRefused } from "#formats/refused";
import { randomUUID } from "node:crypto";
import { setMaxListeners } from "node:events";
import { setTimeout } from "node:timers/promises";
import PQueue from "p-queue";
import {
  askToStop,
  beginJob,
  endJob,
  keepAlive,
  openJob,
  pauseJob,
  putJob,
  readJob,
  tellJob,
  type JobRow,
  type Store,
} from "#store";
import { Stopped } from "#pool";
import { KINDS, type KindName, type Orders } from "./kinds";
import { MOST_TRIES, openQueue, type Queue } from "./queue";
import { isPaused, PAUSED, type JobKind, type JobTools } from "./tools";

/** Long work as its watchers see it. */
export interface JobView {
  id: string;
  planId: string;
  title: string;
  /** From 0 to 1. */
  doneShare: number;
  /** What is being done, or what came of it. */
  message: string;
  state: "running" | "done" | "failed" | "stopped";
  /** Where the result lies, if it is something to fetch. */
  resultUrl: string | null;
}

/** Jobs that run at once in one process. */
const MOST_AT_ONCE = 4;
/** How often a process says that it is alive, and looks for jobs that others left, ms. */
const BEAT_MS = 5000;
/** Progress is written no oftener than this, ms; whoever asks this process is told the newest. */
const TELL_MS = 2000;
/** How long a pause waits for what is at work to break off, ms. */
const LONGEST_PAUSE_MS = 5000;
const STOPPED = "Stopped; nothing was kept.";

interface Running {
  stop: AbortController;
  doneShare: number;
  message: string;
  toldAt: number;
  /** When nothing of it is at work any more. */
  ended: Promise<unknown>;
}

/** A store's long work in this process. */
interface Work {
  queue: Queue;
  running: Map<string, Running>;
  timer: NodeJS.Timeout;
  /** Looks whose turn it is. */
  look: () => Promise<void>;
  /** Begins nothing more. */
  end: () => Promise<void>;
}

const held = globalThis as { tejadoWork?: Map<Store, Promise<Work>> };
const works = (held.tejadoWork ??= new Map());

function workOf(store: Store): Promise<Work> {
  const known = works.get(store);
  if (known) return known;
  const opening = open(store).catch((error: unknown) => {
    works.delete(store);
    throw error;
  });
  works.set(store, opening);
  return opening;
}

/** Begins to work on what waits in a store, and goes on with what an earlier process left. */
export async function startWork(store: Store): Promise<void> {
  await (await workOf(store)).look();
}

/** Stops working on a store's jobs; they stay where they are, and go on with the next process. */
export async function pauseWork(store: Store): Promise<void> {
  const work = await works.get(store);
  works.delete(store);
  if (!work) return;
  clearInterval(work.timer);
  await work.end();
  await work.queue.close();
  const jobs = [...work.running.values()];
  for (const { stop } of jobs) stop.abort(PAUSED);
  // Whatever is still at work on the store must not meet another one in its place.
  await Promise.race([Promise.all(jobs.map(({ ended }) => ended)), setTimeout(LONGEST_PAUSE_MS, null, { ref: false })]);
}

async function open(store: Store): Promise<Work> {
  const queue = await openQueue(store);
  const running = new Map<string, Running>();
  /** Whose turn it is is asked by one at a time. */
  const turns = new PQueue({ concurrency: 1 });
  /** A job over which a process died waits until nothing else is at work: if this one ends over it too, nothing else is to blame. */
  let suspect: string | null = null;
  let isAlone = false;
  let isEnded = false;
  /** Begins the job whose turn it is; false where none is to be begun now. */
  const beginNext = async (): Promise<boolean> => {
    if (isEnded || isAlone || running.size >= MOST_AT_ONCE) return false;
    const id = suspect ?? (await queue.next());
    if (id === null) return false;
    if (suspect === null && ((await readJob(store.db, id))?.tries ?? 0) > 0) suspect = id;
    if (suspect !== null && running.size > 0) return false;
    isAlone = suspect !== null;
    suspect = null;
    begin(id);
    return true;
  };
  const look = async () => {
    while (await turns.add(beginNext));
  };
  const end = async () => {
    isEnded = true;
    await turns.onIdle();
  };
  const begin = (id: string) => {
    const job: Running = {
      stop: new AbortController(),
      doneShare: 0,
      message: "Starting",
      toldAt: performance.now(),
      ended: Promise.resolve(),
    };
    // A job may ask the pool many things at once, each of which listens for its end.
    setMaxListeners(0, job.stop.signal);
    running.set(id, job);
    const working = async () => {
      await run(store, id, job);
      running.delete(id);
      isAlone = false;
      if (isPaused(job.stop.signal)) return;
      await queue.done(id);
      await look();
    };
    // What the queue is not told now it is told by the next process; a failed look is followed by that of the next job.
    job.ended = working().catch(() => undefined);
  };
  const beat = async () => {
    // One that waits to be alone is this process's too: no other may take it over.
    const mine = [...running.keys(), ...(suspect === null ? [] : [suspect])];
    for (const id of await keepAlive(store.db, mine)) running.get(id)?.stop.abort();
    if (store.isOnServer) await queue.recover(false);
    await look();
  };
  await queue.recover(true);
  // A beat that fails is followed by another.
  const timer = setInterval(() => {
    if (running.size > 0 || store.isOnServer) beat().catch(() => undefined);
  }, BEAT_MS).unref();
  return { queue, running, timer, look, end };
}

/** Why work failed, in words for people: what was refused says so itself; what Tejado or its database stumbled over stands in the log. */
function failureWords(error: unknown): string {
  const isOurs =
    error instanceof Error && !(error instanceof TypeError || error instanceof SyntaxError || "severity" in error);
  if (isOurs) return error instanceof FileRefused ? error.told : error.message;
  // Never the error itself: one of the database carries rows along.
  console.error(error instanceof Error ? error.stack : "no error");
  return "This failed for a reason of Tejado’s own, which stands in its log. Nothing of it was kept.";
}

/** Works on one job to its end, and writes what came of it. */
async function run(store: Store, id: string, job: Running): Promise<void> {
  const { signal } = job.stop;
  const tools: JobTools = {
    signal,
    progress: (doneShare, message) => {
      Object.assign(job, { doneShare, message });
      if (performance.now() - job.toldAt < TELL_MS) return;
      job.toldAt = performance.now();
      tellJob(store.db, id, doneShare, message).catch(() => undefined);
    },
    check: () => {
      if (signal.aborted) throw new Stopped();
    },
  };
  let outcome: Parameters<typeof endJob>[2];
  try {
    const row = await beginJob(store.db, id);
    if (!row) return;
    outcome = await workedOn(store, row, tools);
  } catch (error) {
    // What was done before anybody could stop it is done.
    outcome = signal.aborted
      ? { state: "stopped", message: STOPPED }
      : { state: "failed", message: failureWords(error) };
    // A process that ends in good order is no death.
    if (isPaused(signal)) return void (await pauseJob(store.db, id).catch(() => undefined));
  }
  await endJob(store.db, id, outcome).catch(() => undefined);
}

async function workedOn(
  store: Store,
  { id, planId, kind, order, tries, stopAsked }: JobRow,
  tools: JobTools,
): Promise<Parameters<typeof endJob>[2]> {
  if (stopAsked) return { state: "stopped", message: STOPPED };
  const own = KINDS[kind as KindName] as JobKind<unknown>;
  if (tries > MOST_TRIES) {
    await own.clear?.(store, { id, planId, order });
    return {
      state: "failed",
      message: `Tejado ended ${MOST_TRIES} times while it worked on this, the last time on nothing else; it was given up, and nothing was kept.`,
    };
  }
  return { state: "done", ...(await own.work(store, { id, planId, order }, tools)) };
}

/** Puts long work into the queue. It outlives the process: what breaks off begins anew with the next one. */
export async function submit<K extends KindName>(
  store: Store,
  kind: K,
  planId: string,
  title: string,
  order: Orders[K],
): Promise<JobView> {
  const work = await workOf(store);
  const id = randomUUID();
  await store.db.transaction(async (tx) => {
    await putJob(tx, { id, planId, kind, title, order });
    await work.queue.put(tx, id);
  });
  // A look that fails is followed by that of the next job.
  work.look().catch(() => undefined);
  return { id, planId, title, doneShare: 0, message: "Starting", state: "running", resultUrl: null };
}

/** How a job stands; null where a plan has none of that id. */
export async function jobOf(store: Store, planId: string, id: string): Promise<JobView | null> {
  const row = await readJob(store.db, id);
  if (!row || row.planId !== planId) return null;
  const { title, state, resultUrl } = row;
  const now = state === "running" ? (await works.get(store))?.running.get(id) : undefined;
  const { doneShare, message } = now ?? row;
  return { id, planId, title, doneShare, message, state: state === "waiting" ? "running" : state, resultUrl };
}

/** The newest job of a kind that a plan has under way; null without any. */
export async function jobUnderWay(store: Store, planId: string, kind: KindName): Promise<JobView | null> {
  const row = await openJob(store.db, planId, kind);
  return row && jobOf(store, planId, row.id);
}

/** Stops a job, in this process or another. Answers whether it was still waiting or running. */
export async function stopJob(store: Store, planId: string, id: string): Promise<boolean> {
  const isStopped = await askToStop(store.db, planId, id, STOPPED);
  if (isStopped) (await works.get(store))?.running.get(id)?.stop.abort();
  return isStopped;
}
