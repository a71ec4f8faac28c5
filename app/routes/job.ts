import { jobOf, stopJob } from "#jobs";
import { data } from "react-router";
import type { Route } from "./+types/job";

/** How a piece of long work stands. */
export function loader({ params }: Route.LoaderArgs) {
  const job = jobOf(params.planId, params.jobId);
  if (!job) throw data("That work is not known any more; it ended with an earlier process.", { status: 404 });
  return Response.json(job, { headers: { "Cache-Control": "no-store" } });
}

/** Stops it. */
export function action({ params }: Route.ActionArgs) {
  return Response.json({ ok: stopJob(params.planId, params.jobId) });
}
