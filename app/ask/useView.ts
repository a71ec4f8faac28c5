import type { ViewAnswers, ViewAsk } from "#pool";
import type { Patch } from "#core/plan";
import { useAnswer } from "./useAnswer";

/** A drag changes the plan many times a second; the question waits until it rests. */
const REST_MS = 250;

export interface ViewState<Row> {
  rows: Row[] | null;
  tookMs: number;
  failed: string | null;
  /** A newer question is on its way. */
  isStale: boolean;
}

/**
 * Asks the server about many paths of a plan with the draft, again whenever either changes; `ask` null asks nothing. While the draft
 * changes, the answer under the draft of before is shown.
 */
export function useView<Row>(planId: string, patches: readonly Patch[], ask: ViewAsk | null): ViewState<Row> {
  const address = `/plans/${planId}/views`;
  const { answer, ...state } = useAnswer<ViewAnswers>(
    ask && { address, body: { ask, patches }, about: `${planId} ${JSON.stringify(ask)}` },
    { restMs: REST_MS },
  );
  return { ...state, rows: (answer?.rows as Row[] | undefined) ?? null, tookMs: answer?.tookMs ?? 0 };
}
