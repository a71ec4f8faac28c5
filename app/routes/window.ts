import { openPlan } from "../requests/plan.server";
import type { Route } from "./+types/window";

/** A plan as a window gets it first. */
export async function loader({ params: { planId } }: Route.LoaderArgs) {
  const { context } = await openPlan(planId);
  return new Response(await context.ask("window"), {
    headers: { "Content-Type": "application/json", "Cache-Control": "no-store" },
  });
}
