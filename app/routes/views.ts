import { askView, Stopped, viewAskSchema } from "#pool";
import { data } from "react-router";
import { z } from "zod";
import { parseDraft } from "../keep/patches.server";
import { openPlan } from "../requests/plan.server";
import { jsonOf } from "../requests/asked.server";
import type { Route } from "./+types/views";

const orderSchema = z.object({ ask: viewAskSchema, patches: z.unknown() });

/** Answers a question about many paths at once, under the change in hand. */
export async function action({ params, request }: Route.ActionArgs) {
  const { context } = await openPlan(params.planId);
  const order = orderSchema.safeParse(await jsonOf(request));
  if (!order.success) throw data(`That cannot be asked: ${order.error.issues[0]!.message}`, { status: 400 });
  try {
    return Response.json(
      await askView(context, await parseDraft(order.data.patches, params.planId), order.data.ask, request.signal),
    );
  } catch (error) {
    if (error instanceof Stopped) throw data("Nobody waits for that any more.", { status: 409 });
    if (error instanceof RangeError) throw data(error.message, { status: 404 });
    throw error;
  }
}
