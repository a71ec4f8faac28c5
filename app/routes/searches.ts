import type { Patch, World } from "#core/plan";
import type { Store } from "#store";
import {
  channelRunTitle,
  channelsTitle,
  optimizeTitle,
  searchAskSchema,
  searchTitle,
  sitesTitle,
  submit,
  type JobView,
} from "#jobs";
import { data } from "react-router";
import { z } from "zod";
import { parseDraft } from "../keep/patches.server";
import { requirePlan } from "../requests/plan.server";
import { jsonOf } from "../requests/asked.server";
import type { Route } from "./+types/searches";

const orderSchema = z.object({ ask: searchAskSchema, patches: z.unknown() });

function begin(store: Store, world: World, patches: Patch[], ask: z.infer<typeof searchAskSchema>): Promise<JobView> {
  const planId = world.plan.id;
  switch (ask.kind) {
    case "waysOut":
      return submit(store, "search", planId, searchTitle(world, { patches, ask }), { patches, ask });
    case "sectors":
      return submit(store, "optimize", planId, optimizeTitle(world, { patches, ask }), { patches, ask });
    case "channels":
      return submit(store, "channels", planId, channelsTitle(world), { patches, ask });
    case "channelRun": {
      const unknown = ask.moves.find(({ radioId }) => !world.radios.has(radioId));
      if (unknown) throw new RangeError(`There is no radio "${unknown.radioId}".`);
      return submit(store, "channelRun", planId, channelRunTitle(world), ask);
    }
    case "sites":
      return submit(store, "sites", planId, sitesTitle(world), { patches, ask });
  }
}

/** Begins a long search under the change in hand: ways out of a link, better sectors, where to build, or channels; answers the job. */
export async function action({ params, request }: Route.ActionArgs) {
  const { store, world } = await requirePlan(params.planId);
  const order = orderSchema.safeParse(await jsonOf(request));
  if (!order.success) {
    const { path, message } = order.error.issues[0]!;
    throw data(`The search cannot begin: ${path.slice(1).join(".")} ${message}`, { status: 400 });
  }
  try {
    return Response.json(
      await begin(store, world, await parseDraft(order.data.patches, params.planId), order.data.ask),
    );
  } catch (error) {
    if (error instanceof RangeError) throw data(error.message, { status: 404 });
    throw error;
  }
}
