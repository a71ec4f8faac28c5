import { linkEnds, putPatch, setPatch, type Alarm, type World } from "../../plan";
import { peopleBehind } from "../../outcome";
import { alarmVisit, leadWords } from "../../watch";
import type { Check } from "./check";

const peopleOf = (world: World, { linkIds }: Alarm) =>
  linkIds.reduce((sum, id) => {
    const link = world.links.get(id);
    return link ? sum + peopleBehind(world, link) : sum;
  }, 0);

/** What the watch found, that nobody has closed and no job is open for. */
export const alarm: Check = {
  id: "alarm",
  title: "The watch raised an alarm",
  stage: "monitoring",
  ofPlan: (world) =>
    [...world.alarms.values()].flatMap((one) => {
      const link = world.links.get(one.linkId);
      const visit = one.visitId === null ? undefined : world.visits.get(one.visitId);
      // Once it is a job it is the job's turn.
      if (one.state === "closed" || !link || (visit && visit.state !== "done")) return [];
      const { a, b } = linkEnds(world, link);
      const root = one.radioId === null ? undefined : world.radios.get(one.radioId);
      const others = one.linkIds.length - 1;
      return [
        {
          radioId: one.radioId,
          about: [
            { kind: "alarms" as const, id: one.id },
            { kind: "links" as const, id: link.id },
          ],
          linkId: link.id,
          where: root
            ? `${root.name}, ${one.linkIds.length} links`
            : `${a.placeName} – ${b.placeName}${others > 0 ? ` and ${others} behind it` : ""}`,
          what: `since ${one.sinceDay} ${one.what}`,
          why: leadWords(one),
          figure: { value: one.value, unit: one.unit },
          people: peopleOf(world, one),
          cause: null,
        },
      ];
    }),
  remedies: (world, { about }) => {
    const one = world.alarms.get(about?.find(({ kind }) => kind === "alarms")?.id ?? "");
    if (!one) return [];
    const again = one.visitId !== null && world.visits.has(one.visitId) ? "again-" : "";
    const visit = alarmVisit(world, one, `mend-${again}${one.id}`.slice(0, 64));
    if (!visit) return [];
    return [
      {
        label: "Make a job of it",
        effect: "a job to mend both ends, to be put on a day",
        patches: [putPatch("visits", visit), setPatch("alarms", one.id, { visitId: visit.id, state: "seen" })],
        visit: false,
      },
    ];
  },
};
