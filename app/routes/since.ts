import { planContext } from "#engine";
import { patchesSince } from "#store";
import { data } from "react-router";
import { requirePlanId } from "../data/plan.server";
import { summariesWire, type ChangeWire } from "../follow/planWire";
import { shownOf } from "../follow/shown";
import { terrainInfo } from "../follow/terrainInfo";
import type { Route } from "./+types/since";

/** What has changed of a plan since a revision, worked out; `{anew: true}` where a window is better sent the plan whole. */
export async function loader({ params: { planId }, url }: Route.LoaderArgs) {
  const store = await requirePlanId(planId);
  const from = Number(url.searchParams.get("revision"));
  if (!Number.isInteger(from) || from < 0)
    throw data(`"${url.searchParams.get("revision")}" is no revision of a plan.`, { status: 400 });
  const context = await planContext(store, planId);
  const since = await patchesSince(store.db, planId, from);
  if (!context || !since || since.revision < context.revision) return Response.json({ anew: true });
  // A backup may have been restored: a plan of that id, and another one.
  const created = url.searchParams.get("created");
  if (created !== null && created !== since.createdAt) return Response.json({ anew: true });
  const review = await context.review();
  const all = url.searchParams.has("all");
  const ids = all ? [...review.summaries.keys()] : context.answeredSince(from);
  if (!ids) return Response.json({ anew: true });
  // A change that came while this one was worked out is fetched with the next question.
  const patches = since.patches.filter(({ base = 0 }) => base <= context.revision);
  return Response.json({
    revision: context.revision,
    patches,
    terrain: terrainInfo(context),
    shown: shownOf(review),
    summaries: summariesWire(ids.flatMap((id) => review.summaries.get(id) ?? [])),
  } satisfies ChangeWire);
}
