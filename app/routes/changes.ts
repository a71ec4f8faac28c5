import { z } from "zod";
import { keepChange } from "../data/keep.server";
import { requirePlan } from "../data/plan.server";
import { signature } from "../data/preferences";
import type { Route } from "./+types/changes";

const bodySchema = z.object({
  patches: z.array(z.unknown()),
  what: z.string().max(300),
  reason: z.string().max(200).default(""),
});

/** Keeps a change sent as JSON: `{patches, what, reason}`. Answers `{ok, message}`. */
export async function action({ params, request }: Route.ActionArgs) {
  const { store, context } = await requirePlan(params.planId);
  const body = bodySchema.safeParse(await request.json().catch(() => null));
  if (!body.success)
    return Response.json({ ok: false, message: "Not kept: the change that arrived is no change." }, { status: 400 });
  const { patches, what, reason } = body.data;
  const { status, ...result } = await keepChange(store, context, {
    patches,
    who: signature(request),
    what,
    reason,
  });
  return Response.json(result, { status });
}
