import { DAY_MS } from "#core/watch";
import { watchClockMs } from "#jobs";
import { watchSettings } from "#monitoring";
import { data } from "react-router";
import { requireLink } from "../requests/plan.server";
import { linkChart } from "../stages/monitoring/chart.server";
import type { Route } from "./+types/watchLink";

const USUAL_DAYS = 30;
const MOST_DAYS = 400;

/** A link's timeline over the last days. */
export async function loader({ params: { planId, linkId }, url }: Route.LoaderArgs) {
  const days = Number(url.searchParams.get("days") ?? USUAL_DAYS);
  if (!Number.isInteger(days) || days < 1 || days > MOST_DAYS)
    throw data(`days must be a whole number from 1 to ${MOST_DAYS}.`, { status: 400 });
  const { store, context, world, link } = await requireLink(planId, linkId);
  const watched = (await context.ask("watched")).find((one) => one.linkId === linkId);
  if (!watched) throw data("This path has no answer, so nothing was promised of it.", { status: 409 });
  const toDay = Math.floor((watchClockMs(await watchSettings(store, planId)) - 1) / DAY_MS) + 1;
  const chart = await linkChart(store, planId, world, link, watched, toDay - days, toDay);
  return Response.json(chart, { headers: { "Cache-Control": "no-cache" } });
}
