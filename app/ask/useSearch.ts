import type { JobView } from "#jobs";
import type { Patch } from "#core/plan";
import { useCallback, useEffect, useState } from "react";
import { useAddress } from "../ui";
import { useJob } from "./useJob";
import { said } from "./said";

/** Where the address names a search that goes on, or has ended, while its page is loaded again. */
const PARAMETER = "search";

/**
 * A long search of a plan: begun under the change in hand, followed, stopped, and its result once it has one. With `isKept` the address
 * names it, so that a page that is loaded again finds it running or done.
 */
export function useSearch<Result>(planId: string, isKept = false) {
  const [parameters, setParameters] = useAddress();
  const [found, setFound] = useState<{ result: Result | null; failed: string | null }>({ result: null, failed: null });
  const onEnd = useCallback((job: JobView) => {
    if (job.state !== "done" || !job.resultUrl) return;
    fetch(job.resultUrl)
      .then(async (response) => {
        if (!response.ok) throw new Error(await said(response));
        setFound({ result: (await response.json()) as Result, failed: null });
      })
      .catch((error: Error) => setFound({ result: null, failed: error.message }));
  }, []);
  const { job, follow, stop } = useJob(`/plans/${planId}/jobs`, onEnd);
  const named = isKept ? parameters.get(PARAMETER) : null;
  // One that was just begun is followed already; the address names it a moment later.
  const isFollowed = job?.id === named || job?.state === "running";
  useEffect(() => {
    if (!named || isFollowed) return;
    let isOver = false;
    fetch(`/plans/${planId}/jobs/${encodeURIComponent(named)}`)
      .then(async (response) => {
        if (isOver) return;
        if (!response.ok) return setFound({ result: null, failed: await said(response) });
        const known = (await response.json()) as JobView;
        follow(known);
        if (known.state !== "running") onEnd(known);
      })
      .catch(() => undefined);
    return () => {
      isOver = true;
    };
  }, [planId, named, isFollowed, follow, onEnd]);

  const start = async (ask: object, patches: readonly Patch[]) => {
    setFound({ result: null, failed: null });
    const response = await fetch(`/plans/${planId}/searches`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({ ask, patches }),
    }).catch(() => null);
    if (!response?.ok)
      return setFound({ result: null, failed: response ? await said(response) : "Tejado does not answer; try again." });
    const begun = (await response.json()) as JobView;
    follow(begun);
    if (isKept) setParameters((params) => params.set(PARAMETER, begun.id), { replace: true });
  };
  return { job, ...found, start, stop };
}
