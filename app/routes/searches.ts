import { searchTitle, submit } from "#jobs";
import { data } from "react-router";
import { z } from "zod";
import { parseDraft } from "../keep/patches.server";
import { requirePlan } from "../data/plan.server";
import type { Route } from "./+types/searches";

const radiusM = z.number().min(0).max(5000);
const orderSchema = z.object({
  ask: z.object({ linkId: z.string().max(64), moveAM: radiusM, moveBM: radiusM, mastM: z.number().min(0).max(60) }),
  patches: z.unknown(),
});

/** Begins to search for ways out of a link, under the change in hand; answers the job. */
export async function action({ params, request }: Route.ActionArgs) {
  const { store, world } = await requirePlan(params.planId);
  const order = orderSchema.safeParse(await request.json().catch(() => null));
  if (!order.success) {
    const { path, message } = order.error.issues[0]!;
    throw data(`The search cannot begin: ${path.slice(1).join(".")} ${message}`, { status: 400 });
  }
  const search = { patches: parseDraft(order.data.patches, params.planId), ask: order.data.ask };
  try {
    return Response.json(await submit(store, "search", params.planId, searchTitle(world, search), search));
  } catch (error) {
    if (error instanceof RangeError) throw data(error.message, { status: 404 });
    throw error;
  }
}
