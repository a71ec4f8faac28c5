import { jobOf, stopJob } from "#jobs";
import { data } from "react-router";
import { getStore } from "../requests/store.server";
import type { Route } from "./+types/job";

/** How a piece of long work stands. */
export async function loader({ params }: Route.LoaderArgs) {
  const job = await jobOf(await getStore(), params.planId, params.jobId);
  if (!job) throw data("That work is not known any more.", { status: 404 });
  return Response.json(job, { headers: { "Cache-Control": "no-store" } });
}

/** Stops it. */
export async function action({ params }: Route.ActionArgs) {
  return Response.json({ ok: await stopJob(await getStore(), params.planId, params.jobId) });
}
