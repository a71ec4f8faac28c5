import { availableParallelism } from "node:os";
import type { Patch } from "#core/plan";
import { byPromise } from "#core/search";
import type { PlanContext } from "#engine";
import { askPool, type TaskAnswers } from "#pool";

export type ViewAsk =
  | { kind: "fromSite"; siteId: string; of: "subscribers" | "sites" }
  | { kind: "fromSubscriber"; subscriberId: string }
  | { kind: "tilts" | "headings" | "gains"; radioId: string }
  | { kind: "clientAntennas"; linkId: string }
  | { kind: "attach"; subscriberIds: string[] }
  | { kind: "hurts" }
  | { kind: "schools"; siteId: string; radiusM: number }
  | { kind: "bands"; linkId: string; demandMbps: number };

export interface ViewAnswers {
  rows: TaskAnswers[ViewAsk["kind"]];
  /** Time that the answering took, ms. */
  tookMs: number;
}

/** Answers a question about many paths of a plan under `patches`, by all workers together; RangeError names what is missing. */
export async function askView(
  context: PlanContext,
  patches: Patch[],
  ask: ViewAsk,
  signal?: AbortSignal,
): Promise<ViewAnswers> {
  const options = signal ? { signal } : {};
  if (ask.kind !== "fromSite") {
    const { answer, tookMs } = await askPool(context, patches, ask, options);
    return { rows: answer, tookMs };
  }
  const of = availableParallelism();
  const parts = await Promise.all(
    Array.from({ length: of }, (_, index) => askPool(context, patches, { ...ask, part: { index, of } }, options)),
  );
  return {
    rows: parts.flatMap(({ answer }) => answer).sort(byPromise),
    tookMs: Math.max(...parts.map(({ tookMs }) => tookMs)),
  };
}
