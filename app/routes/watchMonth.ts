import { data } from "react-router";
import { DAY_MS, monthOfDay, monthReport } from "#core/watch";
import { lastLook, watchClockMs } from "#jobs";
import { watchSettings } from "#monitoring";
import { fileName } from "../requests/fileName";
import { requirePlan } from "../requests/plan.server";
import { printed } from "../print/press.server";
import type { Route } from "./+types/watchMonth";

/** The newest month of the watch on paper, or the one that is asked for as 2026-11. */
export async function loader({ params: { planId }, url }: Route.LoaderArgs) {
  const { store, world } = await requirePlan(planId);
  const look = await lastLook(store, planId);
  if (!look) throw data("Nothing has been looked at yet, so there is no month to print.", { status: 409 });
  const settings = await watchSettings(store, planId);
  const asked = url.searchParams.get("month");
  if (asked !== null && !/^\d{4}-(0[1-9]|1[0-2])$/.test(asked))
    throw data("A month is written as 2026-11.", { status: 400 });
  const month = monthOfDay(
    Math.floor(asked === null ? (watchClockMs(settings) - 1) / DAY_MS : Date.parse(`${asked}-01`) / DAY_MS),
  );
  const links = look.links.filter(({ linkId }) => world.links.has(linkId));
  const report = monthReport(world, { month, links, isSimulated: settings.source === "simulated" });
  return new Response(await printed("month", report), {
    headers: {
      "Content-Type": "application/pdf",
      "Content-Disposition": `attachment; filename="${fileName(`Watch ${world.plan.name}`)}.pdf"`,
    },
  });
}
