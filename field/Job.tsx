import { progressAt, type EndSide } from "#core/crews";
import { useEffect } from "react";
import { Aim } from "./Aim";
import { Before } from "./Before";
import { Conflicts } from "./Conflicts";
import type { Here } from "./here";
import { notesOf } from "./keep";
import { Unsent } from "./parts";
import { Place } from "./Place";
import { Practise } from "./Practise";
import { Read } from "./Read";
import { Steps } from "./Steps";
import { Talk } from "./Talk";
import { useField } from "./useField";

const TABS = {
  before: ["Before", Before],
  steps: ["Steps", Steps],
  aim: ["Aim", Aim],
  read: ["Read", Read],
  talk: ["Talk", Talk],
  place: ["Place", Place],
  practise: ["Practise", Practise],
} as const;
type Tab = keyof typeof TABS;
/** Reached from the aiming, not from under the thumb. */
const ASIDE: Tab = "practise";

/** Keeps the screen awake while a job is open, where the phone lets it. */
function useAwake(): void {
  useEffect(() => {
    let lock: WakeLockSentinel | undefined;
    const hold = () =>
      void navigator.wakeLock
        ?.request("screen")
        .then((held) => (lock = held))
        .catch(() => undefined);
    hold();
    document.addEventListener("visibilitychange", hold);
    return () => {
      document.removeEventListener("visibilitychange", hold);
      void lock?.release();
    };
  }, []);
}

/** One end of a job, with its parts under the thumb. */
export function Job({ planId, visitId, side, tab }: { planId: string; visitId: string; side: EndSide; tab: string }) {
  const field = useField();
  useAwake();
  const pack = field.packs.find((held) => held.planId === planId && held.visit.id === visitId);
  if (!pack)
    return (
      <main className="p-4">
        <p>This job is not on this phone.</p>
        <a href={`#/plan/${encodeURIComponent(planId)}`} className="underline">
          Take it along
        </a>
      </main>
    );
  if (!pack.ends)
    return (
      <main className="p-4">
        <p role="alert">This path has no prediction, so there is nothing to aim by. See it at the desk.</p>
        <a href="#/" className="underline">
          Back
        </a>
      </main>
    );
  const notes = notesOf(pack, field.entries);
  const key = (tab in TABS ? tab : "before") as Tab;
  const View = TABS[key][1];
  const here: Here = {
    ...{ pack, side, notes },
    here: pack.ends[side],
    there: pack.ends[side === "a" ? "b" : "a"],
  };
  const progress = progressAt(notes, side);
  const base = `#/job/${encodeURIComponent(planId)}/${encodeURIComponent(visitId)}/${side}`;
  const isLeft = field.setting("hand") === "left";
  return (
    <div className="mx-auto flex h-full max-w-3xl flex-col">
      <header className="border-b-2 border-rule px-4 py-2">
        <div className="flex items-center justify-between gap-2">
          <h1 className="min-w-0 text-lg font-semibold">{here.here.sheet.placeName}</h1>
          <a href="#/" className="inline-flex min-h-12 items-center underline">
            All jobs
          </a>
        </div>
        <Unsent visitId={visitId} />
        {progress.stopped && (
          <p role="alert" className="font-semibold text-blocked">
            Stopped: {progress.stopped}
          </p>
        )}
      </header>
      <main tabIndex={0} className="flex-1 overflow-y-auto px-4 py-3">
        <title>{`${here.here.sheet.placeName} – ${TABS[key][0]}`}</title>
        <Conflicts pack={pack} />
        <View {...here} />
      </main>
      <nav
        aria-label="Parts of the job"
        className={`flex border-t-2 border-rule bg-panel pb-[env(safe-area-inset-bottom)] ${isLeft ? "flex-row-reverse" : ""}`}
      >
        {(Object.entries(TABS) as [Tab, (typeof TABS)[Tab]][])
          .filter(([name]) => name !== ASIDE)
          .map(([name, [words]]) => (
            <a
              key={name}
              href={`${base}/${name}`}
              aria-current={name === (key === ASIDE ? "aim" : key) ? "page" : undefined}
              className={`flex min-h-14 flex-1 items-center justify-center text-sm ${name === (key === ASIDE ? "aim" : key) ? "bg-clay font-semibold text-on-clay" : ""}`}
            >
              {words}
            </a>
          ))}
      </nav>
    </div>
  );
}
