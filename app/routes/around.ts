import { data } from "react-router";
import { openPlan } from "../requests/plan.server";
import type { Route } from "./+types/around";

/** The site named by `?site=` as its sectors see it. */
export async function loader({ params, url }: Route.LoaderArgs) {
  const { context } = await openPlan(params.planId);
  const around = await context.ask("around", { siteId: url.searchParams.get("site") ?? "" });
  if (!around) throw data("There is no such site in the plan.", { status: 404 });
  return Response.json(around);
}
