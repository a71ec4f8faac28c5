import { data } from "react-router";
import { z } from "zod";
import { askCoverage } from "#jobs";
import { Stopped } from "#pool";
import { learnedOverSchema } from "#core/coverage";
import { plainIssue } from "#core/plan";
import { openPlan } from "../data/plan.server";
import { jsonOf } from "../data/asked.server";
import type { Route } from "./+types/coverage";

const metres = z.number().min(0).max(2000);
const askSchema = z
  .object({
    middle: z.object({ latDeg: z.number().min(-85).max(85), lonDeg: z.number().min(-180).max(180) }),
    txHeightM: metres,
    rxHeightM: metres,
    frequencyGHz: z.number().min(0.03).max(1000),
    kFactor: z.number().positive().max(1000),
    season: z.enum(["inLeaf", "bare"]),
    learned: learnedOverSchema.nullable(),
    radiusM: z.number().min(100).max(60_000),
    cellM: z.number().min(5).max(1000),
    wedge: z.number().int().min(0).max(3),
  })
  .refine(({ radiusM, cellM }) => radiusM / cellM <= MOST_RINGS, {
    message: "more cells than are worked out at once: choose larger cells or a smaller circle",
    path: ["cellM"],
  });
/** Cells from the middle to the rim. */
const MOST_RINGS = 800;

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
