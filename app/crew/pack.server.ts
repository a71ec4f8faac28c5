import { isOnMap, sidesOf, visitName, type EndSide, type JobMap, type Named } from "#core/crews";
import { crewSheet } from "#core/install";
import { networkFor } from "#core/addressing";
import { billOf } from "#core/bill";
import { inverseGeodesic } from "#core/geodesy";
import { figure } from "#core/words";
import { linkEnds, type LinkEnd, type Visit, type World } from "#core/plan";
import { toolWords } from "#core/procedures";
import { linkStates, promisedBy } from "#core/proof";
import { readFieldNotes, type Store } from "#store";
import { PACK_FORMAT, type FieldEnd, type FieldPack, type FieldVisit } from "#wire";
import type { PlanContext } from "#engine";

/** How near and how far another site may stand to tell a direction by, and how many are told. */
const [LEAST_LANDMARK_M, MOST_LANDMARK_M, MOST_LANDMARKS] = [300, 30_000, 8];

/** A job as it stands in the list of a phone. */
export function fieldVisit(world: World, visit: Visit): FieldVisit {
  const crew = (id: string | null) => world.crews.get(id ?? "")?.name ?? "";
  const { id, work, day, startMinute, minutes, state } = visit;
  return {
    ...{ id, work, day, startMinute, minutes, state, name: visitName(world, visit) },
    crews: [crew(visit.crewAId), crew(visit.crewBId)],
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
    landmarks: [...world.sites.values()]
      .flatMap(({ id, name, latDeg, lonDeg }) => {
        const { distanceM, azimuthDeg } = inverseGeodesic(end.place, { latDeg, lonDeg });
        const isFit = id !== ownerId && distanceM > LEAST_LANDMARK_M && distanceM < MOST_LANDMARK_M;
        return isFit ? [{ name, bearingDeg: azimuthDeg, distanceM }] : [];
      })
      .sort((x, y) => x.distanceM - y.distanceM)
      .slice(0, MOST_LANDMARKS),
    photos: [...world.photos.values()]
      .filter((photo) => photo.ownerId === ownerId)
      .map(({ id, name, caption }) => ({ id, name, caption })),
  };
}

/** What one end's radio takes, as it goes into the car. */
function carriedFor(world: World, { radio }: LinkEnd): FieldEnd["carried"] & object {
  const { lines, weightKg, climbKg } = billOf(world, [radio], []);
  const parts = lines
    .filter(({ needed }) => needed > 0)
    .map(({ needed, unit, name }) => `${figure(needed, unit === "m" ? 1 : 0)} ${unit === "m" ? "m" : "×"} ${name}`);
  return { parts, carKg: weightKg, climbKg };
}

/** Sites of the plan that stand on a map. */
const sitesOn = ({ frame }: JobMap, world: World): Named[] =>
  [...world.sites.values()]
    .filter((site) => isOnMap(frame, site))
    .map(({ name, latDeg, lonDeg }) => ({ name, latDeg, lonDeg }));

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
  const map = await context.ask("country", { a: a.place, b: b.place });
  const now = new Date();
  const path = answer?.path ?? null;
  const sheets =
    path && crewSheet(world.plan, a, b, path, { azimuthDeg, backAzimuthDeg }, now, [...world.procedures.values()]);
  const sides = sidesOf(visit, link.kind);
  const worked = sheets ? sides.map((side) => sheets[side].work.steps) : [];
  const lines = {
    a: [azimuthDeg, path?.aTiltDownDeg ?? 0],
    b: [backAzimuthDeg, path?.bTiltDownDeg ?? 0],
  } as const;
  const endOf = (side: EndSide): FieldEnd => {
    const [bearingDeg, tilt] = lines[side];
    return {
      ...fieldEnd(world, { a, b }[side], sheets![side], { a: visit.crewAId, b: visit.crewBId }[side], a.radio.siteId),
      line: { bearingDeg, tiltDownDeg: tilt },
      carried: visit.work === "build" && sides.includes(side) ? carriedFor(world, { a, b }[side]) : null,
    };
  };
  return {
    planId: world.plan.id,
    planName: world.plan.name,
    revision,
    ...{ format: PACK_FORMAT, madeAt: now.toISOString() },
    plan: world.plan,
    visit,
    name: visitName(world, visit),
    link: { ...link, state: linkStates(world).get(link.id) ?? "planned" },
    ...{ distanceM, country: { map, sites: sitesOn(map, world) } },
    ends: sheets && { a: endOf("a"), b: endOf("b") },
    promised: path && promisedBy(world.plan, path),
    tools: toolWords(worked.flat()),
    notes: await readFieldNotes(store.db, world.plan.id, [visit.id]),
  };
}
