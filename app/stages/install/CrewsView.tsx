import { dayOf, peopleOf } from "#core/crews";
import { putPatch, removePatch, setPatch, type Crew } from "#core/plan";
import { useState } from "react";
import { useDesk } from "../../desk/DeskContext";
import { Button, buttonClass, TextField } from "../../ui";
import { Typed } from "./Typed";
import { useJobs, type Jobs } from "./useJobs";
import { newCrew } from "../../shared/jobWords";

/** Who works: each crew's people, how they are reached, and whose account sees its jobs. */
export function CrewsView() {
  const { kept } = useDesk();
  const jobs = useJobs();
  const [name, setName] = useState("");
  const crews = [...kept.crews.values()].sort((x, y) => x.name.localeCompare(y.name));
  const add = () => {
    const crew = newCrew(crypto.randomUUID(), kept.plan.id, name.trim());
    void jobs.keep([putPatch("crews", crew)], `Crew ${crew.name}`).then((ok) => ok && setName(""));
  };
  return (
    <div className="h-full overflow-y-auto p-3">
      <form
        className="flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (name.trim() !== "") add();
        }}
      >
        <TextField
          label="A new crew’s name"
          value={name}
          maxLength={120}
          onChange={({ target }) => setName(target.value)}
        />
        <Button type="submit" look="primary" disabled={name.trim() === ""}>
          Add
        </Button>
      </form>
      {crews.length === 0 && (
        <p className="p-8 text-center text-sm text-quiet">No crews yet. Two make a bridge quick: one at each end.</p>
      )}
      <ul className="mt-3 grid grid-cols-[repeat(auto-fill,minmax(18rem,1fr))] gap-3">
        {crews.map((crew) => (
          <CrewCard key={crew.id} crew={crew} jobs={jobs} />
        ))}
      </ul>
    </div>
  );
}

const FIELDS = [
  ["name", "Name", 120],
  ["people", "People, one a line", 1000],
  ["radioChannel", "Channel of the hand radios", 60],
  ["phone", "Telephone", 60],
] as const;

function CrewCard({ crew, jobs }: { crew: Crew; jobs: Jobs }) {
  const { kept } = useDesk();
  const set = (change: Partial<Crew>) => void jobs.keep([setPatch("crews", crew.id, change)], `Crew ${crew.name}`);
  const days = new Set(
    [...kept.visits.values()]
      .filter(({ day, crewAId, crewBId }) => day !== "" && (crewAId === crew.id || crewBId === crew.id))
      .map(({ day }) => day),
  );
  const alone = peopleOf(crew).length === 1;
  return (
    <li className="space-y-2 rounded border border-rule bg-panel p-3 text-sm" data-crew={crew.id}>
      {FIELDS.map(([field, label, most]) =>
        field === "people" ? (
          <Lines key={field} label={label} value={crew[field]} most={most} onKeep={(text) => set({ [field]: text })} />
        ) : (
          <Typed
            key={field}
            label={label}
            value={crew[field]}
            most={most}
            onDone={(text) => {
              if (field === "name" && text.trim() === "") return "is missing";
              set({ [field]: text.trim() });
              return null;
            }}
          />
        ),
      )}
      <Typed
        label="Accounts that see its jobs, by login"
        value={crew.logins.join(", ")}
        most={1000}
        onDone={(text) => {
          set({
            logins: text
              .split(/[,\s]+/)
              .filter(Boolean)
              .slice(0, 30),
          });
          return null;
        }}
      />
      {alone && <p className="text-blocked">✕ One person: nobody climbs alone.</p>}
      <p className="text-xs text-quiet">
        {[...days]
          .sort()
          .map((day) => `${day}: ${dayOf(kept, crew.id, day).length}`)
          .join(", ") || "No jobs with a day."}
      </p>
      <div className="flex gap-1.5">
        <a className={buttonClass()} href={`/plans/${kept.plan.id}/jobs.ics?crew=${encodeURIComponent(crew.id)}`}>
          Calendar
        </a>
        <Button
          className="ml-auto text-blocked"
          onClick={() => void jobs.keep([removePatch("crews", crew.id)], `Crew ${crew.name} taken out`)}
        >
          Take out
        </Button>
      </div>
    </li>
  );
}

/** Several lines that are kept when their field is left. */
function Lines({
  label,
  value,
  most,
  onKeep,
}: {
  label: string;
  value: string;
  most: number;
  onKeep: (text: string) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <label className="block text-xs text-quiet">
      {label}
      <textarea
        rows={3}
        value={typed ?? value}
        maxLength={most}
        onChange={({ target }) => setTyped(target.value)}
        onBlur={() => {
          if (typed !== null && typed.trim() !== value) onKeep(typed.trim());
          setTyped(null);
        }}
        className="mt-0.5 w-full rounded border border-rule bg-ground px-2 py-1 text-sm text-ink"
      />
    </label>
  );
}
