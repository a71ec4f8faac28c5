import {
  clock,
  linksWaiting,
  orderedForAll,
  progressAt,
  proposeVisits,
  sidesOf,
  visitName,
  type EndProgress,
} from "#core/crews";
import { linkEnds, MOST_STAGES, putPatch, setPatch, type Visit } from "#core/plan";
import { counted } from "#core/words";
import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
  type DragEndEvent,
} from "@dnd-kit/core";
import { CalendarDays, Smartphone } from "lucide-react";
import { useState } from "react";
import { useDesk } from "../../desk/DeskContext";
import { Button, buttonClass, figure, SelectField, TextField } from "../../ui";
import { JobDialog } from "./JobDialog";
import { useJobs, type Jobs } from "./useJobs";
import { VISIT_WORDS, WORK_WORDS } from "../../shared/jobWords";

/** Cards of one column that are drawn; the rest is counted. */
const MOST_SHOWN = 60;
/** Jobs that are proposed at once: more is no plan that anybody can look over. */
const MOST_PROPOSED = 200;

/** The plan's jobs by day, to be dragged from one to another. */
export function JobsBoard() {
  const { kept } = useDesk();
  const jobs = useJobs();
  const [extraDay, setExtraDay] = useState("");
  const [wanted, setWanted] = useState("");
  const [openId, setOpenId] = useState<string | null>(null);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor),
  );
  const planId = kept.plan.id;
  const visits = [...kept.visits.values()];
  const stages = [...new Set([...kept.links.values()].map(({ growthStage }) => growthStage))].sort((x, y) => x - y);
  const [toStage, setToStage] = useState(1);
  const waiting = linksWaiting(kept, toStage).length;
  const later = linksWaiting(kept, MOST_STAGES).length - waiting;
  const days = [...new Set([...visits.map(({ day }) => day), extraDay])].filter((day) => day !== "").sort();
  const matches = (visit: Visit) => visitName(kept, visit).toLowerCase().includes(wanted.trim().toLowerCase());
  const propose = () =>
    jobs.keep(
      proposeVisits(kept, () => crypto.randomUUID(), toStage, MOST_PROPOSED).map((visit) => putPatch("visits", visit)),
      waiting > MOST_PROPOSED ? `${MOST_PROPOSED} jobs proposed` : "Jobs proposed for the links that wait",
    );
  const dropped = ({ active, over }: DragEndEvent) => {
    const visit = kept.visits.get(String(active.id));
    const day = over ? String(over.id).replace(/^day-/, "") : null;
    if (!visit || day === null || day === visit.day) return;
    void jobs.set(visit, { day }, `${visitName(kept, visit)}: ${day === "" ? "no day yet" : day}`);
  };
  const opened = openId === null ? undefined : kept.visits.get(openId);
  return (
    <div className="flex h-full flex-col">
      <div className="flex flex-wrap items-end gap-2 border-b border-rule px-3 py-2">
        <Button
          look={waiting > 0 && visits.length === 0 ? "primary" : "plain"}
          disabled={waiting === 0}
          onClick={() => void propose()}
        >
          {waiting === 0
            ? later > 0
              ? "Nothing waits in this stage"
              : "Every link has its job"
            : `Propose ${counted(Math.min(waiting, MOST_PROPOSED), "job")}`}
        </Button>
        {stages.some((stage) => stage > 1) && (
          <SelectField
            label="Stages of growth"
            value={String(toStage)}
            onChange={({ target }) => setToStage(Number(target.value))}
          >
            {stages.map((stage) => (
              <option key={stage} value={stage}>
                {stage === 1 ? "the first only" : `up to ${stage}`}
              </option>
            ))}
          </SelectField>
        )}
        {later > 0 && (
          <span className="pb-1 text-xs text-quiet">{counted(later, "link")} of later stages wait too.</span>
        )}
        <TextField
          label="Open a day"
          type="date"
          value={extraDay}
          onChange={({ target }) => setExtraDay(target.value)}
        />
        <TextField label="Find a job" type="search" value={wanted} onChange={({ target }) => setWanted(target.value)} />
        <span className="ml-auto flex gap-1.5">
          <a className={buttonClass()} href={`/plans/${planId}/jobs.ics`}>
            <CalendarDays size={14} aria-hidden /> Calendar
          </a>
          <a
            className={buttonClass()}
            href={`/field/#/plan/${encodeURIComponent(planId)}`}
            target="_blank"
            rel="noreferrer"
          >
            <Smartphone size={14} aria-hidden /> Onto a phone
          </a>
        </span>
      </div>
      {visits.length === 0 && (
        <p className="p-8 text-center text-sm text-quiet">
          No jobs yet. Links that are not proven become jobs, those nearest to a feed first.
        </p>
      )}
      {visits.length > 0 && (
        <DndContext sensors={sensors} onDragEnd={dropped}>
          <div
            className="flex min-h-0 flex-1 gap-2 overflow-x-auto p-2"
            role="region"
            aria-label="Jobs by day"
            tabIndex={0}
          >
            {["", ...days].map((day) => (
              <DayColumn
                key={day}
                day={day}
                visits={visits.filter((visit) => visit.day === day && matches(visit))}
                jobs={jobs}
                onOpen={setOpenId}
              />
            ))}
          </div>
        </DndContext>
      )}
      {opened && <JobDialog visit={opened} jobs={jobs} onClose={() => setOpenId(null)} />}
    </div>
  );
}

const weekday = (day: string): string =>
  new Date(`${day}T12:00:00Z`).toLocaleDateString("en-GB", {
    weekday: "short",
    day: "numeric",
    month: "short",
    timeZone: "UTC",
  });

/** The jobs of one day, by when they begin. */
function DayColumn({
  day,
  visits,
  jobs,
  onOpen,
}: {
  day: string;
  visits: Visit[];
  jobs: Jobs;
  onOpen: (id: string) => void;
}) {
  const { kept } = useDesk();
  const { setNodeRef, isOver } = useDroppable({ id: `day-${day}` });
  const ordered = [...visits].sort((x, y) => x.startMinute - y.startMinute || (x.id < y.id ? -1 : 1));
  const crews = new Set(visits.flatMap(({ crewAId, crewBId }) => [crewAId, crewBId]).filter((id) => id !== null));
  const inOrder = () => {
    const patches = [...orderedForAll(kept, day)].flatMap(([id, startMinute]) =>
      kept.visits.get(id)!.startMinute === startMinute ? [] : [setPatch("visits", id, { startMinute })],
    );
    void jobs.keep(patches, `The jobs of ${day} in an order that drives least`);
  };
  return (
    <section
      ref={setNodeRef}
      aria-label={day === "" ? "No day yet" : day}
      className={`flex w-72 shrink-0 flex-col rounded border bg-panel ${isOver ? "border-clay" : "border-rule"}`}
    >
      <h3 className="flex items-baseline justify-between gap-2 border-b border-rule px-2 py-1.5 text-sm font-semibold">
        {day === "" ? "No day yet" : weekday(day)}
        <span className="figures text-xs font-normal text-quiet">{visits.length}</span>
      </h3>
      {day !== "" && crews.size > 0 && visits.length > 1 && (
        <Button className="m-1.5 mb-0 text-xs" onClick={inOrder}>
          Order so that crews drive least
        </Button>
      )}
      <ul className="min-h-16 flex-1 space-y-1.5 overflow-y-auto p-1.5">
        {ordered.slice(0, MOST_SHOWN).map((visit) => (
          <JobCard key={visit.id} visit={visit} jobs={jobs} onOpen={() => onOpen(visit.id)} />
        ))}
      </ul>
      {ordered.length > MOST_SHOWN && (
        <p className="border-t border-rule px-2 py-1 text-xs text-quiet">
          and {figure(ordered.length - MOST_SHOWN, 0)} more: find yours by its place
        </p>
      )}
    </section>
  );
}

/** How far one end is, in a line. */
function progressWords({ cautions, steps, levelDbm, isLocked, stopped, isDone, lastAt }: EndProgress): string {
  if (lastAt === null) return "nothing yet";
  if (stopped) return `stopped: ${stopped}`;
  if (isDone) return "done";
  const level = levelDbm === null ? "" : `, ${figure(levelDbm)} dBm`;
  return `${cautions} confirmed, ${steps} steps${level}${isLocked ? ", locked" : ""}`;
}

function JobCard({ visit, jobs, onOpen }: { visit: Visit; jobs: Jobs; onOpen: () => void }) {
  const { kept, select } = useDesk();
  const { attributes, listeners, setNodeRef, transform, isDragging } = useDraggable({ id: visit.id });
  const link = kept.links.get(visit.linkId)!;
  const { a, b } = linkEnds(kept, link);
  const problems = jobs.problems.get(visit.id) ?? [];
  const wrong = problems.filter(({ kind }) => kind === "wrong");
  const notes = jobs.notes.get(visit.id) ?? [];
  const crews = [visit.crewAId, visit.crewBId].map((id) => kept.crews.get(id ?? "")?.name);
  const sides = sidesOf(visit, link.kind);
  return (
    <li
      ref={setNodeRef}
      data-visit={visit.id}
      className={`rounded border border-rule bg-ground p-2 text-xs ${isDragging ? "relative z-10 shadow-lg" : ""}`}
      style={transform ? { transform: `translate(${transform.x}px, ${transform.y}px)` } : undefined}
    >
      <div className="flex items-start gap-1">
        <button
          type="button"
          {...attributes}
          {...listeners}
          aria-label={`Move the job on ${a.placeName} – ${b.placeName}`}
          className="-ml-1 cursor-grab touch-none px-1 text-quiet"
        >
          ⠿
        </button>
        <button
          type="button"
          className="min-w-0 flex-1 text-left text-sm font-semibold hover:text-clay"
          onClick={() => {
            select({ kind: "link", id: link.id });
            onOpen();
          }}
        >
          {a.placeName} – {b.placeName}
        </button>
      </div>
      <p className="figures text-quiet">
        {visit.day !== "" && `${clock(visit.startMinute)} · `}
        {WORK_WORDS[visit.work]} · {visit.minutes} min · {VISIT_WORDS[visit.state]}
      </p>
      <p>
        {crews.filter(Boolean).length > 0 ? (
          [...new Set(crews.filter(Boolean))].join(" and ")
        ) : (
          <span className="text-quiet">no crew yet</span>
        )}
      </p>
      {notes.length > 0 &&
        sides.map((side) => (
          <p key={side} className="text-clear">
            {(side === "a" ? a : b).placeName}: {progressWords(progressAt(notes, side))}
          </p>
        ))}
      {wrong.length > 0 && <p className="mt-0.5 text-blocked">✕ {wrong[0]!.text}</p>}
      {problems.length > wrong.length && (
        <p className="text-tight">▲ {problems.length - wrong.length} still to do before</p>
      )}
    </li>
  );
}
