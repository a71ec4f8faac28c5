import type { JobView } from "#jobs";
import { useCallback, useState } from "react";
import { useNavigate } from "react-router";
import { JobProgress } from "../ask/JobProgress";
import { upload } from "../ask/upload";
import { useJob } from "../ask/useJob";
import { requestJson } from "../ask/request";

/** Makes a new plan of an archive that some Tejado wrote. */
export function OpenArchive() {
  const navigate = useNavigate();
  const [error, setError] = useState("");
  const [share, setShare] = useState<number | null>(null);
  const onEnd = useCallback(
    (job: JobView) => {
      if (job.state === "done" && job.resultUrl) void navigate(job.resultUrl);
    },
    [navigate],
  );
  const { job, follow, stop } = useJob("/archives", onEnd);
  const take = async (file: File) => {
    setError("");
    try {
      const uploadId = await upload(file, setShare, new AbortController().signal);
      follow(await requestJson<JobView>("/archives", { body: { uploadId } }));
    } catch (failure) {
      setError((failure as Error).message);
    }
    setShare(null);
  };
  return (
    <section className="rounded border border-rule bg-panel p-4" aria-label="Open an archive">
      <h2 className="mb-2 font-semibold">
        <label htmlFor="archive">A plan archive</label>
      </h2>
      <p className="mb-3 text-sm text-quiet">A plan that a Tejado wrote, here or elsewhere. It becomes a new plan.</p>
      <input
        id="archive"
        type="file"
        accept=".zip"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) void take(file);
        }}
        className="block w-full text-sm file:mr-3 file:rounded file:border file:border-rule file:bg-panel file:px-2.5 file:py-1 file:text-ink"
      />
      {share !== null && <p className="mt-2 text-xs text-quiet">Sending: {Math.round(share * 100)} %</p>}
      {error && (
        <p role="alert" className="mt-2 text-sm font-medium text-blocked">
          {error}
        </p>
      )}
      {job && (
        <div className="mt-2">
          <JobProgress job={job} onStop={stop} />
        </div>
      )}
    </section>
  );
}
