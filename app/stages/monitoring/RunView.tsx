import { backhaulOf } from "#core/capacity";
import { powerChangeText, runGroups, toldRadios, trialSeconds, type GroupState, type RunGroup } from "#core/channels";
import type { World } from "#core/plan";
import type { RunResult } from "#jobs";
import { counted, listed } from "#core/words";
import { useMemo, useState } from "react";
import { Link } from "react-router";
import { useDesk } from "../../desk/DeskContext";
import { Button, buttonClass, Table } from "../../ui";
import { SearchState } from "../../ask/SearchState";
import { useSearch } from "../../ask/useSearch";
import { movesBetween } from "./moves";

const STATE_WORDS: Record<GroupState, string> = {
  done: "✓ changed",
  wentBack: "↩ went back",
  notBegun: "– not begun",
  lost: "✕ not all heard of",
};

/** Powers that are named one by one. */
const MOST_NAMED = 3;
/** Letters of an address that a server still takes, with room for the rest of what a browser sends. */
const MOST_ADDRESS = 12_000;

/** A change of channels and powers on the live network: its order, a rehearsal with faults thrown at it, and the sheet for whoever does it by hand. */
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
  const sheet = new URLSearchParams({
    moves: moves.map(({ radioId, toMHz }) => `${radioId}:${toMHz}`).join(","),
    powers: moves.flatMap(({ powers }) => powers.map(({ radioId, toDbm }) => `${radioId}:${toDbm}`)).join(","),
  }).toString();
  return (
    <div
      className="h-full space-y-3 overflow-y-auto p-3 text-[13px]"
      tabIndex={0}
      role="region"
      aria-label="Channel run"
    >
      <p className="text-xs text-quiet">
        The change in hand as a run on the live network. Whoever is farthest from the feed goes first, on trial: a radio
        that is not told to keep its new channel or power returns by itself. Only when all of a group hear each other as
        they shall be are they told to stay. Rehearse it here; on real devices it is done with the sheet, at night, with
        somebody who can drive there.
      </p>
      {groups.length === 0 ? (
        <p className="p-4 text-center text-quiet">
          No channel and no power is in hand. Drag a channel on the{" "}
          <Link className="underline" to={`/plans/${planId}/channels`}>
            comb
          </Link>
          , take a channel plan in hand, or set a radio's power; then come back.
        </p>
      ) : (
        <>
          <ol className="ml-5 list-decimal space-y-1" aria-label="Groups in their order">
            {groups.map((group) => (
              <li key={group.leaderId}>
                {group.name}, <span className="figures">{changeText(kept, group)}</span>: {orderText(group, name)}; on
                trial for {Math.ceil(trialSeconds(group) / 60)} min
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
            {sheet.length <= MOST_ADDRESS ? (
              <a className={buttonClass()} href={`/plans/${planId}/watch/run.pdf?${sheet}`} download>
                Run sheet
              </a>
            ) : (
              <span className="text-xs text-quiet">More radios than one sheet holds: take the change in parts.</span>
            )}
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

/** "5500 → 5600 MHz, Casa X 17 dBm instead of 20 dBm and 4 more powers". */
function changeText(world: World, { fromMHz, toMHz, powers }: RunGroup): string {
  const all = Object.entries(powers);
  const named = all
    .slice(0, MOST_NAMED)
    .map(
      ([radioId, change]) => `${world.radios.get(radioId)?.name ?? radioId} ${powerChangeText(world, radioId, change)}`,
    );
  const channel = fromMHz === toMHz ? [] : [`${fromMHz} → ${toMHz} MHz`];
  const more = all.length > MOST_NAMED ? [`${counted(all.length - MOST_NAMED, "more power")}`] : [];
  return listed([...channel, ...named, ...more]);
}

/** Who is told in which order: "3 radios first, then Sector 1". */
function orderText(group: RunGroup, name: (radioId: string) => string): string {
  const told = toldRadios(group);
  const last = told.at(-1)!;
  return told.length === 1 ? `${name(last)} alone` : `${counted(told.length - 1, "radio")} first, then ${name(last)}`;
}
