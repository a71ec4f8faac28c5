import { data } from "react-router";
import { openPlan } from "../requests/plan.server";
import type { Route } from "./+types/remedies";

/** The remedies of one finding, for those that the review of a large plan leaves for when they are asked for. */
export async function loader({ params, url }: Route.LoaderArgs) {
  const { context } = await openPlan(params.planId);
  const id = url.searchParams.get("finding") ?? "";
  const remedies = await context.ask("remedies", { findingId: id });
  if (!remedies) throw data(`There is no finding "${id}" any more.`, { status: 404 });
  return Response.json(remedies);
}
