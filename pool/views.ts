import { availableParallelism } from "node:os";
import type { Patch } from "#core/plan";
import { mergedHurts } from "#core/channels";
import { byPromise } from "#core/search";
import type { PlanContext } from "#engine";
import type { ViewAsk } from "./asks";
import { askPool } from "./pool";
import type { Part } from "./taskGround";
import type { TaskAnswers, TaskAsk } from "./tasks";

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
  if (ask.kind !== "fromSite" && ask.kind !== "hurts") {
    const { answer, tookMs } = await askPool(context, patches, ask, options);
    return { rows: answer, tookMs };
  }
  const of = availableParallelism();
  const inParts = async <A extends TaskAsk>(askOf: (part: Part) => A) => {
    const parts = await Promise.all(
      Array.from({ length: of }, (_, index) => askPool(context, patches, askOf({ index, of }), options)),
    );
    return { parts: parts.map(({ answer }) => answer), tookMs: Math.max(...parts.map(({ tookMs }) => tookMs)) };
  };
  if (ask.kind === "hurts") {
    const { parts, tookMs } = await inParts((part) => ({ kind: "hurts", part }));
    return { rows: mergedHurts(parts), tookMs };
  }
  const { parts, tookMs } = await inParts((part) => ({ ...ask, part }));
  return { rows: parts.flat().sort(byPromise), tookMs };
}
