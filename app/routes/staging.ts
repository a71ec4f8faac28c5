import { requirePlan } from "../data/plan.server";
import { authorOf } from "../data/preferences";
import { actOnBench, askSchema } from "../staging/act.server";
import { readStaging } from "#store";
import { data } from "react-router";
import type { Route } from "./+types/staging";

const NO_STORE = { "Cache-Control": "no-store" };

/** What was noted of the plan's devices on the bench. */
export async function loader({ params }: Route.LoaderArgs) {
  const { store } = await requirePlan(params.planId);
  return Response.json(await readStaging(store.db, params.planId), { headers: NO_STORE });
}

/** Ticks a step, begins with another device, runs the practice bench, or shows one secret. */
export async function action({ params, request }: Route.ActionArgs) {
  const { store, world } = await requirePlan(params.planId);
  const asked = askSchema.safeParse(await request.json().catch(() => null));
  if (!asked.success) {
    const { path, message } = asked.error.issues[0]!;
    throw data(`The bench cannot do that: ${path.join(".")} ${message}`, { status: 400 });
  }
  const { status = 200, ...body } = await actOnBench(store, world, authorOf(request), asked.data);
  return Response.json(body, { status, headers: NO_STORE });
}
