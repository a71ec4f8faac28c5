import { openPlan } from "../requests/plan.server";
import type { Route } from "./+types/sectorsHeard";

/** What each sector of a plan hears of the other transmitters. */
export async function loader({ params }: Route.LoaderArgs) {
  const { context } = await openPlan(params.planId);
  return Response.json(await context.ask("sectorsHeard"));
}
