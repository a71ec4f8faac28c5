import { BY_HAND, STAGING_STEPS, stagingTexts, type StagingStep } from "#core/staging";
import { format } from "date-fns";
import { useEffect, useMemo, useState } from "react";
import { Button, TextField } from "../../ui";
import { useStagingHere } from "./StagingContext";
import { DeviceHead } from "./DeviceHead";
import { NoDevice } from "./NoDevice";
import { useChosenDevice } from "./useChosenDevice";

const STEP_NAMES: Record<StagingStep, string> = {
  label: "Serial number",
  alone: "Alone",
  reach: "Reach it",
  firmware: "Firmware",
  password: "Password",
  settings: "Settings",
  back: "And back again",
  pair: "Pair and test",
  power: "Power",
  compare: "Compare",
  pack: "Label and pack",
};

/** The steps of one device in their order, with this device's own figures; each is ticked with name and time. */
export function ChecklistView() {
  const { world, context, sheet } = useChosenDevice();
  const { notes, act } = useStagingHere();
  /** Ticks on their way: shown as they were meant until they are kept or refused. */
  const [onItsWay, setOnItsWay] = useState<Partial<Record<StagingStep, boolean>>>({});
  const texts = useMemo(() => (sheet ? stagingTexts(world, sheet, context) : null), [world, sheet, context]);
  if (!sheet || !texts || !notes) return <NoDevice waits={notes === null} />;
  const { radioId } = sheet;
  const note = notes.get(radioId);
  const put = async (step: StagingStep, isDone: boolean) => {
    setOnItsWay((before) => ({ ...before, [step]: isDone }));
    await act({ intent: "tick", radioId, step, isDone });
    setOnItsWay(({ [step]: _, ...others }) => others);
  };
  return (
    <div className="h-full overflow-y-auto p-3 text-[13px]" tabIndex={0} role="region" aria-label="Checklist">
      <DeviceHead sheet={sheet}>
        {note?.practiceRun === null && (
          <Button onClick={() => void act({ intent: "forget", radioId })}>Begin anew with another device</Button>
        )}
      </DeviceHead>
      <p className="mt-1 text-xs text-quiet">
        On a bench too: nobody close in front of an antenna that is fed, the injector that belongs to the radio and no
        other, power off before a plug is moved.
      </p>
      {note?.practiceRun && (
        <p className="mt-2 rounded border border-rule bg-panel p-2">
          Practised with a stand-in, {note.serial}. The first tick for the real device puts this away.
        </p>
      )}
      {note?.problem && (
        <p role="alert" className="mt-2 rounded border border-blocked p-2 text-blocked">
          {note.problem}
        </p>
      )}
      <Serial
        key={radioId}
        serial={note?.practiceRun === null ? note.serial : ""}
        onKeep={(serial) => act({ intent: "serial", radioId, serial })}
      />
      <ol className="mt-2">
        {STAGING_STEPS.map((step, i) => {
          const tick = note?.done[step];
          return (
            <li key={step} className="border-t border-rule py-1.5" data-step={step}>
              <label className="flex gap-2">
                <input
                  type="checkbox"
                  className="mt-0.5 size-4 shrink-0 accent-[var(--clay)]"
                  checked={onItsWay[step] ?? tick !== undefined}
                  onChange={({ target }) => void put(step, target.checked)}
                />
                <span>
                  <span className="font-semibold">
                    <span className="figures text-quiet">{i + 1}.</span> {STEP_NAMES[step]}
                    {BY_HAND.has(step) && <span className="font-normal text-quiet"> · by hand</span>}
                  </span>
                  <span className="block">{texts[step]}</span>
                  {tick && (
                    <span className="block text-xs text-quiet">
                      {format(new Date(tick.at), "d MMM HH:mm")}, {tick.who}
                      {tick.note && `: ${tick.note}`}
                    </span>
                  )}
                </span>
              </label>
            </li>
          );
        })}
      </ol>
    </div>
  );
}

/** The serial number from the label; what is typed is kept when the box is left. */
function Serial({ serial, onKeep }: { serial: string; onKeep: (serial: string) => Promise<unknown> }) {
  const [typed, setTyped] = useState(serial);
  useEffect(() => setTyped(serial), [serial]);
  return (
    <div className="mt-2 max-w-60">
      <TextField
        label="Serial number"
        value={typed}
        onChange={({ target }) => setTyped(target.value)}
        onBlur={() => typed !== serial && void onKeep(typed)}
      />
    </div>
  );
}
