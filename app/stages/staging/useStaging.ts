import type { StagingNote } from "#core/staging";
import { useCallback, useMemo } from "react";
import { useBeside } from "../../ask/useBeside";
import { useJob } from "../../ask/useJob";
import type { BenchAnswer, BenchAsk } from "./act.server";

/** A plan's bench: what was noted of each device, a run on the practice bench, and the ways to act on both. */
export function useStaging(planId: string) {
  const { kept, failed, look, ask } = useBeside<StagingNote[], BenchAsk, BenchAnswer>(`/plans/${planId}/staging/notes`);
  const notes = useMemo(() => kept && new Map(kept.map((note) => [note.radioId, note])), [kept]);
  const onEnd = useCallback(() => void look(), [look]);
  const { job, follow, stop } = useJob(`/plans/${planId}/jobs`, onEnd);
  const act = async (what: BenchAsk): Promise<BenchAnswer | null> => {
    const answer = await ask(what);
    if (answer?.job) follow(answer.job);
    else if (what.intent !== "secret") await look();
    return answer;
  };
  return { notes, failed, job, stop, act };
}
