import { linkEnds, linkName, type Visit, type World } from "../plan";
import { figure } from "../words";
import { dayOf, minutesOfCrew, peopleOf, placeOf, travelMinutes } from "./day";

/** What stands against a job as it is planned. */
export interface VisitProblem {
  visitId: string;
  /** What is wrong, and what is only still to be done before. */
  kind: "wrong" | "toDo";
  text: string;
}

const PERMIT_WORDS = { toAsk: "nobody has asked yet", asked: "asked, not granted yet" } as const;

/** "09:30" */
export const clock = (minute: number): string =>
  `${String(Math.floor(minute / 60)).padStart(2, "0")}:${String(minute % 60).padStart(2, "0")}`;

/** What a job is called: by its places. */
export const visitName = (world: World, { linkId }: Pick<Visit, "linkId">): string => linkName(world, linkId);

/** Everything that stands against the open jobs of a plan. */
export function visitProblems(world: World): VisitProblem[] {
  const problems: VisitProblem[] = [];
  const open = [...world.visits.values()].filter(({ state }) => state !== "done");
  for (const visit of open) {
    const wrong = (text: string) => problems.push({ visitId: visit.id, kind: "wrong", text });
    const toDo = (text: string) => problems.push({ visitId: visit.id, kind: "toDo", text });
    const link = world.links.get(visit.linkId)!;
    const { a, b } = linkEnds(world, link);
    for (const id of visit.afterIds) {
      const before = world.visits.get(id);
      if (!before || before.state === "done" || visit.day === "") continue;
      const name = visitName(world, before);
      if (before.day === "") wrong(`It waits for ${name}, which has no day yet.`);
      else if (startOf(before) + before.minutes > startOf(visit))
        wrong(`It waits for ${name}, which ends after this begins.`);
    }
    if (circleFrom(world, visit)) wrong("It waits for a job that waits for it.");
    if (visit.day === "") continue;
    for (const [crewId, end] of [
      [visit.crewAId, a],
      [visit.crewBId, b],
    ] as const) {
      // A customer is served from a sector that stands: nobody need be there.
      if (link.kind === "access" && end === a && crewId === null) continue;
      if (crewId === null) toDo(`Nobody is at ${end.placeName} yet.`);
      const crew = crewId === null ? undefined : world.crews.get(crewId);
      if (crew && peopleOf(crew).length < 2)
        wrong(`${crew.name} is one person at ${end.placeName}: nobody climbs alone, and somebody must know where.`);
    }
    if (link.kind === "bridge" && visit.crewAId !== null && visit.crewAId === visit.crewBId)
      wrong(
        "One crew has both ends: each turn of one dish is read at the other, so two crews see at once what one drives between.",
      );
    if (visit.powerOff === "toAsk" || visit.powerOff === "asked") toDo(`Power off: ${PERMIT_WORDS[visit.powerOff]}.`);
    if (visit.climb === "toAsk" || visit.climb === "asked") toDo(`Permit to climb: ${PERMIT_WORDS[visit.climb]}.`);
    if (!visit.packed) toDo("Parts are not packed.");
    if (!visit.neighboursTold) toDo("Neighbours are not told.");
  }
  return [...problems, ...clashes(world, open)];
}

const startOf = ({ day, startMinute }: Visit): number => Date.parse(`${day}T00:00:00Z`) / 60_000 + startMinute;

/** Whether a job waits, over others, for itself. */
function circleFrom(world: World, visit: Visit): boolean {
  const seen = new Set<string>();
  const queue = [...visit.afterIds];
  for (let id = queue.pop(); id !== undefined; id = queue.pop()) {
    if (id === visit.id) return true;
    if (seen.has(id)) continue;
    seen.add(id);
    queue.push(...(world.visits.get(id)?.afterIds ?? []));
  }
  return false;
}

/** Crews that are wanted in two places at once, or sooner than they can be there. */
function clashes(world: World, open: readonly Visit[]): VisitProblem[] {
  const problems: VisitProblem[] = [];
  const days = new Set(open.map(({ day }) => day).filter((day) => day !== ""));
  for (const crew of world.crews.values())
    for (const day of days) {
      const visits = dayOf(world, crew.id, day).filter(({ state }) => state !== "done");
      visits.slice(1).forEach((visit, i) => {
        const before = visits[i]!;
        const freeAt = before.startMinute + minutesOfCrew(world, before, crew.id);
        const away = travelMinutes(placeOf(world, before, crew.id), placeOf(world, visit, crew.id));
        if (freeAt + away <= visit.startMinute) return;
        problems.push({
          visitId: visit.id,
          kind: "wrong",
          text: `${crew.name} is at ${visitName(world, before)} until ${clock(freeAt)} and some ${figure(away, 0)} minutes away: not here by ${clock(visit.startMinute)}.`,
        });
      });
    }
  return problems;
}
