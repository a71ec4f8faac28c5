import { createElement } from "react";
import { data } from "react-router";
import { readPreferences } from "../data/preferences";
import { printed } from "../data/printed.server";
import { readSheet } from "../data/sheet.server";
import { formatsFor } from "../ui/format";
import type { Route } from "./+types/sheetPdf";

export async function loader({ params, request }: Route.LoaderArgs) {
  const sheet = await readSheet(params.planId, params.linkId);
  if (!sheet.ends) throw data("This path has no answer yet, so there is no sheet to print.", { status: 409 });
  const { SheetPdf } = await import("../data/SheetPdf");
  const element = createElement(SheetPdf, { sheet, formats: formatsFor(readPreferences(request)) });
  const name = sheet.names.join(" to ").replace(/[^\w ]+/g, "");
  return new Response(await printed(element), {
    headers: { "Content-Type": "application/pdf", "Content-Disposition": `attachment; filename="${name}.pdf"` },
  });
}
