import { crewSheet, type CrewEnd } from "#core/install";
import { linkEnds, type Link } from "#core/plan";
import { linkStates } from "#core/proof";
import { jobsSeen, requireSeen } from "../access/ownJobs.server";
import { requireLink } from "../requests/plan.server";

export interface SheetData {
  planId: string;
  linkId: string;
  planName: string;
  names: [string, string];
  kind: Link["kind"];
  state: Link["state"];
  distanceM: number;
  /** ISO; headings are for this moment. */
  madeAt: string;
  /** Null where the path has no answer, so that there is nothing to aim by. */
  ends: { a: CrewEnd; b: CrewEnd } | null;
}

/** A link's crew sheet as of now. */
export async function readSheet(planId: string, linkId: string): Promise<SheetData> {
  const { store, context, link, answer, rows, world } = await requireLink(planId, linkId);
  requireSeen((await jobsSeen(store, world)).link(linkId));
  const { a, b } = linkEnds(world, link);
  const { azimuthDeg, backAzimuthDeg, distanceM } = await context.ask("line", { from: a.place, to: b.place });
  const now = new Date();
  return {
    planId,
    linkId,
    planName: rows.plan.name,
    names: [a.placeName, b.placeName],
    kind: link.kind,
    state: linkStates(world).get(link.id) ?? "planned",
    distanceM,
    madeAt: now.toISOString(),
    ends:
      answer.path &&
      crewSheet(rows.plan, a, b, answer.path, { azimuthDeg, backAzimuthDeg }, now, [...world.procedures.values()]),
  };
}
