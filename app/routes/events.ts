import { onChange } from "#engine";
import { eventLine } from "../data/eventLine";
import { requirePlanId } from "../data/plan.server";
import type { Route } from "./+types/events";

/** Tells a window the revision of its plan, and each new one as it comes, whoever made it. */
export async function loader({ params: { planId }, request }: Route.LoaderArgs) {
  const store = await requirePlanId(planId);
  const line = eventLine((tell) => onChange(store, planId, (revision) => tell(String(revision))), request.signal);
  return new Response(line, {
    headers: { "Content-Type": "text/event-stream", "Cache-Control": "no-cache, no-transform" },
  });
}
