import { jobOf, NO_PLAN, stopJob } from "#jobs";
import { data } from "react-router";
import type { Route } from "./+types/archiveJob";

/** How the opening of an archive stands. */
export function loader({ params }: Route.LoaderArgs) {
  const job = jobOf(NO_PLAN, params.jobId);
  if (!job) throw data("That work is not known any more; it ended with an earlier process.", { status: 404 });
  return Response.json(job, { headers: { "Cache-Control": "no-store" } });
}

export function action({ params }: Route.ActionArgs) {
  return Response.json({ ok: stopJob(NO_PLAN, params.jobId) });
}
