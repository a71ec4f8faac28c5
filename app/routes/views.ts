import { askView } from "#pool";
import { Stopped } from "#pool";
import { data } from "react-router";
import { z } from "zod";
import { parseDraft } from "../keep/patches.server";
import { openPlan } from "../requests/plan.server";
import { jsonOf } from "../requests/asked.server";
import type { Route } from "./+types/views";
import { kitSchema, placeSchema } from "../requests/circleAsked.server";

const id = z.string().min(1).max(64);
const orderSchema = z.object({
  ask: z.discriminatedUnion("kind", [
    z.object({ kind: z.literal("fromSite"), siteId: id, of: z.enum(["subscribers", "sites"]) }),
    z.object({ kind: z.literal("fromSubscriber"), subscriberId: id }),
    z.object({ kind: z.literal("tilts"), radioId: id }),
    z.object({ kind: z.literal("headings"), radioId: id }),
    z.object({ kind: z.literal("gains"), radioId: id }),
    z.object({ kind: z.literal("widths"), radioId: id }),
    z.object({ kind: z.literal("beams"), radioId: id }),
    z.object({ kind: z.literal("clientAntennas"), linkId: id }),
    z.object({ kind: z.literal("mends"), linkId: id }),
    z.object({ kind: z.literal("hopWays"), linkId: id }),
    z.object({ kind: z.literal("splits"), radioId: id, years: z.number().min(0).max(30) }),
    z.object({ kind: z.literal("hurts") }),
    z.object({ kind: z.literal("heardTape"), linkId: id, direction: z.enum(["down", "up"]), radioId: id }),
    z.object({ kind: z.literal("attach"), subscriberIds: z.array(id).min(1).max(500) }),
    z.object({ kind: z.literal("schools"), siteId: id, radiusM: z.number().min(100).max(40_000) }),
    z.object({ kind: z.literal("heardAt"), radioId: id, kit: kitSchema, place: placeSchema }),
    z.object({ kind: z.literal("bands"), linkId: id, demandMbps: z.number().min(0).max(100_000) }),
  ]),
  patches: z.unknown(),
});

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
