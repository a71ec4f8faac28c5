import { data } from "react-router";
import { readingIdOf } from "#core/crews";
import { linkEnds } from "#core/plan";
import { criteriaChanged, judge, newestMeasurements } from "#core/proof";
import { fileName } from "../requests/fileName";
import { readPreferences } from "../shared/preferences";
import { fieldPack } from "../crew/pack.server";
import { photosOf } from "../crew/photos.server";
import { requireVisit } from "../crew/visit.server";
import { printed } from "../print/press.server";
import type { Route } from "./+types/certificate";

/** What a job proved, on paper: its own reading, or else the link's newest. */
export async function loader({ params, request }: Route.LoaderArgs) {
  const { store, context, world, revision, visit } = await requireVisit(params.planId, params.visitId);
  const reading = world.measurements.get(readingIdOf(visit)) ?? newestMeasurements(world).get(visit.linkId);
  if (!reading) throw data("Nothing was read on this link yet, so there is nothing to certify.", { status: 409 });
  const pack = await fieldPack(store, context, { world, revision, visit });
  if (!pack.ends)
    throw data("This path has no answer any more, so there is nothing to hold the reading against.", { status: 409 });
  const { a, b } = linkEnds(world, world.links.get(visit.linkId)!);
  const photos = await photosOf(store, world, params.planId, [pack.ends.a.place.id, pack.ends.b.place.id]);
  const verdict = judge(world.plan, a, b, reading);
  const pdf = await printed("certificate", {
    ...{
      certified: { pack, reading, verdict, changed: criteriaChanged(world.plan, reading), photos },
      as: readPreferences(request),
    },
  });
  return new Response(pdf, {
    headers: {
      "Content-Type": "application/pdf",
      "Content-Disposition": `attachment; filename="${fileName(`Certificate ${pack.name}`)}.pdf"`,
    },
  });
}
