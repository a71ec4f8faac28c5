import type { World } from "#core/plan";
import { stagingGroups } from "#core/staging";
import { KIT_TEXTS } from "#engine";
import type { Store } from "#store";
import { data } from "react-router";
import { fileName } from "../requests/fileName";
import { labelsPdf, MOST_PRINTED, orderPdf, proceduresPdf, sheetsPdf } from "../print/kitPdf.server";
import { openPlan } from "../requests/plan.server";
import type { Route } from "./+types/kitFile";

/** The radios of a plan in the order in which they are staged. Throws a refusal where they are more than one file holds. */
function printedRadios(world: World): string[] {
  const radioIds = stagingGroups(world).flatMap(({ leaderId, followerIds }) => [leaderId, ...followerIds]);
  if (radioIds.length > MOST_PRINTED)
    throw data(`A file holds ${MOST_PRINTED} devices; the plan has ${radioIds.length} radios.`, { status: 413 });
  return radioIds;
}

type PdfWriter = (store: Store, world: World) => Promise<Uint8Array<ArrayBuffer>>;
const PDFS: Readonly<Record<string, PdfWriter>> = {
  "order.pdf": orderPdf,
  "labels.pdf": (store, world) => labelsPdf(store, world, printedRadios(world)),
  "sheets.pdf": (_store, world) => sheetsPdf(world, printedRadios(world)),
  "procedures.pdf": (_store, world) => proceduresPdf(world),
};

/** What texts are, by their endings. */
const TEXT_TYPES: Readonly<Record<string, string>> = {
  csv: "text/csv; charset=utf-8",
  txt: "text/plain; charset=utf-8",
  json: "application/json",
};

/** The kept plan's order list, its addresses, labels, or what each device is set to. */
export async function loader({ params }: Route.LoaderArgs) {
  const { store, context } = await openPlan(params.planId);
  const [name, ending = ""] = params.file.split(".");
  const writePdf = Object.hasOwn(PDFS, params.file) ? PDFS[params.file]! : null;
  const text = KIT_TEXTS.find((one) => one === params.file);
  if (!writePdf && !text) throw data(`There is no file "${params.file}" of this plan's kit.`, { status: 404 });
  const body = text
    ? await context.ask("kitText", { name: text })
    : await writePdf!(store, (await context.load()).world);
  const { plan } = await context.ask("plan");
  return new Response(body, {
    headers: {
      "Content-Type": text ? TEXT_TYPES[ending]! : "application/pdf",
      "Content-Disposition": `attachment; filename="${fileName(`${plan.name} ${name}`)}.${ending}"`,
    },
  });
}
