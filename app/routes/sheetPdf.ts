import { data } from "react-router";
import { readPreferences } from "../shared/preferences";
import { readSheet } from "../crew/sheet.server";
import { printed } from "../print/press.server";
import type { Route } from "./+types/sheetPdf";

export async function loader({ params, request }: Route.LoaderArgs) {
  const sheet = await readSheet(params.planId, params.linkId);
  if (!sheet.ends) throw data("This path has no answer yet, so there is no sheet to print.", { status: 409 });
  const name = sheet.names.join(" to ").replace(/[^\w ]+/g, "");
  return new Response(await printed("crewSheet", { sheet, as: readPreferences(request) }), {
    headers: { "Content-Type": "application/pdf", "Content-Disposition": `attachment; filename="${name}.pdf"` },
  });
}
