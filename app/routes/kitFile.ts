import { billOf } from "#core/bill";
import type { World } from "#core/plan";
import { writeAddressesCsv, writeOrderCsv } from "#formats/bill";
import { writeHosts, writeSheetsJson, writeSheetsText, writeZone } from "#formats/sheets";
import { data } from "react-router";
import { fileName } from "../data/fileName";
import { requirePlan } from "../data/plan.server";
import type { Route } from "./+types/kitFile";

const FILES: Readonly<Record<string, { type: string; write: (world: World) => string }>> = {
  "bill.csv": { type: "text/csv", write: (world) => writeOrderCsv(billOf(world)) },
  "addresses.csv": { type: "text/csv", write: writeAddressesCsv },
  "hosts.txt": { type: "text/plain", write: writeHosts },
  "zone.txt": { type: "text/plain", write: writeZone },
  "sheets.json": { type: "application/json", write: writeSheetsJson },
  "sheets.txt": { type: "text/plain", write: writeSheetsText },
};

/** The kept plan's order list, its addresses, or what each device is set to. */
export async function loader({ params }: Route.LoaderArgs) {
  const { rows, world } = await requirePlan(params.planId);
  const file = Object.hasOwn(FILES, params.file) ? FILES[params.file]! : null;
  if (!file) throw data(`There is no file "${params.file}" of this plan's kit.`, { status: 404 });
  const [name, ending] = params.file.split(".");
  return new Response(file.write(world), {
    headers: {
      "Content-Type": `${file.type}; charset=utf-8`,
      "Content-Disposition": `attachment; filename="${fileName(`${rows.plan.name} ${name}`)}.${ending}"`,
    },
  });
}
