import { removalOf } from "#core/plan";
import { z } from "zod";
import { requirePlan } from "../requests/plan.server";
import { MOST_PATCHES } from "../keep/patches.server";
import { jsonOf } from "../requests/asked.server";
import type { Route } from "./+types/removal";

const orderSchema = z.object({
  kind: z.enum(["sites", "subscribers"]),
  ids: z.array(z.string().max(64)).min(1).max(MOST_PATCHES),
});

/** What goes along when some places are removed, in words, and the patches that remove all of it. Nothing is removed yet. */
export async function action({ params, request }: Route.ActionArgs) {
  const { world, revision } = await requirePlan(params.planId);
  const order = orderSchema.safeParse(await jsonOf(request));
  if (!order.success) return Response.json({ along: [], patches: [] }, { status: 400 });
  const { kind, ids } = order.data;
  const known = ids.filter((id) => world[kind].has(id));
  const removal = removalOf(
    world,
    known.map((id) => ({ kind, id })),
  );
  return Response.json({ revision, ...removal });
}
