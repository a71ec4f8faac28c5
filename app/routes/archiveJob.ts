import { jobOf, NO_PLAN, stopJob } from "#jobs";
import { data } from "react-router";
import { getStore } from "../requests/store.server";
import type { Route } from "./+types/archiveJob";

/** How work stands that belongs to no plan: an archive that is opened, a backup. */
export async function loader({ params }: Route.LoaderArgs) {
  const job = await jobOf(await getStore(), NO_PLAN, params.jobId);
  if (!job) throw data("That work is not known any more.", { status: 404 });
  return Response.json(job, { headers: { "Cache-Control": "no-store" } });
}

export async function action({ params }: Route.ActionArgs) {
  return Response.json({ ok: await stopJob(await getStore(), NO_PLAN, params.jobId) });
}
