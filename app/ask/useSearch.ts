import type { JobView } from "#jobs";
import type { Patch } from "#core/plan";
import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useState } from "react";
import { useAddress } from "../ui";
import { requestJson } from "./request";
import { useAnswer } from "./useAnswer";
import { useJob } from "./useJob";

/** Where the address names a search that goes on, or has ended, while its page is loaded again. */
const PARAMETER = "search";

/**
 * A long search of a plan: begun with the draft, followed, stopped, and its result once it has one. With `isKept` the address names it, so
 * that a page that is loaded again finds it running or done.
 */
export function useSearch<Result>(planId: string, isKept = false) {
  const [parameters, setParameters] = useAddress();
  const [resultUrl, setResultUrl] = useState<string | null>(null);
  const [refused, setRefused] = useState<string | null>(null);
  const onEnd = useCallback((job: JobView) => {
    if (job.state === "done") setResultUrl(job.resultUrl);
  }, []);
  const { job, follow, stop } = useJob(`/plans/${planId}/jobs`, onEnd);
  const named = isKept ? parameters.get(PARAMETER) : null;
  // One that was just begun is followed already; the address names it a moment later.
  const isFollowed = job?.id === named || job?.state === "running";
  const { data: known, error } = useQuery<JobView>({
    queryKey: ["search", planId, named],
    enabled: named !== null && !isFollowed,
    queryFn: ({ signal }) => requestJson<JobView>(`/plans/${planId}/jobs/${encodeURIComponent(named!)}`, { signal }),
  });
  useEffect(() => {
    if (!known || isFollowed) return;
    follow(known);
    if (known.state !== "running") onEnd(known);
  }, [known, isFollowed, follow, onEnd]);
  const result = useAnswer<Result>(resultUrl === null ? null : { address: resultUrl });

  const start = async (ask: object, patches: readonly Patch[]) => {
    setRefused(null);
    setResultUrl(null);
    try {
      const begun = await requestJson<JobView>(`/plans/${planId}/searches`, { body: { ask, patches } });
      follow(begun);
      if (isKept) setParameters((params) => params.set(PARAMETER, begun.id), { replace: true });
    } catch (failure) {
      setRefused((failure as Error).message);
    }
  };
  const failed = refused ?? result.failed ?? (isFollowed ? null : (error?.message ?? null));
  return { job, result: result.answer, failed, start, stop };
}
