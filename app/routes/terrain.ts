import { LAYER_KINDS } from "#core/plan";
import { legendSchema } from "#formats/raster";
import { submit } from "#jobs";
import { data } from "react-router";
import { z } from "zod";
import { openPlan } from "../requests/plan.server";
import { authorOf } from "../access/author.server";
import { jsonOf } from "../requests/asked.server";
import type { Route } from "./+types/terrain";

const orderSchema = z
  .object({
    kind: z.enum(LAYER_KINDS),
    files: z
      .array(z.object({ uploadId: z.uuid(), name: z.string().min(1).max(200) }))
      .min(1)
      .max(64),
    epsg: z.number().int().min(1).max(999_999).nullable(),
    legend: legendSchema.nullable(),
  })
  .refine((order) => order.kind !== "cover" || order.legend !== null, "a cover raster needs its legend");

/** Begins to bring received raster files into the plan; answers the job. */
export async function action({ params, request }: Route.ActionArgs) {
  const { store } = await openPlan(params.planId);
  const order = orderSchema.safeParse(await jsonOf(request));
  if (!order.success) {
    const { path, message } = order.error.issues[0]!;
    throw data(`The order cannot be taken: ${path.join(".")} ${message}`, { status: 400 });
  }
  const title = `Terrain: ${order.data.files.map(({ name }) => name).join(", ")}`;
  const asked = { author: authorOf(request), ...order.data };
  return Response.json(await submit(store, "terrain", params.planId, title, asked));
}
