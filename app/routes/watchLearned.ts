import { lastLook } from "#jobs";
import { askPool } from "#pool";
import { openPlan } from "../requests/plan.server";
import type { Route } from "./+types/watchLearned";

/** What proofs and the watch teach about the plan's predictions, and every customer's odds. */
export async function loader({ params: { planId } }: Route.LoaderArgs) {
  const { store, context } = await openPlan(planId);
  const look = await lastLook(store, planId);
  const learnable = await context.ask("learnable");
  const watched = (look?.links ?? []).map((one) => ({ ...one, months: [] }));
  const { answer } = await askPool(context, [], { kind: "learned", learnable, watched });
  return Response.json(answer, { headers: { "Cache-Control": "no-cache" } });
}
