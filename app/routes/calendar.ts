import { peopleOf, visitName, visitProblems } from "#core/crews";
import { linkEnds } from "#core/plan";
import { writeCalendar } from "#formats/calendar";
import { jobsSeen } from "../access/ownJobs.server";
import { fileName } from "../requests/fileName";
import { requirePlan } from "../requests/plan.server";
import { WORK_WORDS } from "../shared/jobWords";
import type { Route } from "./+types/calendar";

/** The jobs of a plan that have a day, as an iCalendar file; with `?crew=` those of one crew. */
export async function loader({ params, url }: Route.LoaderArgs) {
  const { store, world, revision } = await requirePlan(params.planId);
  const sees = await jobsSeen(store, world);
  const crewId = url.searchParams.get("crew");
  const problems = visitProblems(world);
  const visits = [...world.visits.values()].filter(
    (visit) =>
      visit.day !== "" && sees.job(visit) && (crewId === null || visit.crewAId === crewId || visit.crewBId === crewId),
  );
  const text = writeCalendar(
    world.plan.name,
    visits.map((visit) => {
      const { a, b } = linkEnds(world, world.links.get(visit.linkId)!);
      const who = [visit.crewAId, visit.crewBId].map((id) => world.crews.get(id ?? ""));
      const open = problems.filter(({ visitId }) => visitId === visit.id).map(({ text: one }) => one);
      const at = crewId !== null && visit.crewAId === crewId ? a : b;
      const named = who.map(
        (crew, i) => `${[a, b][i]!.placeName}: ${crew ? `${crew.name} (${peopleOf(crew).join(", ")})` : "nobody yet"}`,
      );
      return {
        id: visit.id,
        title: `${WORK_WORDS[visit.work]}: ${visitName(world, visit)}`,
        ...{ day: visit.day, startMinute: visit.startMinute, minutes: visit.minutes, revision },
        text: [...named, visit.weather && `Weather: ${visit.weather}`, ...open, visit.notes].filter(Boolean).join("\n"),
        place: at.placeName,
        at: { latDeg: at.place.latDeg, lonDeg: at.place.lonDeg },
      };
    }),
  );
  const name = `${fileName(`${world.plan.name} jobs`)}.ics`;
  return new Response(text, {
    headers: {
      "Content-Type": "text/calendar; charset=utf-8",
      "Content-Disposition": `attachment; filename="${name}"`,
    },
  });
}
