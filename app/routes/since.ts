import { planContext } from "#engine";
import { patchesSince } from "#store";
import { data } from "react-router";
import { requirePlanId } from "../requests/plan.server";
import type { Route } from "./+types/since";

/** What has changed of a plan since a revision, worked out; `{anew: true}` where a window is better sent the plan whole. */
export async function loader({ params: { planId }, url }: Route.LoaderArgs) {
  const store = await requirePlanId(planId);
  const from = Number(url.searchParams.get("revision"));
  if (!Number.isInteger(from) || from < 0)
    throw data(`"${url.searchParams.get("revision")}" is no revision of a plan.`, { status: 400 });
  const context = await planContext(store, planId);
  const since = await patchesSince(store.db, planId, from);
  const anew = Response.json({ anew: true });
  if (!context || !since || since.revision < context.revision) return anew;
  // A backup may have been restored: a plan of that id, and another one.
  const created = url.searchParams.get("created");
  if (created !== null && created !== since.createdAt) return anew;
  const unsettled = Number(url.searchParams.get("unsettled") ?? NaN);
  const text = await context.ask("since", {
    from,
    unsettled: Number.isInteger(unsettled) ? unsettled : null,
    all: url.searchParams.has("all"),
    patches: since.patches,
  });
  return text === null ? anew : new Response(text, { headers: { "Content-Type": "application/json" } });
}
