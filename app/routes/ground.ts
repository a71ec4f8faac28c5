import { readGround, type GroundSample } from "#core/terrain";
import { z } from "zod";
import { requirePlan } from "../data/plan.server";
import type { Route } from "./+types/ground";

const placeSchema = z.object({ lat: z.coerce.number().min(-90).max(90), lon: z.coerce.number().min(-180).max(180) });

/** The ground's height at a place as JSON; null where no raster knows it. */
export async function loader({ params, url }: Route.LoaderArgs) {
  const { context } = await requirePlan(params.planId);
  const asked = placeSchema.safeParse(Object.fromEntries(url.searchParams));
  if (!asked.success) return Response.json({ groundAmslM: null }, { status: 400 });
  const sample: GroundSample = { groundAmslM: NaN, coverHeightM: 0, coverCode: 0 };
  readGround(context.terrain, asked.data.lat, asked.data.lon, sample);
  return Response.json({ groundAmslM: Number.isFinite(sample.groundAmslM) ? sample.groundAmslM : null });
}
