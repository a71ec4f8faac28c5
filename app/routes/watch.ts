import { availabilityOf } from "#core/watch";
import { jobUnderWay, lastLook } from "#jobs";
import { trustNobody, watchSettings } from "#monitoring";
import { besideStamp, readWatch } from "#store";
import { askedOf } from "../requests/asked.server";
import { besideOf } from "../requests/beside.server";
import { openPlan, requirePlan } from "../requests/plan.server";
import { actOnWatch, watchAskSchema } from "../stages/monitoring/act.server";
import type { WatchKept } from "../stages/monitoring/kept";
import type { Route } from "./+types/watch";

/** How each link does, as the last look found it, and how the plan is watched. */
export async function loader({ params: { planId }, request }: Route.LoaderArgs) {
  const { store, context } = await openPlan(planId);
  const job = await jobUnderWay(store, planId, "watch");
  const stamp = `${await besideStamp(store.db, "watch_plans", planId)}-${job?.id ?? ""}-${context.revision}`;
  return besideOf(request, stamp, async (): Promise<WatchKept> => {
    const { world } = await context.load();
    const [{ hasToken, received }, look] = [await readWatch(store.db, planId), await lastLook(store, planId)];
    return {
      ...{ settings: await watchSettings(store, planId), hasToken, received, job },
      look: look && {
        at: look.at,
        links: look.links.map((link) => ({ ...link, months: [] })),
        availability: availabilityOf(world, look.links),
      },
    };
  });
}

/** Looks again, plays the simulated network, takes and returns tokens, and keeps who is told. */
export async function action({ params, request }: Route.ActionArgs) {
  const { store, world } = await requirePlan(params.planId);
  const asked = await askedOf(request, watchAskSchema, "Not done");
  const { status = 200, ...body } = await actOnWatch(store, world, asked).finally(trustNobody);
  return Response.json(body, { status, headers: { "Cache-Control": "no-store" } });
}
