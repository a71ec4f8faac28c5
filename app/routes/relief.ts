import { data } from "react-router";
import { z } from "zod";
import { openPlan } from "../requests/plan.server";
import type { Route } from "./+types/relief";

const tileSchema = z
  .object({
    z: z.coerce.number().int().min(0).max(20),
    x: z.coerce.number().int().min(0),
    y: z.coerce.number().int().min(0),
  })
  .refine(({ z: zoom, x, y }) => Math.max(x, y) < 2 ** zoom);

/** Heights and cover of one web-Mercator tile as bytes; 204 where it lies off the terrain. */
export async function loader({ params }: Route.LoaderArgs) {
  const asked = tileSchema.safeParse(params);
  if (!asked.success)
    throw data("A relief tile is named by whole numbers z/x/y, z from 0 to 20, x and y under 2 to the z.", {
      status: 400,
    });
  const { context } = await openPlan(params.planId);
  const body = await context.ask("relief", asked.data);
  if (!body) return new Response(null, { status: 204 });
  return new Response(body, {
    headers: {
      "Content-Type": "application/octet-stream",
      ETag: `"${context.versions.relief}"`,
      "Cache-Control": "private, max-age=300",
    },
  });
}
