import { backhaulOf } from "#core/capacity";
import { runGroups, trialSeconds, type GroupState } from "#core/channels";
import type { RunResult } from "#jobs";
import { counted } from "#core/words";
import { useMemo, useState } from "react";
import { Link } from "react-router";
import { useDesk } from "../desk/DeskContext";
import { Button, buttonClass, Table } from "../ui";
import { SearchState } from "../work/SearchState";
import { useSearch } from "../work/useSearch";
import { movesBetween } from "./moves";

const STATE_WORDS: Record<GroupState, string> = {
  done: "✓ changed",
  wentBack: "↩ went back",
  notBegun: "– not begun",
  lost: "✕ not all heard of",
};

/** A change of channels on the live network: its order, a rehearsal with faults thrown at it, and the sheet for whoever does it by hand. */
export function RunView() {
  const { kept, world, summaries } = useDesk();
  const planId = kept.plan.id;
  const [withFaults, setWithFaults] = useState(true);
  const { job, result, failed, start, stop } = useSearch<RunResult>(planId, true);
  const moves = useMemo(() => movesBetween(kept, world), [kept, world]);
  const groups = useMemo(
    () => (moves.length === 0 ? [] : runGroups(kept, moves, backhaulOf(kept, summaries))),
    [kept, moves, summaries],
  );
  const name = (radioId: string) => kept.radios.get(radioId)?.name ?? radioId;
  const asked = moves.map(({ radioId, toMHz }) => `${radioId}:${toMHz}`).join(",");
  return (
    <div
      className="h-full space-y-3 overflow-y-auto p-3 text-[13px]"
      tabIndex={0}
      role="region"
      aria-label="Channel run"
    >
      <p className="text-xs text-quiet">
        The change in hand as a run on the live network. Whoever is farthest from the feed goes first, on trial: a radio
        that is not told to keep its new channel returns by itself. Only when all of a group hear each other there are
        they told to stay. Rehearse it here; on real devices it is done with the sheet, at night, with somebody who can
        drive there.
      </p>
      {groups.length === 0 ? (
        <p className="p-4 text-center text-quiet">
          No channel is in hand. Drag one on the{" "}
          <Link className="underline" to={`/plans/${planId}/channels`}>
            comb
          </Link>
          , or take a channel plan in hand; then come back.
        </p>
      ) : (
        <>
          <ol className="ml-5 list-decimal space-y-1" aria-label="Groups in their order">
            {groups.map((group) => (
              <li key={group.leaderId}>
                {group.name},{" "}
                <span className="figures">
                  {group.fromMHz} → {group.toMHz} MHz
                </span>
                : {counted(group.followerIds.length, "radio")} first, then {name(group.leaderId)}; on trial for{" "}
                {Math.ceil(trialSeconds(group) / 60)} min
                {group.radarWaitS > 0 && `, ${group.radarWaitS} s of them listening for radar`}
                {group.hasSpareWay === false && "; no other way leads to its far site"}
                {group.hasSpareWay && "; its far site has another way meanwhile"}.
              </li>
            ))}
          </ol>
          <div className="flex flex-wrap items-center gap-3">
            <Button
              look="primary"
              disabled={job?.state === "running"}
              onClick={() => void start({ kind: "channelRun", moves, withFaults }, [])}
            >
              Rehearse it
            </Button>
            <label className="flex items-center gap-1.5">
              <input type="checkbox" checked={withFaults} onChange={({ target }) => setWithFaults(target.checked)} />
              Throw faults at it
            </label>
            <a
              className={buttonClass()}
              href={`/plans/${planId}/watch/run.pdf?moves=${encodeURIComponent(asked)}`}
              download
            >
              Run sheet
            </a>
          </div>
        </>
      )}
      <SearchState job={job} failed={failed} onStop={stop} />
      {result && (
        <section aria-label="What came of it" className="space-y-2">
          <p className="font-semibold">
            {result.lost.length === 0
              ? "No device was lost"
              : `${counted(result.lost.length, "device")} not heard of two hours later: ${result.lost.map(name).join(", ")}`}
            ; it took {Math.ceil(result.tookS / 60)} min.
          </p>
          <Table caption="Groups of the run" columns={[{ name: "Group" }, { name: "Came to" }, { name: "Why" }]}>
            {result.reports.map((report, i) => (
              <tr key={i}>
                <td>{report.name}</td>
                <td className="whitespace-nowrap">{STATE_WORDS[report.state]}</td>
                <td>
                  {report.why}
                  {report.missing.length > 0 && `; not heard of at the end: ${report.missing.map(name).join(", ")}`}
                </td>
              </tr>
            ))}
          </Table>
          <details>
            <summary>Step by step</summary>
            <ol className="text-xs">
              {result.lines.map(({ atS, group, radioId, text }, i) => (
                <li key={i}>
                  <span className="figures">
                    {Math.floor(atS / 60)}:{String(atS % 60).padStart(2, "0")}
                  </span>{" "}
                  {radioId === null ? group : name(radioId)}: {text}
                </li>
              ))}
            </ol>
          </details>
        </section>
      )}
    </div>
  );
}
