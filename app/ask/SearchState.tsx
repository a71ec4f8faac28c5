import type { JobView } from "#jobs";
import { JobProgress } from "./JobProgress";

/** How a long search stands until it is done, and what went wrong with it. */
export function SearchState({
  job,
  failed,
  onStop,
}: {
  job: JobView | null;
  failed: string | null;
  onStop: () => void;
}) {
  return (
    <>
      {job && job.state !== "done" && (
        <div className="mt-3">
          <JobProgress job={job} onStop={onStop} />
        </div>
      )}
      {failed && (
        <p role="alert" className="mt-2 text-sm text-blocked">
          {failed}
        </p>
      )}
    </>
  );
}
