import type { Store } from "#store";

/** What jobs name that belong to no plan. */
export const NO_PLAN = "-";

/** What long work is done with. */
export interface JobTools {
  progress(doneShare: number, message: string): void;
  signal: AbortSignal;
  /** Throws Stopped when the work was stopped. */
  check(): void;
}

/** One piece of long work as it was ordered. */
export interface JobOrder<Order> {
  id: string;
  planId: string;
  order: Order;
}

/** What long work came to; `result` is kept with the plan. */
export interface JobResult {
  message: string;
  resultUrl?: string;
  result?: unknown;
}

/**
 * A kind of long work. A process may die at any point of it: `work` is then begun anew, in the next one, with the same id, and
 * must find its own traces. `clear` takes away what it left when it is given up.
 */
export interface JobKind<Order> {
  work: (store: Store, job: JobOrder<Order>, tools: JobTools) => Promise<JobResult>;
  clear?: (store: Store, job: JobOrder<Order>) => Promise<void>;
}

/** Why work breaks off that is to be begun again by the next process. */
export const PAUSED = new Error("the process ends");

/** Whether work breaks off because its process ends. */
export const isPaused = (signal: AbortSignal): boolean => signal.reason === PAUSED;
