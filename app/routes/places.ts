import { requirePlan } from "../requests/plan.server";
import type { Route } from "./+types/places";

/** A plan's sites and subscribers as JSON, for whoever compares others with them. */
export async function loader({ params }: Route.LoaderArgs) {
  const { rows, revision } = await requirePlan(params.planId);
  const { plan, sites, subscribers } = rows;
  return Response.json({ plan, revision, sites, subscribers });
}
