import { clock, DESK, inOrder, sidesOf, visitName } from "#core/crews";
import { linkEnds, PERMIT_WORDS, PERMITS, VISIT_WORKS, type Visit } from "#core/plan";
import { format, parseISO } from "date-fns";
import { useState } from "react";
import { useDesk } from "../../desk/DeskContext";
import { Button, buttonClass, figure, Modal, SelectField, TextField } from "../../ui";
import { Typed } from "./Typed";
import type { Jobs } from "./useJobs";
import { WORK_WORDS } from "../../shared/jobWords";

/** Minutes after midnight of "09:30"; null where it is no time. */
const minuteOf = (text: string): number | null => {
  const found = /^([01]?\d|2[0-3]):([0-5]\d)$/.exec(text.trim());
  return found ? Number(found[1]) * 60 + Number(found[2]) : null;
};

/** One job: when, who, what must be so before, and what was written on the roof. */
export function JobDialog({ visit, jobs, onClose }: { visit: Visit; jobs: Jobs; onClose: () => void }) {
  const { kept } = useDesk();
  const link = kept.links.get(visit.linkId)!;
  const { a, b } = linkEnds(kept, link);
  const name = visitName(kept, visit);
  const planId = kept.plan.id;
  const set = (change: Partial<Visit>, what: string) => void jobs.set(visit, change, `${name}: ${what}`);
  const problems = jobs.problems.get(visit.id) ?? [];
  const others = [...kept.visits.values()].filter(({ id, state }) => id !== visit.id && state !== "done");
  const crewChoices = [["", "nobody yet"], ...[...kept.crews.values()].map(({ id, name: crew }) => [id, crew])] as [
    string,
    string,
  ][];
  const sides = sidesOf(visit, link.kind);
  return (
    <Modal open onOpenChange={(open) => !open && onClose()} title={name} showsTitle>
      <div className="max-h-[70vh] space-y-3 overflow-y-auto pr-1 text-sm">
        {problems.length > 0 && (
          <ul>
            {problems.map(({ text, kind }) => (
              <li key={text} className={kind === "wrong" ? "text-blocked" : "text-tight"}>
                {kind === "wrong" ? "✕" : "▲"} {text}
              </li>
            ))}
          </ul>
        )}
        <div className="grid grid-cols-2 gap-2 sm:grid-cols-4">
          <Choose
            label="Work"
            value={visit.work}
            choices={VISIT_WORKS.map((work) => [work, WORK_WORDS[work]])}
            onChange={(work) => set({ work: work as Visit["work"] }, WORK_WORDS[work as Visit["work"]])}
          />
          <Typed
            label="Day"
            type="date"
            value={visit.day}
            onDone={(day) => done(() => set({ day }, day || "no day"))}
          />
          <Typed
            label="Begins"
            value={clock(visit.startMinute)}
            onDone={(text) => {
              const minute = minuteOf(text);
              if (minute === null) return "is no time such as 09:30";
              set({ startMinute: minute }, `begins ${clock(minute)}`);
              return null;
            }}
          />
          <Typed
            label="Takes, minutes"
            value={String(visit.minutes)}
            onDone={(text) => {
              const minutes = Number(text);
              if (!Number.isInteger(minutes) || minutes < 5 || minutes > 1440)
                return "is no whole number from 5 to 1440";
              set({ minutes }, `${minutes} minutes`);
              return null;
            }}
          />
        </div>
        <div className="grid grid-cols-2 gap-2">
          <Choose
            label={`Crew at ${a.placeName}`}
            value={visit.crewAId ?? ""}
            choices={crewChoices}
            onChange={(id) => set({ crewAId: id || null }, `crew at ${a.placeName}`)}
          />
          <Choose
            label={`Crew at ${b.placeName}`}
            value={visit.crewBId ?? ""}
            choices={crewChoices}
            onChange={(id) => set({ crewBId: id || null }, `crew at ${b.placeName}`)}
          />
          <Choose
            label="Power off"
            value={visit.powerOff}
            choices={PERMITS.map((one) => [one, PERMIT_WORDS[one]])}
            onChange={(powerOff) => set({ powerOff: powerOff as Visit["powerOff"] }, "power off")}
          />
          <Choose
            label="Permit to climb"
            value={visit.climb}
            choices={PERMITS.map((one) => [one, PERMIT_WORDS[one]])}
            onChange={(climb) => set({ climb: climb as Visit["climb"] }, "permit to climb")}
          />
        </div>
        <div className="flex gap-4">
          <Tick
            label="Parts are packed"
            on={visit.packed}
            onChange={(packed) => set({ packed }, packed ? "packed" : "not packed")}
          />
          <Tick
            label="Neighbours are told"
            on={visit.neighboursTold}
            onChange={(neighboursTold) =>
              set({ neighboursTold }, neighboursTold ? "neighbours told" : "neighbours not told")
            }
          />
        </div>
        <Choose
          label="Not before"
          value={visit.afterIds[0] ?? ""}
          choices={[
            ["", "waits for no other job"],
            ...others.map((one) => [one.id, visitName(kept, one)] as [string, string]),
          ]}
          onChange={(id) => set({ afterIds: id ? [id] : [] }, "what it waits for")}
        />
        <Typed
          label="Weather it waits for"
          value={visit.weather}
          onDone={(weather) => done(() => set({ weather }, "weather"))}
        />
        <Typed label="Notes" value={visit.notes} onDone={(notes) => done(() => set({ notes }, "notes"))} />
        <Say visit={visit} jobs={jobs} />
        <FromTheRoof visit={visit} jobs={jobs} />
        <div className="flex flex-wrap gap-1.5 border-t border-rule pt-2">
          <a className={buttonClass()} href={`/plans/${planId}/visits/${visit.id}/pack.pdf`}>
            Pack, PDF
          </a>
          <a className={buttonClass()} href={`/plans/${planId}/visits/${visit.id}/certificate.pdf`}>
            Certificate, PDF
          </a>
          <a className={buttonClass()} href={`/plans/${planId}/links/${link.id}/proof`}>
            Readings
          </a>
          {sides.map((side) => (
            <a
              key={side}
              className={buttonClass()}
              href={`/field/#/job/${encodeURIComponent(planId)}/${encodeURIComponent(visit.id)}/${side}/before`}
            >
              As on the phone at {(side === "a" ? a : b).placeName}
            </a>
          ))}
          <Button
            className="ml-auto text-blocked"
            onClick={() => void jobs.remove(visit, `The job on ${name} taken out`).then((ok) => ok && onClose())}
          >
            Take out
          </Button>
        </div>
      </div>
    </Modal>
  );
}

const done = (work: () => void): null => {
  work();
  return null;
};

function Choose({
  label,
  value,
  choices,
  onChange,
}: {
  label: string;
  value: string;
  choices: readonly (readonly [string, string])[];
  onChange: (value: string) => void;
}) {
  return (
    <SelectField label={label} value={value} onChange={({ target }) => onChange(target.value)}>
      {choices.map(([one, words]) => (
        <option key={one} value={one}>
          {words}
        </option>
      ))}
    </SelectField>
  );
}

function Tick({ label, on, onChange }: { label: string; on: boolean; onChange: (on: boolean) => void }) {
  return (
    <label className="flex min-h-6 items-center gap-1.5">
      <input type="checkbox" className="size-4 accent-[var(--clay)]" checked={on} onChange={() => onChange(!on)} />
      {label}
    </label>
  );
}

const NOTE_WORDS = {
  caution: "confirmed",
  step: "step",
  level: "level",
  read: "read",
  message: "says",
  voice: "speaks",
  stopped: "stopped",
  resumed: "goes on",
  locked: "locked",
  serial: "serial number",
  signed: "shown to",
  done: "done",
} as const;
const MOST_NOTES = 40;

/** A word from the desk to both crews; it stands among what they say to each other. */
function Say({ visit, jobs }: { visit: Visit; jobs: Jobs }) {
  const [text, setText] = useState("");
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim() !== "") void jobs.say(visit, text.trim()).then((ok) => ok && setText(""));
      }}
    >
      <TextField
        label="Say to both crews"
        value={text}
        maxLength={1000}
        onChange={({ target }) => setText(target.value)}
      />
      <Button type="submit" disabled={text.trim() === ""}>
        Say
      </Button>
    </form>
  );
}

/** What both ends have written, newest first. */
function FromTheRoof({ visit, jobs }: { visit: Visit; jobs: Jobs }) {
  const { kept } = useDesk();
  const ends = linkEnds(kept, kept.links.get(visit.linkId)!);
  const notes = inOrder(jobs.notes.get(visit.id) ?? []).reverse();
  if (notes.length === 0) return <p className="text-quiet">Nothing was written on the roof yet.</p>;
  return (
    <section aria-label="From the roof">
      <h3 className="font-semibold">From the roof</h3>
      <ol className="text-xs">
        {notes.slice(0, MOST_NOTES).map(({ id, at, by, side, kind, key, text, value, levelDbm, isOn }) => (
          <li key={id} className="flex gap-2">
            <span className="figures shrink-0 text-quiet">{format(parseISO(at), "d MMM HH:mm:ss")}</span>
            <span>
              {key === DESK ? "The desk" : ends[side].placeName}, {by || "somebody"}: {isOn ? "" : "not "}
              {NOTE_WORDS[kind]} {[key === DESK ? "" : key, text].filter(Boolean).join(" ")}{" "}
              <span className="figures">
                {value !== null && kind !== "voice" && figure(value)} {levelDbm !== null && `${figure(levelDbm)} dBm`}
              </span>
              {kind === "voice" && (
                <audio
                  controls
                  preload="none"
                  src={`/plans/${encodeURIComponent(kept.plan.id)}/field/voices/${id}`}
                  aria-label={`Spoken by ${by || "somebody"}`}
                  className="mt-0.5 h-8"
                />
              )}
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}
