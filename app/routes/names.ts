import { namesIn } from "../desk/names";
import { requirePlan } from "../requests/plan.server";
import type { Route } from "./+types/names";

/** Names of a plan's places and links as JSON, for the search. */
export async function loader({ params }: Route.LoaderArgs) {
  const { world } = await requirePlan(params.planId);
  return Response.json(namesIn(world));
}
