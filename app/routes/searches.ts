import { FREEDOMS } from "#core/optimize";
import type { Patch, World } from "#core/plan";
import { WHOM } from "#core/sites";
import type { Store } from "#store";
import { CHANNEL_SCHOOLS } from "#core/channels";
import { channelRunTitle, channelsTitle, optimizeTitle, searchTitle, sitesTitle, submit, type JobView } from "#jobs";
import { data } from "react-router";
import { z } from "zod";
import { parseDraft } from "../keep/patches.server";
import { requirePlan } from "../requests/plan.server";
import { jsonOf } from "../requests/asked.server";
import type { Route } from "./+types/searches";

const id = z.string().min(1).max(64);
const radiusM = z.number().min(0).max(5000);
const km = z.number().min(0.2).max(60);
const dbm = z.number().min(-40).max(60);
const styleSchema = z.object({
  reachKm: km,
  mastM: z.number().min(1).max(120),
  mastEur: z.number().min(0).max(1_000_000),
});
const askSchema = z.discriminatedUnion("kind", [
  z.object({
    kind: z.literal("waysOut"),
    ...{ linkId: id, moveAM: radiusM, moveBM: radiusM, mastM: z.number().min(0).max(60) },
  }),
  z.object({
    kind: z.literal("sectors"),
    siteIds: z.array(id).min(1).max(200),
    may: z.array(z.enum(FREEDOMS)).min(1),
    reachKm: km,
  }),
  z.object({
    kind: z.literal("channels"),
    schools: z.array(z.enum(CHANNEL_SCHOOLS)).min(1).max(CHANNEL_SCHOOLS.length),
    workPeople: z.number().min(0).max(1000),
    fixedIds: z.array(id).max(2000),
    limits: z.object({ allowsDfs: z.boolean(), allowsLicensed: z.boolean(), guardMHz: z.number().min(0).max(1000) }),
    seconds: z.number().min(1).max(300),
  }),
  z.object({
    kind: z.literal("channelRun"),
    moves: z
      .array(
        z.object({
          radioId: id,
          name: z.string().max(120),
          fromMHz: z.number(),
          toMHz: z.number().min(100).max(120_000),
          powers: z.array(z.object({ radioId: id, fromDbm: dbm, toDbm: dbm })).max(2000),
        }),
      )
      .min(1)
      .max(500),
    withFaults: z.boolean(),
  }),
  z.object({
    kind: z.literal("sites"),
    whom: z.enum(WHOM),
    share: z.number().min(0.01).max(1),
    styles: z.array(styleSchema).min(1).max(2),
    withNewMasts: z.boolean(),
    powerM: z.number().min(1).max(20_000).nullable(),
    joinKm: km,
    seconds: z.number().min(1).max(600),
  }),
]);
const orderSchema = z.object({ ask: askSchema, patches: z.unknown() });

function begin(store: Store, world: World, patches: Patch[], ask: z.infer<typeof askSchema>): Promise<JobView> {
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
