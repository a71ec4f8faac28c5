import { inverseGeodesic, type Place } from "../geodesy";
import { linkEnds, type Crew, type Visit, type World } from "../plan";

/** Over roads one goes farther than straight, and this fast. */
const ROAD_FACTOR = 1.4;
const ROAD_KM_PER_H = 40;
/** Unloading and loading again, minutes. */
const STOP_MIN = 10;

/** How long a crew takes from one place to another, minutes; nothing where it stays. */
export function travelMinutes(from: Place, to: Place): number {
  const { distanceM } = inverseGeodesic(from, to);
  return distanceM < 50 ? 0 : Math.ceil(((distanceM / 1000) * ROAD_FACTOR * 60) / ROAD_KM_PER_H + STOP_MIN);
}

/** Where a crew is during a job: at its end, or at the far one last where it has both. */
export function placeOf(world: World, visit: Visit, crewId: string): Place {
  const { a, b } = linkEnds(world, world.links.get(visit.linkId)!);
  // The far end comes first: whoever has both finishes at the nearer.
  return visit.crewAId === crewId ? a.place : b.place;
}

/** Minutes that a job takes a crew: one that has both ends of a bridge goes over and back. */
export function minutesOfCrew(world: World, visit: Visit, crewId: string): number {
  const link = world.links.get(visit.linkId)!;
  if (visit.crewAId !== crewId || visit.crewBId !== crewId) return visit.minutes;
  const { a, b } = linkEnds(world, link);
  return visit.minutes + travelMinutes(b.place, a.place) * (link.kind === "bridge" ? 2 : 1);
}

/** A crew's jobs of a day, by when they begin. */
export const dayOf = (world: World, crewId: string, day: string): Visit[] =>
  [...world.visits.values()]
    .filter((visit) => visit.day === day && (visit.crewAId === crewId || visit.crewBId === crewId))
    .sort((x, y) => x.startMinute - y.startMinute || (x.id < y.id ? -1 : 1));

/**
 * A sensible order of a crew's jobs of one day, with when each begins: always the nearest next, none before those it waits for.
 * The first begins when the earliest of them was set to.
 */
export function orderedDay(world: World, crewId: string, day: string): Map<string, number> {
  const left = new Set(dayOf(world, crewId, day).map(({ id }) => id));
  const starts = new Map<string, number>();
  let minute = Math.min(...[...left].map((id) => world.visits.get(id)!.startMinute));
  let at: Place | null = null;
  while (left.size > 0) {
    const free = [...left].filter((id) => !world.visits.get(id)!.afterIds.some((before) => left.has(before)));
    // A circle of jobs that wait for one another is told elsewhere; here one of them begins.
    const [next] = (free.length > 0 ? free : [...left])
      .map((id) => ({ id, away: at ? travelMinutes(at, placeOf(world, world.visits.get(id)!, crewId)) : 0 }))
      .sort((x, y) => x.away - y.away || (x.id < y.id ? -1 : 1));
    const visit = world.visits.get(next!.id)!;
    minute += next!.away;
    starts.set(visit.id, Math.min(1439, minute));
    minute += minutesOfCrew(world, visit, crewId);
    at = placeOf(world, visit, crewId);
    left.delete(visit.id);
  }
  return starts;
}

/** The same for all crews of a day: a job that two of them share begins when the later one can be there. */
export function orderedForAll(world: World, day: string): Map<string, number> {
  const starts = new Map<string, number>();
  for (const { id } of world.crews.values())
    for (const [visitId, minute] of orderedDay(world, id, day))
      starts.set(visitId, Math.max(minute, starts.get(visitId) ?? 0));
  return starts;
}

/** People of a crew, as they are written one a line. */
export const peopleOf = ({ people }: Crew): string[] =>
  people
    .split("\n")
    .map((line) => line.trim())
    .filter((line) => line !== "");
