import { submit, type JobView } from "#jobs";
import { EXPORT_FORMATS } from "#formats/export";
import { useCallback, useEffect } from "react";
import { Link, useFetcher } from "react-router";
import { requirePlan } from "../requests/plan.server";
import { PlanFrame } from "../frame/PlanFrame";
import { JobProgress } from "../ask/JobProgress";
import { useJob } from "../ask/useJob";
import { Button, buttonClass } from "../ui";
import type { Route } from "./+types/export";

export async function loader({ params }: Route.LoaderArgs) {
  const { rows } = await requirePlan(params.planId);
  const { plan, sites, subscribers, links, outsiders } = rows;
  return {
    plan,
    formats: [...EXPORT_FORMATS],
    counts: { sites: sites.length, subscribers: subscribers.length, links: links.length, outsiders: outsiders.length },
  };
}

/** Begins to write the whole plan. */
export async function action({ params }: Route.ActionArgs) {
  const { store } = await requirePlan(params.planId);
  return submit(store, "archive", params.planId, "Archive of the plan", null);
}

const FORMAT_NOTES: Record<string, string> = {
  csv: "CSV, every value; comes back in by the import",
  geojson: "GeoJSON, for map tools",
  kml: "KML, for globes",
  gpx: "GPX, for a GPS",
};

/** Everything out again, in open formats. */
export default function Export({ loaderData: { plan, formats, counts } }: Route.ComponentProps) {
  const fetcher = useFetcher<JobView>();
  const nothing = useCallback(() => undefined, []);
  const { job, follow, stop } = useJob(`/plans/${plan.id}/jobs`, nothing);
  useEffect(() => {
    if (fetcher.data) follow(fetcher.data);
  }, [fetcher.data, follow]);
  return (
    <PlanFrame>
      <main className="mx-auto w-full max-w-3xl px-6 py-5">
        <title>{`Export – ${plan.name}`}</title>
        <h1 className="mb-3 text-xl font-semibold">Export</h1>
        <form
          method="post"
          action={`/plans/${plan.id}/export/file`}
          className="rounded border border-rule bg-panel p-4"
        >
          <h2 className="font-semibold">Places and links</h2>
          <p className="mb-2 text-xs text-quiet">
            A part of them: choose the rows{" "}
            <Link className="text-clay underline" to={`/plans/${plan.id}/register`}>
              in the register
            </Link>{" "}
            and export from there.
          </p>
          <fieldset className="flex gap-4 text-sm">
            <legend className="sr-only">What</legend>
            {(["sites", "subscribers", "links", "outsiders"] as const).map((kind) => (
              <label key={kind} className="flex items-center gap-1.5">
                <input
                  type="checkbox"
                  name={kind}
                  value="1"
                  // The import reads no outsiders: a file that is to come back holds none.
                  defaultChecked={kind !== "outsiders"}
                  className="accent-[var(--clay)]"
                />
                {counts[kind]} {kind}
              </label>
            ))}
          </fieldset>
          <fieldset className="mt-3 flex flex-wrap gap-2">
            <legend className="mb-1 text-xs text-quiet">As</legend>
            {formats.map((format) => (
              <button
                key={format}
                type="submit"
                name="format"
                value={format}
                className={buttonClass()}
                title={FORMAT_NOTES[format]}
              >
                {format.toUpperCase()}
              </button>
            ))}
          </fieldset>
        </form>
        <section className="mt-4 rounded border border-rule bg-panel p-4" aria-label="The whole plan">
          <h2 className="font-semibold">The whole plan</h2>
          <p className="mb-3 text-sm text-quiet">
            One archive of JSON, CSV, GeoTIFF and JPEG that opens again in any Tejado to the same plan. The logbook and
            the named versions stay here.
          </p>
          <fetcher.Form method="post">
            <Button type="submit" look="primary" disabled={fetcher.state !== "idle" || job?.state === "running"}>
              Write the archive
            </Button>
          </fetcher.Form>
          {job && (
            <div className="mt-3">
              <JobProgress job={job} onStop={stop} />
              {job.resultUrl && job.state === "done" && (
                <a className={`mt-2 ${buttonClass("primary")}`} href={job.resultUrl} download>
                  Fetch the archive
                </a>
              )}
            </div>
          )}
        </section>
      </main>
    </PlanFrame>
  );
}
