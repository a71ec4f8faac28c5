import { data } from "react-router";
import { z } from "zod";
import { openPlan } from "../data/plan.server";
import type { Place } from "#core/geodesy";
import type { Route } from "./+types/profiles";

const MOST_PAIRS = 100;
const pairSchema = z
  .string()
  .transform((text) => text.split(",").map(Number))
  .pipe(
    z.tuple([
      z.number().min(-90).max(90),
      z.number().min(-180).max(180),
      z.number().min(-90).max(90),
      z.number().min(-180).max(180),
    ]),
  );

/** Sampled profiles for `?pair=lat,lon,lat,lon`, as many times as needed, in the order asked. */
export async function loader({ params, url }: Route.LoaderArgs) {
  const asked = z.array(pairSchema).min(1).max(MOST_PAIRS).safeParse(url.searchParams.getAll("pair"));
  if (!asked.success)
    throw data(`Each pair is lat,lon,lat,lon in degrees, 1 to ${MOST_PAIRS} of them.`, { status: 400 });
  const { context } = await openPlan(params.planId);
  const pairs = asked.data.map(([latA, lonA, latB, lonB]): [Place, Place] => [
    { latDeg: latA, lonDeg: lonA },
    { latDeg: latB, lonDeg: lonB },
  ]);
  return Response.json(await context.ask("profiles", { pairs }));
}
