import type { JobView } from "#jobs";
import { useCallback, useEffect, useState } from "react";
import { said } from "./said";

const POLL_MS = 400;

/** Follows a job on the server to its end; `base` is the address under which jobs of its kind are asked for. `onEnd` is called once, when it is done. */
export function useJob(base: string, onEnd: (job: JobView) => void) {
  const [job, setJob] = useState<JobView | null>(null);
  const running = job?.state === "running" ? job.id : null;
  useEffect(() => {
    if (!running) return;
    let stopped = false;
    const timer = setInterval(async () => {
      const response = await fetch(`${base}/${running}`).catch(() => null);
      if (stopped || !response) return;
      const next = response.ok
        ? ((await response.json()) as JobView)
        : ({
            id: running,
            planId: "",
            title: "",
            doneShare: 0,
            message: await said(response),
            state: "failed",
            resultUrl: null,
          } satisfies JobView);
      if (stopped) return;
      setJob(next);
      if (next.state !== "running") onEnd(next);
    }, POLL_MS);
    return () => {
      stopped = true;
      clearInterval(timer);
    };
  }, [base, running, onEnd]);
  const stop = useCallback(() => {
    if (running) void fetch(`${base}/${running}`, { method: "POST" });
  }, [base, running]);
  return { job, follow: setJob, stop };
}
