import { requirePlan } from "../data/plan.server";
import type { Route } from "./+types/places";

/** A plan's sites and subscribers as JSON, for whoever compares others with them. */
export async function loader({ params }: Route.LoaderArgs) {
  const { context } = await requirePlan(params.planId);
  const { plan, sites, subscribers } = context.rows;
  return Response.json({ plan, revision: context.revision, sites, subscribers });
}
