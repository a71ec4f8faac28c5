import { onChange } from "#engine";
import { stillReads } from "../access/stillReads.server";
import { eventLine } from "../requests/eventLine";
import { requirePlanId } from "../requests/plan.server";
import type { Route } from "./+types/events";

/** Tells a window the revision of its plan, and each new one as it comes, whoever made it. */
export async function loader({ params: { planId }, request, context }: Route.LoaderArgs) {
  const store = await requirePlanId(planId);
  const mayListen = stillReads(store, planId, "/plans/:planId/events", request, context);
  const listen = (tell: (data: string) => void) => onChange(store, planId, (revision) => tell(String(revision)));
  const line = eventLine(listen, request.signal, mayListen);
  return new Response(line, {
    headers: { "Content-Type": "text/event-stream", "Cache-Control": "no-cache, no-transform" },
  });
}
