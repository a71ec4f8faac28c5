import { createElement } from "react";
import { data } from "react-router";
import { readPreferences } from "../data/preferences";
import { readSheet } from "../data/sheet.server";
import { formatsFor } from "../ui/format";
import type { Route } from "./+types/sheetPdf";

export async function loader({ params, request }: Route.LoaderArgs) {
  const sheet = await readSheet(params.planId, params.linkId);
  if (!sheet.ends) throw data("This path has no answer yet, so there is no sheet to print.", { status: 409 });
  const [{ renderToBuffer }, { SheetPdf }] = await Promise.all([
    import("@react-pdf/renderer"),
    import("../data/SheetPdf"),
  ]);
  const element = createElement(SheetPdf, { sheet, formats: formatsFor(readPreferences(request)) });
  const pdf = await renderToBuffer(element as Parameters<typeof renderToBuffer>[0]);
  const name = sheet.names.join(" to ").replace(/[^\w ]+/g, "");
  return new Response(new Uint8Array(pdf), {
    headers: { "Content-Type": "application/pdf", "Content-Disposition": `attachment; filename="${name}.pdf"` },
  });
}
