import { CHANNEL_SCHOOL_WORDS, CHANNEL_SCHOOLS, NO_LIMITS, type ChannelsAsk, type ChannelSchool } from "#core/channels";
import { counted } from "#core/words";
import { useMemo } from "react";
import { useDesk } from "../../desk/DeskContext";
import { NumberField, Term } from "../../ui";
import { combBands } from "./groups";

type PlanAsk = Omit<ChannelsAsk, "school"> & { schools: ChannelSchool[] };
export const USUAL_ASK: PlanAsk = {
  schools: [...CHANNEL_SCHOOLS],
  ...{ workPeople: 0.5, fixedIds: [], seconds: 10, limits: NO_LIMITS },
};

const toggled = <T,>(list: readonly T[], one: T, isIn: boolean) =>
  isIn ? [...list, one] : list.filter((other) => other !== one);

/** What a plan of all channels is to keep to. */
export function PlanOptions({ ask, onChange }: { ask: PlanAsk; onChange: (ask: PlanAsk) => void }) {
  const { schools, limits, workPeople, seconds } = ask;
  const check = (label: string, meaning: string, isOn: boolean, put: (isOn: boolean) => void) => (
    <label key={label} className="flex items-center gap-1.5">
      <input type="checkbox" checked={isOn} onChange={({ target }) => put(target.checked)} />
      <Term meaning={meaning}>{label}</Term>
    </label>
  );
  const limit = (more: Partial<typeof limits>) => onChange({ ...ask, limits: { ...limits, ...more } });
  return (
    <div className="mt-2 flex flex-wrap items-start gap-x-6 gap-y-2">
      <fieldset>
        <legend className="text-xs text-quiet">Schools</legend>
        {CHANNEL_SCHOOLS.map((school) =>
          check(
            CHANNEL_SCHOOL_WORDS[school].name,
            CHANNEL_SCHOOL_WORDS[school].meaning,
            schools.includes(school),
            (isOn) => onChange({ ...ask, schools: toggled(schools, school, isOn) }),
          ),
        )}
      </fieldset>
      <fieldset>
        <legend className="text-xs text-quiet">May use channels</legend>
        {check(
          "with radar avoidance (DFS)",
          "A radio there listens for radar before it sends, and leaves the channel for half an hour when it hears one, with all its customers.",
          limits.allowsDfs,
          (allowsDfs) => limit({ allowsDfs }),
        )}
        {check(
          "that a licence of ours covers",
          "Channels that need a licence or a registration are used only where one is entered in the plan's settings.",
          limits.allowsLicensed,
          (allowsLicensed) => limit({ allowsLicensed }),
        )}
      </fieldset>
      <div className="w-36">
        <NumberField
          label="Guard on one mast, if not timed"
          unit="MHz"
          value={limits.guardMHz}
          step={5}
          min={0}
          max={1000}
          decimals={0}
          onChange={(guardMHz) => limit({ guardMHz })}
        />
      </div>
      <div className="w-40">
        <NumberField
          label="A move must save the rate of"
          unit="people"
          value={workPeople}
          step={0.5}
          min={0}
          max={1000}
          onChange={(value) => onChange({ ...ask, workPeople: value })}
        />
      </div>
      <div className="w-32">
        <NumberField
          label="Look for better for"
          unit="s"
          value={seconds}
          step={5}
          min={1}
          max={300}
          decimals={0}
          onChange={(value) => onChange({ ...ask, seconds: value })}
        />
      </div>
      <Stays fixedIds={ask.fixedIds} onChange={(fixedIds) => onChange({ ...ask, fixedIds })} />
    </div>
  );
}

/** Radios that nobody is to touch. */
function Stays({ fixedIds, onChange }: { fixedIds: readonly string[]; onChange: (ids: readonly string[]) => void }) {
  const { world } = useDesk();
  const rows = useMemo(() => combBands(world).flatMap((band) => band.rows), [world]);
  return (
    <details>
      <summary className="cursor-pointer text-xs text-quiet">
        {fixedIds.length === 0 ? "All may move" : `${counted(fixedIds.length, "radio")} to stay`}
      </summary>
      <fieldset className="max-h-40 overflow-y-auto">
        <legend className="sr-only">Stay on their channels</legend>
        {rows.map(({ radioId, name, site, frequencyMHz }) => (
          <label key={radioId} className="flex items-center gap-1.5">
            <input
              type="checkbox"
              checked={fixedIds.includes(radioId)}
              onChange={({ target }) => onChange(toggled(fixedIds, radioId, target.checked))}
            />
            {name}, {site} <span className="figures text-xs text-quiet">{frequencyMHz} MHz</span>
          </label>
        ))}
      </fieldset>
    </details>
  );
}
