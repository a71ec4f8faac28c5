import { z } from "zod";
import { openPlan } from "../requests/plan.server";
import type { Route } from "./+types/ground";

const placeSchema = z.object({ lat: z.coerce.number().min(-90).max(90), lon: z.coerce.number().min(-180).max(180) });

/** The ground's height at a place as JSON; null where no raster knows it. */
export async function loader({ params, url }: Route.LoaderArgs) {
  const { context } = await openPlan(params.planId);
  const asked = placeSchema.safeParse(Object.fromEntries(url.searchParams));
  if (!asked.success) return Response.json({ groundAmslM: null }, { status: 400 });
  const { lat, lon } = asked.data;
  return Response.json({ groundAmslM: await context.ask("ground", { latDeg: lat, lonDeg: lon }) });
}
