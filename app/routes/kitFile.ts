import { billOf } from "#core/bill";
import type { World } from "#core/plan";
import { stagingGroups } from "#core/staging";
import { writeAddressesCsv, writeOrderCsv } from "#formats/bill";
import { writeHosts, writeSheetsJson, writeSheetsText, writeZone } from "#formats/sheets";
import type { Store } from "#store";
import { data } from "react-router";
import { fileName } from "../data/fileName";
import { labelsPdf, MOST_PRINTED, orderPdf, proceduresPdf, sheetsPdf } from "../data/kitPdf.server";
import { requirePlan } from "../data/plan.server";
import type { Route } from "./+types/kitFile";

interface KitFile {
  type: string;
  write: (world: World, store: Store) => string | Promise<Uint8Array<ArrayBuffer>>;
}

/** The radios of a plan in the order in which they are staged. Throws a refusal where they are more than one file holds. */
function printedRadios(world: World): string[] {
  const radioIds = stagingGroups(world).flatMap(({ leaderId, followerIds }) => [leaderId, ...followerIds]);
  if (radioIds.length > MOST_PRINTED)
    throw data(`A file holds ${MOST_PRINTED} devices; the plan has ${radioIds.length} radios.`, { status: 413 });
  return radioIds;
}

const FILES: Readonly<Record<string, KitFile>> = {
  "bill.csv": { type: "text/csv", write: (world) => writeOrderCsv(billOf(world)) },
  "order.pdf": { type: "application/pdf", write: (world, store) => orderPdf(store, world) },
  "labels.pdf": {
    type: "application/pdf",
    write: (world, store) => labelsPdf(store, world, printedRadios(world)),
  },
  "sheets.pdf": { type: "application/pdf", write: (world) => sheetsPdf(world, printedRadios(world)) },
  "procedures.pdf": { type: "application/pdf", write: proceduresPdf },
  "addresses.csv": { type: "text/csv", write: writeAddressesCsv },
  "hosts.txt": { type: "text/plain", write: writeHosts },
  "zone.txt": { type: "text/plain", write: writeZone },
  "sheets.json": { type: "application/json", write: writeSheetsJson },
  "sheets.txt": { type: "text/plain", write: writeSheetsText },
};

/** The kept plan's order list, its addresses, labels, or what each device is set to. */
export async function loader({ params }: Route.LoaderArgs) {
  const { store, rows, world } = await requirePlan(params.planId);
  const file = Object.hasOwn(FILES, params.file) ? FILES[params.file]! : null;
  if (!file) throw data(`There is no file "${params.file}" of this plan's kit.`, { status: 404 });
  const [name, ending] = params.file.split(".");
  return new Response(await file.write(world, store), {
    headers: {
      "Content-Type": file.type.startsWith("text/") ? `${file.type}; charset=utf-8` : file.type,
      "Content-Disposition": `attachment; filename="${fileName(`${rows.plan.name} ${name}`)}.${ending}"`,
    },
  });
}
