import type { JobView } from "#jobs";
import { useCallback, useEffect, useState } from "react";

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
            message: await response.text(),
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

/** Sends a file as it is, telling how much has gone; gives the id under which the server keeps it. */
export function upload(file: File, onShare: (share: number) => void, signal: AbortSignal): Promise<string> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open("POST", "/uploads");
    request.upload.onprogress = (event) => onShare(event.loaded / Math.max(1, event.total));
    request.onload = () =>
      request.status === 200
        ? resolve((JSON.parse(request.responseText) as { uploadId: string }).uploadId)
        : reject(new Error(request.responseText || `the server answered ${request.status}`));
    request.onerror = () => reject(new Error("the file did not arrive"));
    request.onabort = () => reject(new Error("stopped"));
    signal.addEventListener("abort", () => request.abort());
    request.setRequestHeader("Content-Type", "application/octet-stream");
    request.send(file);
  });
}
