import type { JobView } from "#jobs";
import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { request, requestJson } from "./request";

const POLL_MS = 400;

/** A job of which the server says no more than why it knows nothing of it. */
const failedJob = (id: string, message: string): JobView => ({
  ...{ id, message, planId: "", title: "", doneShare: 0 },
  ...{ state: "failed", resultUrl: null },
});

/** Follows a job on the server to its end; `base` is the address under which jobs of its kind are asked for. `onEnd` is called once, when it is done. */
export function useJob(base: string, onEnd: (job: JobView) => void) {
  const [begun, setBegun] = useState<JobView | null>(null);
  const id = begun?.state === "running" ? begun.id : null;
  const { data, error } = useQuery<JobView>({
    queryKey: ["job", base, id],
    enabled: id !== null,
    staleTime: 0,
    gcTime: 0,
    // While the server does not answer, the job may well go on: it is asked again.
    refetchInterval: ({ state }) => (state.data && state.data.state !== "running" ? false : POLL_MS),
    queryFn: ({ signal }) => requestJson<JobView>(`${base}/${id}`, { signal }),
  });
  const isRefused = error !== null && "status" in error && error.status !== 503;
  const latest = id === null ? null : isRefused ? failedJob(id, error.message) : (data ?? null);
  const job = latest ?? begun;
  const ended = useRef(onEnd);
  ended.current = onEnd;
  const isOver = latest !== null && latest.state !== "running";
  useEffect(() => {
    if (!isOver || !latest) return;
    setBegun(latest);
    ended.current(latest);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once for each job that ends
  }, [isOver, latest?.id]);
  const stop = useCallback(() => {
    if (id) void request(`${base}/${id}`, { isPost: true }).catch(() => undefined);
  }, [base, id]);
  return { job, follow: setBegun, stop };
}
