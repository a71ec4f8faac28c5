import { linkName, putPatch, setPatch, type Alarm, type Patch } from "#core/plan";
import { alarmVisit, CAUSES, type CauseKind } from "#core/watch";
import { Link } from "react-router";
import { toast } from "sonner";
import { useDesk } from "../../desk/DeskContext";
import { keepPatches } from "../../keep/keepPatches";
import { Button, buttonClass, usePreferences } from "../../ui";
import { NothingYet } from "./NothingYet";
import { useWatch } from "./MonitoringContext";

const ORDER = { open: 0, seen: 1, closed: 2 } as const;
const STATE_WORDS = { open: "○ open", seen: "◐ seen", closed: "✓ closed" } as const;

/** Everything that strayed, with its causes by their odds, what to look at first, and who has it. */
export function AlarmsView() {
  const { kept, data, selection } = useDesk();
  const { kept: watch, failed } = useWatch();
  const chosen = selection?.kind === "link" ? selection.id : null;
  const alarms = [...kept.alarms.values()].sort(
    (x, y) =>
      Number(y.linkIds.includes(chosen ?? "")) - Number(x.linkIds.includes(chosen ?? "")) ||
      ORDER[x.state] - ORDER[y.state] ||
      (x.raisedDay < y.raisedDay ? 1 : -1),
  );
  const keep = async (patches: Patch[], what: string) => {
    const { ok, message } = await keepPatches(kept.plan.id, data.revision, patches, what);
    if (!ok) toast.error(message, { duration: 12_000 });
  };
  if (alarms.length === 0)
    return watch?.look ? (
      <p className="p-8 text-center text-sm text-quiet">Nothing has strayed: every link does what it is used to do.</p>
    ) : (
      <NothingYet failed={failed} />
    );
  return (
    <div className="h-full overflow-y-auto p-3" tabIndex={0} role="region" aria-label="Alarms">
      <ul className="space-y-3">
        {alarms.map((alarm) => (
          <AlarmCard key={alarm.id} alarm={alarm} keep={keep} />
        ))}
      </ul>
    </div>
  );
}

function AlarmCard({ alarm, keep }: { alarm: Alarm; keep: (patches: Patch[], what: string) => Promise<void> }) {
  const { kept } = useDesk();
  const { name } = usePreferences();
  const link = kept.links.get(alarm.linkId);
  if (!link) return null;
  const root = alarm.radioId === null ? undefined : kept.radios.get(alarm.radioId);
  const where = root ? `${root.name}, ${alarm.linkIds.length} links` : linkName(kept, link.id);
  const visit = alarm.visitId === null ? undefined : kept.visits.get(alarm.visitId);
  const set = (change: Partial<Alarm>, what: string) =>
    void keep([setPatch("alarms", alarm.id, change)], `${what}: ${where}`);
  const makeJob = () => {
    const made = alarmVisit(kept, alarm, crypto.randomUUID());
    if (!made) return;
    void keep(
      [
        putPatch("visits", made),
        setPatch("alarms", alarm.id, { visitId: made.id, state: "seen", seenBy: name || "planner" }),
      ],
      `Job from an alarm: ${where}`,
    );
  };
  return (
    <li className="rounded border border-rule bg-panel p-3 text-sm" data-alarm={alarm.id}>
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h3 className="font-semibold">{where}</h3>
        <span className="text-xs">{STATE_WORDS[alarm.state]}</span>
        <span className="text-xs text-quiet">
          since {alarm.sinceDay}, sure on {alarm.raisedDay}
          {alarm.endedDay !== "" && `, over on ${alarm.endedDay}`}
        </span>
      </div>
      <p className="mt-1 first-letter:uppercase">
        {alarm.what}
        {!root && alarm.linkIds.length > 1 && `; ${alarm.linkIds.length - 1} links behind it are hurt too`}.
      </p>
      {alarm.closedWhy !== "" && <p className="text-xs text-quiet">Closed: {alarm.closedWhy}.</p>}
      <ol className="mt-2 space-y-1">
        {alarm.causes.slice(0, 3).map(({ cause, odds, because }) => {
          const known = CAUSES[cause as CauseKind];
          return (
            <li key={cause} className="grid grid-cols-[3.5rem_1fr] gap-2">
              <span className="figures text-right">{Math.round(odds * 100)} %</span>
              <span>
                <span className="font-medium">{known?.title ?? cause}</span>
                {because !== "" && <span className="text-quiet"> · {because}</span>}
              </span>
            </li>
          );
        })}
      </ol>
      {alarm.causes[0] && (
        <p className="mt-2 text-xs">
          <span className="font-medium">Look first:</span> {CAUSES[alarm.causes[0].cause as CauseKind]?.check}
        </p>
      )}
      <div className="mt-2 flex flex-wrap gap-2">
        <Link to={`?view=timeline&sel=link:${alarm.linkId}`} className={buttonClass()}>
          Timeline
        </Link>
        {alarm.state === "open" && (
          <Button onClick={() => set({ state: "seen", seenBy: name || "planner" }, "Alarm seen")}>Seen</Button>
        )}
        {alarm.state !== "closed" && !visit && <Button onClick={makeJob}>Make a job of it</Button>}
        {visit && (
          <Link to={`/plans/${kept.plan.id}/install`} className={buttonClass()}>
            Its job: {visit.state === "planned" ? "planned" : visit.state}
          </Link>
        )}
        {alarm.state !== "closed" && (
          <Button
            onClick={() =>
              set(
                { state: "closed", seenBy: name || "planner", closedWhy: `closed by ${name || "planner"}` },
                "Alarm closed",
              )
            }
          >
            Close
          </Button>
        )}
      </div>
    </li>
  );
}
