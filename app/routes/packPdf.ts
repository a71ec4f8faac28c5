import { data } from "react-router";
import { visitProblems } from "#core/crews";
import { requireVisit } from "../crew/visit.server";
import { fileName } from "../requests/fileName";
import { readPreferences } from "../shared/preferences";
import { fieldPack } from "../crew/pack.server";
import { photosOf } from "../crew/photos.server";
import { printed } from "../print/press.server";
import type { Route } from "./+types/packPdf";

/** A job's pack on paper. */
export async function loader({ params, request }: Route.LoaderArgs) {
  const { store, context, world, revision, visit } = await requireVisit(params.planId, params.visitId);
  const pack = await fieldPack(store, context, { world, revision, visit });
  if (!pack.ends) throw data("This path has no answer yet, so there is no pack to print.", { status: 409 });
  const problems = visitProblems(world).filter(({ visitId }) => visitId === visit.id);
  const pdf = await printed("pack", {
    ...{ pack, problems: problems.map(({ text }) => text) },
    photos: await photosOf(store, world, params.planId, [pack.ends.a.place.id, pack.ends.b.place.id]),
    as: readPreferences(request),
  });
  return new Response(pdf, {
    headers: {
      "Content-Type": "application/pdf",
      "Content-Disposition": `attachment; filename="${fileName(pack.name)}.pdf"`,
    },
  });
}
