import { data } from "react-router";
import { z } from "zod";
import { openPlan } from "../requests/plan.server";
import { inverseGeodesic, type Place } from "#core/geodesy";
import { LONGEST_EXACT_M } from "#core/terrain";
import type { Route } from "./+types/profiles";

const MOST_PAIRS = 100;
/** Length of all paths of one request together, those over 150 km counted as that: what they cost. */
const MOST_TOGETHER_M = 2_000_000;
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
  const pairs = asked.data.map(([latA, lonA, latB, lonB]): [Place, Place] => [
    { latDeg: latA, lonDeg: lonA },
    { latDeg: latB, lonDeg: lonB },
  ]);
  const togetherM = pairs.reduce((sum, [a, b]) => sum + Math.min(LONGEST_EXACT_M, inverseGeodesic(a, b).distanceM), 0);
  if (togetherM > MOST_TOGETHER_M)
    throw data(
      `These paths are ${Math.round(togetherM / 1000)} km long together; at most ${MOST_TOGETHER_M / 1000} are sampled at once.`,
      {
        status: 413,
      },
    );
  const { context } = await openPlan(params.planId);
  return Response.json(await context.ask("profiles", { pairs }));
}
