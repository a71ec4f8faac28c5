import type { JobView } from "#jobs";
import { useCallback, useEffect, useState } from "react";
import { useFetcher, useRevalidator } from "react-router";
import { Button } from "../ui";
import { SEALING_KEY } from "./sealingKey";
import { JobProgress } from "../ask/JobProgress";
import { useJob } from "../ask/useJob";
import { upload } from "../ask/upload";

interface Backup {
  name: string;
  bytes: number;
}

const megabytes = (bytes: number) => `${(bytes / 1e6).toFixed(1)} MB`;

/** All plans with everything in them as one file, and back. */
export function Backups({ backups }: { backups: Backup[] }) {
  const fetcher = useFetcher<{ ok: boolean; message: string } | { ok: true; job: JobView }>();
  const { revalidate } = useRevalidator();
  const [asked, setAsked] = useState<string | null>(null);
  const [error, setError] = useState("");
  const onEnd = useCallback(() => void revalidate(), [revalidate]);
  const { job, follow, stop } = useJob("/archives", onEnd);
  const answer = fetcher.data;
  useEffect(() => {
    if (answer && "job" in answer) follow(answer.job);
  }, [answer, follow]);
  const said = answer && "message" in answer ? answer : null;
  const busy = fetcher.state !== "idle" || job?.state === "running";
  const send = async (fields: Record<string, string>) => {
    setAsked(null);
    await fetcher.submit(fields, { method: "post", action: "/backups" });
    await revalidate();
  };
  const restoreFile = async (file: File) => {
    setError("");
    try {
      await send({ intent: "restore", uploadId: await upload(file, () => undefined, new AbortController().signal) });
    } catch (failure) {
      setError((failure as Error).message);
    }
  };
  return (
    <section className="mt-8 rounded border border-rule bg-panel p-4" aria-label="Backup">
      <h2 className="font-semibold">Backup of everything</h2>
      <p className="mb-3 text-sm text-quiet">
        All plans, logbooks and rasters. Tejado makes one each day and keeps the last seven; they lie in the folder
        “backups” of the data directory. Take them elsewhere too. Stopped, Tejado does the same by{" "}
        <code className="figures">npm run backup</code> and <code className="figures">npm run restore</code>.
      </p>
      <Button disabled={busy} onClick={() => void send({ intent: "backup" })}>
        {busy ? "At work…" : "Back up now"}
      </Button>
      {(said || error) && (
        <p role={said?.ok && !error ? "status" : "alert"} className="mt-2 text-sm font-medium">
          {error || said?.message}
        </p>
      )}
      {job && !said && (
        <div className="mt-2">
          <JobProgress job={job} onStop={stop} />
        </div>
      )}
      <p className="mt-3 text-sm text-quiet">
        Passwords of devices are sealed with a key that no backup holds.{" "}
        <a className="text-clay underline" href={`/backups/${SEALING_KEY}`} download>
          Download the key
        </a>{" "}
        and keep it apart from the backups: whoever has both can read every password. Without it a restored plan has
        lost them. On another machine, put it into the data directory before Tejado starts.
      </p>
      {backups.length > 0 && (
        <ul className="mt-3 divide-y divide-rule text-sm">
          {backups.map(({ name, bytes }) => (
            <li key={name} className="flex items-center justify-between gap-2 py-1">
              <a className="figures text-xs text-clay underline" href={`/backups/${name}`} download>
                {name}
              </a>
              <span className="figures text-xs text-quiet">{megabytes(bytes)}</span>
              {asked === name ? (
                <span className="flex gap-1.5">
                  <Button look="primary" disabled={busy} onClick={() => void send({ intent: "restore", name })}>
                    Replace all data by it
                  </Button>
                  <Button onClick={() => setAsked(null)}>Leave</Button>
                </span>
              ) : (
                <Button disabled={busy} onClick={() => setAsked(name)}>
                  Restore
                </Button>
              )}
            </li>
          ))}
        </ul>
      )}
      <label className="mt-3 block text-xs text-quiet">
        Restore a backup from a file; it replaces all data
        <input
          type="file"
          accept=".gz"
          disabled={busy}
          onChange={(event) => {
            const file = event.target.files?.[0];
            if (file) void restoreFile(file);
          }}
          className="mt-1 block w-full text-sm file:mr-3 file:rounded file:border file:border-rule file:bg-panel file:px-2.5 file:py-1 file:text-ink"
        />
      </label>
    </section>
  );
}
