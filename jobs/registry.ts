import { randomUUID } from "node:crypto";

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

interface Job {
  view: JobView;
  stop: AbortController;
}

/** Said inside work that somebody stopped. */
export class Stopped extends Error {}

const jobs = new Map<string, Job>();
const KEPT_JOBS = 100;

export interface JobTools {
  progress(doneShare: number, message: string): void;
  signal: AbortSignal;
  /** Throws Stopped when the work was stopped. */
  check(): void;
}

/** Starts work that reports its progress and can be stopped; what it throws becomes the job's message. */
export function startJob(
  planId: string,
  title: string,
  work: (tools: JobTools) => Promise<{ message: string; resultUrl?: string }>,
): JobView {
  const id = randomUUID();
  const view: JobView = { id, planId, title, doneShare: 0, message: "Starting", state: "running", resultUrl: null };
  const stop = new AbortController();
  if (jobs.size >= KEPT_JOBS) jobs.delete(jobs.keys().next().value!);
  jobs.set(id, { view, stop });
  const tools: JobTools = {
    progress: (doneShare, message) => Object.assign(view, { doneShare, message }),
    signal: stop.signal,
    check: () => {
      if (stop.signal.aborted) throw new Stopped();
    },
  };
  work(tools).then(
    ({ message, resultUrl = null }) => Object.assign(view, { doneShare: 1, message, state: "done", resultUrl }),
    (error: unknown) =>
      Object.assign(view, {
        state: error instanceof Stopped || stop.signal.aborted ? "stopped" : "failed",
        message: stop.signal.aborted
          ? "Stopped; nothing was kept."
          : error instanceof Error
            ? error.message
            : String(error),
      }),
  );
  return view;
}

export function jobOf(planId: string, id: string): JobView | null {
  const job = jobs.get(id);
  return job && job.view.planId === planId ? job.view : null;
}

export function stopJob(planId: string, id: string): boolean {
  const job = jobs.get(id);
  if (!job || job.view.planId !== planId) return false;
  job.stop.abort();
  return true;
}
