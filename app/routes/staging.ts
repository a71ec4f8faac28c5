import { askedOf } from "../requests/asked.server";
import { besideOf } from "../requests/beside.server";
import { requirePlan } from "../requests/plan.server";
import { authorOf } from "../access/author.server";
import { actOnStaging, askSchema } from "../stages/staging/act.server";
import { besideStamp, readStaging } from "#store";
import type { Route } from "./+types/staging";

const NO_STORE = { "Cache-Control": "no-store" };

/** What was noted of the plan's devices on the bench. */
export async function loader({ params, request }: Route.LoaderArgs) {
  const { store } = await requirePlan(params.planId);
  return besideOf(request, await besideStamp(store.db, "staging", params.planId), () =>
    readStaging(store.db, params.planId),
  );
}

/** Ticks a step, begins with another device, runs the practice bench, or shows one secret. */
export async function action({ params, request }: Route.ActionArgs) {
  const { store, world } = await requirePlan(params.planId);
  const asked = await askedOf(request, askSchema, "The bench cannot do that");
  const { status = 200, ...body } = await actOnStaging(store, world, authorOf(request), asked);
  return Response.json(body, { status, headers: NO_STORE });
}
