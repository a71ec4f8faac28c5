import { endOf, type Radio, type World } from "#core/plan";
import { progressOf, STAGING_STEPS, stagingGroups, stagingProblems, type StagingNote } from "#core/staging";
import { counted } from "#core/words";
import { useMemo, useState } from "react";
import { ChooseButton } from "../../desk/ChooseButton";
import { useDesk } from "../../desk/DeskContext";
import { scopeOf } from "../../desk/scope";
import { useLines } from "../../views/useRows";
import { Button, Table } from "../../ui";
import { JobProgress } from "../../ask/JobProgress";
import { useStagingHere } from "./StagingContext";

const ROW_PX = 30;

/** All radios in the order in which they are staged: whoever keeps a channel, then those that follow it. */
function inOrder(world: World): { radio: Radio; follows: boolean }[] {
  return stagingGroups(world).flatMap(({ leaderId, followerIds }) =>
    [leaderId, ...followerIds].map((id, i) => ({ radio: world.radios.get(id)!, follows: i > 0 })),
  );
}

/** Every device with how far it has come, and the practice bench. */
export function DevicesView() {
  const { kept, draft, selection } = useDesk();
  const { notes, failed, job, stop, act } = useStagingHere();
  const rows = useMemo(() => inOrder(kept), [kept]);
  const problems = useMemo(() => stagingProblems(kept), [kept]);
  const chosen = useMemo(() => scopeOf(kept, selection)?.radios ?? [], [kept, selection]);
  const [page, setPage] = useState<HTMLElement | null>(null);
  const lines = useLines(page, rows.length, ROW_PX);
  if (rows.length === 0)
    return <p className="p-8 text-center text-sm text-quiet">No radio is planned yet, so there is nothing to stage.</p>;
  const isRunning = job?.state === "running";
  const stands = rows.map(({ radio }) => notes?.get(radio.id)).filter((note) => note?.practiceRun === null);
  const staged = stands.filter((note) => progressOf(note).isStaged).length;
  const packed = stands.filter((note) => progressOf(note).isPacked).length;
  const ready = rows.length - rows.filter(({ radio }) => problems.has(radio.id)).length;
  return (
    <div
      ref={setPage}
      className="h-full overflow-y-auto p-3 text-[13px]"
      tabIndex={0}
      role="region"
      aria-label="Devices"
    >
      <div className="flex flex-wrap items-center gap-3">
        <p className="min-w-64 flex-1 text-xs text-quiet">
          An access point or near end first, then one after another those that follow it: all of a model leave their
          boxes at one address. Real devices are ticked off on the checklist. The practice bench drives stand-ins of the
          plan’s devices through every step that needs no hand; nothing real is touched.
          {draft.patches.length > 0 && " It works from the plan as kept: what is in hand is put into no device."}
        </p>
        {chosen.length > 0 && chosen.length < rows.length && (
          <Button
            disabled={isRunning}
            onClick={() => void act({ intent: "run", radioIds: chosen.map(({ id }) => id) })}
          >
            Practise with {chosen.length === 1 ? chosen[0]!.name : counted(chosen.length, "radio")}
          </Button>
        )}
        <Button
          look="primary"
          disabled={isRunning || ready === 0}
          onClick={() => void act({ intent: "run", radioIds: null })}
        >
          {ready === 0 ? "No radio is ready to practise with" : `Practise with all ${ready}`}
        </Button>
      </div>
      {job && (
        <div className="mt-2">
          <JobProgress job={job} onStop={stop} />
        </div>
      )}
      {failed && (
        <p role="alert" className="mt-2 text-blocked">
          {failed}
        </p>
      )}
      <p className="mt-2" role="status" data-staged={staged}>
        Of {counted(rows.length, "device")} <strong>{staged}</strong> staged, <strong>{packed}</strong> packed
        {problems.size > 0 && `; ${counted(problems.size, "radio")} for which the plan is not ready`}.{" "}
        <a className="text-clay underline" href={`/plans/${kept.plan.id}/kit/labels.pdf`} download>
          Labels of all, PDF
        </a>
      </p>
      <div ref={lines.setStart}>
        <Table
          caption="Devices in the order of the bench"
          columns={[
            { name: "Radio", width: "26%" },
            { name: "At", width: "20%" },
            { name: "Serial number", width: "16%" },
            { name: "Firmware", width: "10%" },
            { name: "Stands", width: "28%" },
          ]}
        >
          {lines.before > 0 && <tr aria-hidden="true" style={{ height: lines.before }} />}
          {lines.shown.map(({ index }) => {
            const { radio, follows } = rows[index]!;
            const note = notes?.get(radio.id);
            return (
              <tr key={radio.id} ref={lines.measure} data-index={index} data-device={radio.id}>
                <td className={follows ? "pl-5!" : "font-semibold"}>
                  <ChooseButton of={{ kind: "radio", id: radio.id }}>{radio.name}</ChooseButton>
                </td>
                <td className="text-quiet">{endOf(kept, radio.id).placeName}</td>
                <td className="figures">{note?.serial || "–"}</td>
                <td className="figures whitespace-nowrap">{note?.foundFirmware || radio.firmware || "–"}</td>
                <td>
                  <Stand problem={problems.get(radio.id)} note={note} />
                </td>
              </tr>
            );
          })}
          {lines.after > 0 && <tr aria-hidden="true" style={{ height: lines.after }} />}
        </Table>
      </div>
    </div>
  );
}

/** How far one device has come, in words. */
function Stand({ problem, note }: { problem: string | undefined; note: StagingNote | undefined }) {
  if (problem) return <span className="text-blocked">not ready: {problem}</span>;
  if (note?.problem) return <span className="text-blocked">{note.problem}</span>;
  const { done, isStaged, isPacked } = progressOf(note);
  if (note?.practiceRun && isStaged) return <span className="text-quiet">practised with a stand-in</span>;
  if (isPacked) return <span className="text-clear">packed</span>;
  if (isStaged) return <>staged; to be labelled and packed</>;
  if (done === 0) return <span className="text-quiet">in its box</span>;
  return (
    <>
      {done} of {STAGING_STEPS.length} steps
    </>
  );
}
