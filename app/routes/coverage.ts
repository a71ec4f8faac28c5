import { data } from "react-router";
import { askCoverage } from "#jobs";
import { coverageAskSchema, Stopped } from "#pool";
import { plainIssue } from "#core/plan";
import { openPlan } from "../requests/plan.server";
import { jsonOf } from "../requests/asked.server";
import type { Route } from "./+types/coverage";

/** One part of a coverage as packed losses: see wire/coverage.ts. */
export async function action({ params, request }: Route.ActionArgs) {
  const { store, context } = await openPlan(params.planId);
  const order = coverageAskSchema.safeParse(await jsonOf(request));
  if (!order.success) throw data(`That cannot be asked: ${plainIssue(order.error.issues[0]!)}`, { status: 400 });
  try {
    const bytes = await askCoverage(store, context, order.data, request.signal);
    return new Response(Uint8Array.from(bytes), {
      headers: { "Content-Type": "application/x-tejado-losses", "Content-Encoding": "gzip" },
    });
  } catch (error) {
    if (error instanceof Stopped) throw data("Nobody waits for that any more.", { status: 409 });
    throw error;
  }
}
