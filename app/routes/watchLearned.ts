import { learnedPage } from "#core/watch";
import { lastLook } from "#jobs";
import { requirePlan } from "../data/plan.server";
import type { Route } from "./+types/watchLearned";

/** What proofs and the watch teach about the plan's predictions, and every customer's odds. */
export async function loader({ params: { planId } }: Route.LoaderArgs) {
  const { store, context, world } = await requirePlan(planId);
  const look = await lastLook(store, planId);
  const page = learnedPage(world, await context.ask("learnable"), look?.links ?? []);
  return Response.json(page, { headers: { "Cache-Control": "no-cache" } });
}
