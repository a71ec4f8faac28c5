import { sidesOf, visitName } from "#core/crews";
import { crewSheet } from "#core/install";
import { networkFor } from "#core/addressing";
import { linkEnds, type LinkEnd, type Visit, type World } from "#core/plan";
import { toolWords } from "#core/procedures";
import { promisedBy } from "#core/proof";
import { readFieldNotes, type Store } from "#store";
import type { FieldEnd, FieldPack, FieldVisit } from "#wire";
import type { PlanContext } from "#engine";

/** A job as it stands in the list of a phone. */
export function fieldVisit(world: World, visit: Visit, revision: number): FieldVisit {
  const crew = (id: string | null) => world.crews.get(id ?? "")?.name ?? "";
  const { id, work, day, startMinute, minutes, state } = visit;
  return {
    ...{ id, work, day, startMinute, minutes, state, name: visitName(world, visit) },
    crews: [crew(visit.crewAId), crew(visit.crewBId)],
    stamp: String(revision),
  };
}

function fieldEnd(
  world: World,
  end: LinkEnd,
  sheet: FieldEnd["sheet"],
  crewId: string | null,
  homeSiteId: string | null,
): FieldEnd {
  const { radio } = end;
  const isSite = radio.siteId !== null;
  const ownerId = radio.siteId ?? radio.subscriberId!;
  const { notes } = (isSite ? world.sites : world.subscribers).get(ownerId)!;
  const crew = world.crews.get(crewId ?? "");
  const home = world.sites.get(radio.siteId ?? homeSiteId ?? "");
  return {
    sheet,
    // Scans are for the desk: they are long.
    end: { ...end, scans: [] },
    crew: crew ? { name: crew.name, people: crew.people, radioChannel: crew.radioChannel, phone: crew.phone } : null,
    place: { kind: isSite ? "sites" : "subscribers", id: ownerId, notes, access: end.access, hazards: end.hazards },
    address: radio.address,
    gateway: home ? networkFor(home, radio.role).gateway : "",
    photos: [...world.photos.values()]
      .filter((photo) => photo.ownerId === ownerId)
      .map(({ id, name, caption }) => ({ id, name, caption })),
  };
}

/** Everything that a phone needs of a job to go without signal. */
export async function fieldPack(
  store: Store,
  context: PlanContext,
  { world, revision, visit }: { world: World; revision: number; visit: Visit },
): Promise<FieldPack> {
  const link = world.links.get(visit.linkId)!;
  const { a, b } = linkEnds(world, link);
  const answer = await context.ask("link", { linkId: link.id });
  const { azimuthDeg, backAzimuthDeg, distanceM } = await context.ask("line", { from: a.place, to: b.place });
  const now = new Date();
  const path = answer?.path ?? null;
  const sheets =
    path && crewSheet(world.plan, a, b, path, { azimuthDeg, backAzimuthDeg }, now, [...world.procedures.values()]);
  const worked = sheets ? sidesOf(visit, link.kind).map((side) => sheets[side].work.steps) : [];
  return {
    planId: world.plan.id,
    planName: world.plan.name,
    revision,
    madeAt: now.toISOString(),
    plan: world.plan,
    visit,
    name: visitName(world, visit),
    link,
    distanceM,
    ends: sheets && {
      a: fieldEnd(world, a, sheets.a, visit.crewAId, a.radio.siteId),
      b: fieldEnd(world, b, sheets.b, visit.crewBId, a.radio.siteId),
    },
    promised: path && promisedBy(path),
    tools: toolWords(worked.flat()),
    notes: await readFieldNotes(store.db, world.plan.id, [visit.id]),
  };
}
