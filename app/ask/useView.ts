import type { ViewAnswers, ViewAsk } from "#pool";
import type { Patch } from "#core/plan";
import { useEffect, useState } from "react";
import { said } from "./said";

/** A drag changes the plan many times a second; the question waits until it rests. */
const REST_MS = 250;

export interface ViewState<Row> {
  rows: Row[] | null;
  tookMs: number;
  failed: string | null;
  /** A newer question is on its way. */
  isStale: boolean;
}

/** Asks the server about many paths of a plan with the change in hand, again whenever either changes; `ask` null asks nothing. */
export function useView<Row>(planId: string, patches: readonly Patch[], ask: ViewAsk | null): ViewState<Row> {
  const body = ask && JSON.stringify({ ask, patches });
  const [state, setState] = useState<{ body: string | null; answers: ViewAnswers | null; failed: string | null }>({
    body: null,
    answers: null,
    failed: null,
  });
  useEffect(() => {
    if (!body) return;
    const stop = new AbortController();
    const timer = setTimeout(() => {
      const answered = async () => {
        const response = await fetch(`/plans/${planId}/views`, {
          method: "POST",
          headers: { "Content-Type": "application/json" },
          body,
          signal: stop.signal,
        });
        if (!response.ok) throw new Error(await said(response));
        setState({ body, answers: (await response.json()) as ViewAnswers, failed: null });
      };
      answered().catch((error: unknown) => {
        if (!stop.signal.aborted)
          setState({ body, answers: null, failed: error instanceof Error ? error.message : String(error) });
      });
    }, REST_MS);
    return () => {
      clearTimeout(timer);
      stop.abort();
    };
  }, [planId, body]);
  // What was asked about another place is no answer about this one; the same place under an older change is, for a moment.
  const sameAsk = state.body !== null && ask !== null && state.body.startsWith(JSON.stringify({ ask }).slice(0, -1));
  return {
    rows: sameAsk ? ((state.answers?.rows as Row[] | undefined) ?? null) : null,
    tookMs: state.answers?.tookMs ?? 0,
    failed: sameAsk ? state.failed : null,
    isStale: state.body !== body,
  };
}
