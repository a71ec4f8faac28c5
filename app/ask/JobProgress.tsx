import type { JobView } from "#jobs";
import { Progress } from "radix-ui";
import { Button } from "../ui";

/** How long work stands, and the way to stop it. */
export function JobProgress({
  job,
  onStop,
}: {
  job: Pick<JobView, "title" | "message" | "doneShare" | "state">;
  onStop: () => void;
}) {
  const failed = job.state === "failed";
  return (
    <div
      role={failed ? "alert" : "status"}
      className={`rounded border p-3 text-sm ${failed ? "border-blocked" : job.state === "done" ? "border-clear" : "border-rule"}`}
    >
      <p className="font-medium">{job.message}</p>
      {job.state === "running" && (
        <div className="mt-2 flex items-center gap-3">
          <Progress.Root
            aria-label={job.title}
            value={Math.round(job.doneShare * 100)}
            className="h-2 flex-1 overflow-hidden rounded bg-rule"
          >
            <Progress.Indicator className="h-full bg-clay" style={{ width: `${job.doneShare * 100}%` }} />
          </Progress.Root>
          <span className="figures w-12 text-right text-xs">{Math.round(job.doneShare * 100)} %</span>
          <Button onClick={onStop}>Stop</Button>
        </div>
      )}
    </div>
  );
}
