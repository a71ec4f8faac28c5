import { data } from "react-router";
import { z } from "zod";
import { askCoverage } from "#jobs";
import { Stopped } from "#pool";
import { learnedOverSchema } from "#core/coverage";
import { plainIssue } from "#core/plan";
import { gridAskSchema, metresSchema, MOST_RINGS } from "../requests/circleAsked.server";
import { openPlan } from "../requests/plan.server";
import { jsonOf } from "../requests/asked.server";
import type { Route } from "./+types/coverage";

const askSchema = z
  .object({
    ...gridAskSchema,
    txHeightM: metresSchema,
    rxHeightM: metresSchema,
    frequencyGHz: z.number().min(0.03).max(1000),
    kFactor: z.number().positive().max(1000),
    season: z.enum(["inLeaf", "bare"]),
    learned: learnedOverSchema.nullable(),
    wedge: z.number().int().min(0).max(3),
  })
  .refine(({ radiusM, cellM }) => radiusM / cellM <= MOST_RINGS, {
    message: "more cells than are worked out at once: choose larger cells or a smaller circle",
    path: ["cellM"],
  });

/** One part of a coverage as packed losses: see wire/coverage.ts. */
export async function action({ params, request }: Route.ActionArgs) {
  const { store, context } = await openPlan(params.planId);
  const order = askSchema.safeParse(await jsonOf(request));
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
