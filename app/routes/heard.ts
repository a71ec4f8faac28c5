import { data } from "react-router";
import { z } from "zod";
import { openPlan } from "../requests/plan.server";
import type { Route } from "./+types/heard";

const askedSchema = z.array(z.string().min(1).max(64)).min(1).max(100);

/** What the ends of the links named by `?link=` hear of the plan's other transmitters. */
export async function loader({ params, url }: Route.LoaderArgs) {
  const asked = askedSchema.safeParse(url.searchParams.getAll("link"));
  if (!asked.success) throw data("1 to 100 links are named at once.", { status: 400 });
  const { context } = await openPlan(params.planId);
  return Response.json(await context.ask("heard", { linkIds: asked.data }));
}
