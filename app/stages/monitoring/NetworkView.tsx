import type { LinkWatch } from "#core/watch";
import { linkEnds, linkName } from "#core/plan";
import { useMemo, useState } from "react";
import { useDesk } from "../../desk/DeskContext";
import { onMap, useMapPlaces } from "../../desk/mapPlaces";
import { PlanMap } from "../../map/PlanMap";
import type { MapLink } from "../../map/types";
import { useLines } from "../../views/useRows";
import { Button, buttonClass, figure, signedFigure, Table, Term, type Column } from "../../ui";
import { NothingYet } from "./NothingYet";
import { SitesTable } from "./SitesTable";
import { useWatch } from "./MonitoringContext";
import { shareOfTime, WATCH_WORDS, WatchMark } from "../../ui/WatchMark";

const COLUMNS: Column[] = [
  { name: "Link" },
  { name: "Delivered" },
  { name: "dB off promise", isNumber: true },
  { name: "Rate, %", isNumber: true },
  { name: "Up, %", isNumber: true },
  { name: "Worst month, %", isNumber: true },
  { name: "Tape says, %", isNumber: true },
];
const LINE_PX = 26;
/** Worst first: silent ones, then those below their promise by how much. */
const RANK = { silent: 0, below: 1, unknown: 3, asPromised: 2 } as const;

/** The network by what it delivers against what was promised: on the plan, and as a table. */
export function NetworkView() {
  const { kept, world, data, selection, select, stateOf } = useDesk();
  const { kept: watch, failed } = useWatch();
  const [page, setPage] = useState<HTMLElement | null>(null);
  const [bySite, setBySite] = useState(false);
  const byLink = useMemo(() => new Map((watch?.look?.links ?? []).map((one) => [one.linkId, one])), [watch?.look]);
  const lines = useMemo(
    () =>
      [...byLink.values()]
        .filter(({ linkId }) => kept.links.has(linkId))
        .sort(
          (x, y) =>
            RANK[x.state] - RANK[y.state] ||
            (x.deviationDb ?? 0) - (y.deviationDb ?? 0) ||
            (x.linkId < y.linkId ? -1 : 1),
        ),
    [byLink, kept.links],
  );
  const { setStart, shown, before, after } = useLines(page, lines.length, LINE_PX);
  const { sites, subscribers } = useMapPlaces(world);
  const mapLinks = useMemo(
    () =>
      [...kept.links.values()].map((link): MapLink => {
        const { a, b } = linkEnds(kept, link);
        const state = byLink.get(link.id)?.state ?? "unknown";
        return {
          ...{
            id: link.id,
            label: `${a.placeName} – ${b.placeName}: ${WATCH_WORDS[state].word}`,
            from: a.place,
            to: b.place,
          },
          ...{ state: WATCH_WORDS[state].line, proof: stateOf(link.id), subscriberId: b.radio.subscriberId },
          ...{ cutShare: state === "silent" ? 0.5 : null, inHand: false },
        };
      }),
    [kept, byLink, stateOf],
  );
  if (!watch?.look) return <NothingYet failed={failed} />;
  const counts = lines.reduce<Record<string, number>>(
    (sum, { state }) => ({ ...sum, [state]: (sum[state] ?? 0) + 1 }),
    {},
  );
  return (
    <div className="flex h-full flex-col">
      <div className="min-h-40 flex-1">
        <PlanMap
          planId={kept.plan.id}
          terrain={data.terrain}
          sites={sites}
          subscribers={subscribers}
          links={mapLinks}
          selected={onMap(selection)}
          onPick={select}
          cursor={null}
          onPathHover={() => undefined}
        />
      </div>
      <div
        ref={setPage}
        className="h-1/2 overflow-y-auto border-t border-rule p-2"
        tabIndex={0}
        role="region"
        aria-label="Links by what they deliver"
      >
        <p className="mb-1 flex flex-wrap items-center gap-x-4 text-xs text-quiet">
          {(["silent", "below", "asPromised", "unknown"] as const).map((state) => (
            <span key={state}>
              <WatchMark state={state} /> {counts[state] ?? 0}
            </span>
          ))}
          {lines.length > 0 && (
            <span>
              all links together up{" "}
              <span className="figures">
                {shareOfTime(
                  lines.reduce((sum, { upPercent }) => sum + (upPercent ?? 0), 0) /
                    Math.max(1, lines.filter(({ upPercent }) => upPercent !== null).length),
                )}
              </span>{" "}
              % of the hours asked
            </span>
          )}
          <span>
            up to the end of {new Date(Date.parse(watch.look.at) - 1).toISOString().slice(0, 10)}
            {watch.settings.source === "simulated" && ", simulated"}
          </span>
          <a className={buttonClass()} href={`/plans/${kept.plan.id}/watch/month.pdf`} download>
            Report of the month
          </a>
          <Button aria-pressed={bySite} onClick={() => setBySite(!bySite)}>
            Customers by site
          </Button>
        </p>
        {bySite && <SitesTable />}
        <div ref={setStart} hidden={bySite}>
          <Table caption="Links by what they deliver" columns={COLUMNS} isSticky>
            {before > 0 && <tr aria-hidden="true" style={{ height: before }} />}
            {shown.map(({ index }) => (
              <LinkLine key={lines[index]!.linkId} one={lines[index]!} />
            ))}
            {after > 0 && <tr aria-hidden="true" style={{ height: after }} />}
          </Table>
        </div>
        <p className="mt-2 text-xs text-quiet" hidden={bySite}>
          Levels and rates are medians of the last seven days, a rate against the promised one; shares of time are of
          all hours that were asked.{" "}
          <Term meaning="An hour in which either end was heard of. What the tape says is the share of an average year in which the weaker direction holds its lowest modulation.">
            Up
          </Term>{" "}
          stands beside what the tape says.
        </p>
      </div>
    </div>
  );
}

function LinkLine({ one }: { one: LinkWatch }) {
  const { kept, selection, select } = useDesk();
  const isChosen = selection?.kind === "link" && selection.id === one.linkId;
  return (
    <tr className={isChosen ? "bg-panel" : ""}>
      <td className="max-w-48 truncate">
        <button
          type="button"
          className="truncate text-left hover:text-clay"
          onClick={() => select({ kind: "link", id: one.linkId })}
        >
          {linkName(kept, one.linkId)}
        </button>
      </td>
      <td>
        <WatchMark state={one.state} />
      </td>
      {[
        one.deviationDb === null ? "–" : signedFigure(one.deviationDb),
        one.rateShare === null ? "–" : figure(100 * one.rateShare, 0),
        shareOfTime(one.upPercent),
        shareOfTime(one.worstMonth?.upPercent ?? null),
        shareOfTime(one.promised.availabilityPercent, one.promised.availabilityBound),
      ].map((text, column) => (
        <td key={column} className="figures text-right whitespace-nowrap">
          {text}
        </td>
      ))}
    </tr>
  );
}
