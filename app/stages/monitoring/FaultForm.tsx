import { linkEnds, linkName } from "#core/plan";
import { plannedFaultSchema, type PlannedFault } from "#core/watch";
import { useState } from "react";
import { toast } from "sonner";
import { useDesk } from "../../desk/DeskContext";
import { Button, NumberField, SelectField, TextField } from "../../ui";
import { useWatch } from "./MonitoringContext";

/** What can go wrong, in words, and the figure that it has. */
const KINDS: Record<
  PlannedFault["kind"],
  { word: string; figure: [key: string, label: string, unit: string, usual: number] | null; hasSide: boolean }
> = {
  moved: { word: "An antenna moves in a storm", figure: ["degrees", "By", "°", 4], hasSide: true },
  water: { word: "Water gets into a joint", figure: ["dbPerWetWeek", "Loses in a wet week", "dB", 0.8], hasSide: true },
  chainDead: { word: "A chain dies", figure: null, hasSide: true },
  polarization: { word: "An antenna is turned about its axis", figure: ["degrees", "By", "°", 25], hasSide: true },
  ice: { word: "A film of ice", figure: ["lossDb", "Takes", "dB", 6], hasSide: false },
  shade: { word: "The panel is shaded", figure: null, hasSide: true },
  battery: { word: "The battery ages", figure: ["voltsPerMonth", "Loses in a month", "V", 0.8], hasSide: true },
  restarts: { word: "Firmware restarts each night", figure: ["atHour", "At the hour, UTC", "h", 3], hasSide: true },
  outsider: {
    word: "Somebody else comes onto the channel",
    figure: ["riseDb", "Noise rises by", "dB", 9],
    hasSide: true,
  },
  branch: {
    word: "A branch grows into the zone",
    figure: ["dbPerLeafMonth", "Takes in a month of leaves", "dB", 3],
    hasSide: false,
  },
  outage: { word: "The power fails", figure: null, hasSide: false },
};

/** What is to go wrong on the simulated network, and its clock. */
export function FaultForm() {
  const { kept, selection } = useDesk();
  const { kept: watch, job, ask } = useWatch();
  const { clockDay, faults } = watch!.settings;
  const [kind, setKind] = useState<PlannedFault["kind"]>("moved");
  const [side, setSide] = useState<"a" | "b">("a");
  const [fromDay, setFromDay] = useState(clockDay || new Date().toISOString().slice(0, 10));
  const [value, setValue] = useState<number | null>(KINDS.moved.figure![3]);
  const [linkId, setLinkId] = useState(selection?.kind === "link" ? selection.id : "");
  const isBusy = job?.state === "running";
  const name = (id: string) => (kept.links.has(id) ? linkName(kept, id) : id);
  const { figure } = KINDS[kind];
  const ends = kept.links.has(linkId) ? linkEnds(kept, kept.links.get(linkId)!) : null;
  const add = () => {
    const fault = {
      linkId,
      fromDay,
      untilDay: "",
      kind,
      side,
      chain: 0,
      onlyByDay: false,
      ...(figure ? { [figure[0]]: value } : {}),
    };
    const parsed = plannedFaultSchema.safeParse(fault);
    if (!parsed.success)
      toast.error(`Not done: ${parsed.error.issues[0]!.path.join(".")} ${parsed.error.issues[0]!.message}`);
    else void ask({ intent: "fault", fault: parsed.data });
  };
  return (
    <section className="max-w-2xl space-y-3">
      <h2 className="font-semibold">The simulated network</h2>
      <p>
        {clockDay === "" ? (
          "It runs with the clock of this machine: each minute a stand-in for each device is asked by SNMP at 127.0.0.1, or reports by itself as JSON or CSV, as a real one would. Looked at each hour; over 500 devices it is played by the hour. "
        ) : (
          <>
            Its clock stands at the end of <span className="figures">{clockDay}</span>.{" "}
          </>
        )}
        {(
          [
            [1, "a day"],
            [7, "a week"],
            [30, "a month"],
          ] as const
        ).map(([days, word]) => (
          <Button key={days} className="mr-1" disabled={isBusy} onClick={() => void ask({ intent: "pass", days })}>
            Let {word} pass
          </Button>
        ))}
        {clockDay !== "" && (
          <Button disabled={isBusy} onClick={() => void ask({ intent: "live" })}>
            Let it run live
          </Button>
        )}
      </p>
      <form
        className="grid grid-cols-2 items-end gap-2 md:grid-cols-3"
        onSubmit={(event) => {
          event.preventDefault();
          add();
        }}
      >
        <SelectField label="On the link" value={linkId} onChange={({ target }) => setLinkId(target.value)}>
          <option value="">choose one</option>
          {[...kept.links.keys()].map((id) => (
            <option key={id} value={id}>
              {name(id)}
            </option>
          ))}
        </SelectField>
        <SelectField
          label="What goes wrong"
          value={kind}
          onChange={({ target }) => {
            const next = target.value as PlannedFault["kind"];
            setKind(next);
            setValue(KINDS[next].figure?.[3] ?? null);
          }}
        >
          {Object.entries(KINDS).map(([one, { word }]) => (
            <option key={one} value={one}>
              {word}
            </option>
          ))}
        </SelectField>
        {KINDS[kind].hasSide && (
          <SelectField label="At" value={side} onChange={({ target }) => setSide(target.value as "a" | "b")}>
            <option value="a">{ends?.a.placeName ?? "the first end"}</option>
            <option value="b">{ends?.b.placeName ?? "the second end"}</option>
          </SelectField>
        )}
        {figure && (
          <NumberField
            label={figure[1]}
            unit={figure[2]}
            value={value ?? figure[3]}
            step={0.1}
            min={0}
            max={100}
            onChange={setValue}
          />
        )}
        <TextField
          label="From the day"
          type="date"
          value={fromDay}
          max={clockDay || undefined}
          onChange={({ target }) => setFromDay(target.value)}
        />
        <Button type="submit" look="primary" disabled={isBusy || linkId === "" || fromDay === ""}>
          Let it happen
        </Button>
      </form>
      {faults.length > 0 && (
        <ul className="space-y-1">
          {faults.map((fault, index) => (
            <li
              key={`${fault.linkId} ${fault.kind} ${fault.fromDay}`}
              className="flex flex-wrap items-center gap-2 text-xs"
            >
              <span>
                {KINDS[fault.kind].word}: {name(fault.linkId)}, from {fault.fromDay}
                {fault.untilDay !== "" && ` to ${fault.untilDay}`}
              </span>
              {fault.untilDay === "" && (
                <Button className="text-xs" disabled={isBusy} onClick={() => void ask({ intent: "mended", index })}>
                  It is mended
                </Button>
              )}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
