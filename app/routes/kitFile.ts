import { billOf } from "#core/bill";
import { writeAddressesCsv, writeOrderCsv } from "#formats/bill";
import { data } from "react-router";
import { fileName } from "../data/fileName";
import { requirePlan } from "../data/plan.server";
import type { Route } from "./+types/kitFile";

/** The kept plan's order list, or its addresses, as a table. */
export async function loader({ params }: Route.LoaderArgs) {
  const { rows, world } = await requirePlan(params.planId);
  const written =
    params.file === "bill.csv"
      ? writeOrderCsv(billOf(world))
      : params.file === "addresses.csv"
        ? writeAddressesCsv(world)
        : null;
  if (written === null) throw data(`There is no file "${params.file}" of this plan's kit.`, { status: 404 });
  return new Response(written, {
    headers: {
      "Content-Type": "text/csv; charset=utf-8",
      "Content-Disposition": `attachment; filename="${fileName(`${rows.plan.name} ${params.file.slice(0, -4)}`)}.csv"`,
    },
  });
}
