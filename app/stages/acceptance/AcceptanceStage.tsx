import { judge, newestMeasurements, readLevelsDbm } from "#core/proof";
import { linkEnds } from "#core/plan";
import { useState } from "react";
import { Link } from "react-router";
import { useDesk } from "../../desk/DeskContext";
import { buttonClass, figure, ProofMark, signedFigure, Table, type Column } from "../../ui";
import { useLines } from "../../views/useRows";

/** Deviation drawn on a scale of ±20 dB, the accepted band shaded; the figure stands beside it. */
function Deviation({ valueDb, bandDb }: { valueDb: number; bandDb: number }) {
  const x = (db: number) => 60 + Math.max(-20, Math.min(20, db)) * 3;
  const inside = Math.abs(valueDb) <= bandDb;
  return (
    <svg width="120" height="18" viewBox="0 0 120 18" aria-hidden="true">
      <rect x={x(-bandDb)} width={x(bandDb) - x(-bandDb)} y="3" height="12" fill="var(--rule)" />
      <line x1="0" x2="120" y1="9" y2="9" stroke="var(--quiet)" />
      <line x1="60" x2="60" y1="2" y2="16" stroke="var(--quiet)" />
      {inside ? (
        <circle cx={x(valueDb)} cy="9" r="4" fill="var(--clear)" />
      ) : (
        <path d={`M${x(valueDb)} 4l5 5l-5 5l-5-5z`} fill="var(--blocked)" />
      )}
    </svg>
  );
}

const COLUMNS: Column[] = [
  { name: "Link" },
  { name: "State" },
  { name: "Predicted", isNumber: true },
  { name: "Measured", isNumber: true },
  { name: "Deviation", isNumber: true },
  { name: "Scale", isHidden: true },
  { name: "Floor" },
  { name: "Action", isHidden: true },
];

/** Heights of lines before they were drawn, px, and links beside each other that are still to be measured. */
const READING_PX = 44;
const OPEN_PX = 20;
const OPEN_ACROSS = 2;

/** Predicted against measured, link by link, with what is still to be measured below. */
export function AcceptanceStage() {
  const { data, kept, select, selection, stateOf } = useDesk();
  const { plan } = data.world;
  const newest = newestMeasurements(kept);
  const links = [...kept.links.values()];
  const measured = links.filter((link) => newest.has(link.id));
  const open = links.filter((link) => !newest.has(link.id));
  const [page, setPage] = useState<HTMLElement | null>(null);
  const lines = useLines(page, measured.length, READING_PX);
  const rows = useLines(page, Math.ceil(open.length / OPEN_ACROSS), OPEN_PX);
  const name = (id: string) => {
    const { a, b } = linkEnds(kept, kept.links.get(id)!);
    return `${a.placeName} – ${b.placeName}`;
  };
  return (
    <div
      ref={setPage}
      className="h-full overflow-y-auto p-4"
      tabIndex={0}
      role="region"
      aria-label="Predicted and measured"
    >
      <h2 className="mb-1 font-semibold">Predicted and measured</h2>
      <p className="mb-3 text-xs text-quiet">
        Two schools side by side: an absolute floor of {figure(plan.proofFloorDbm, 0)} dBm, and at most ±
        {plan.proofDeviationDb} dB from the prediction. A link that passes both, with both directions alike and with the
        throughput and noise that were planned, is proven. Levels are those of all chains together, at the end that is
        farther from its prediction, in dBm.
      </p>
      {measured.length === 0 ? (
        <p className="text-sm text-quiet">
          No readings yet. Open a link's crew sheet on the roof and write down what the radios show.
        </p>
      ) : (
        <div ref={lines.setStart}>
          <Table caption="Links by their newest reading" columns={COLUMNS}>
            {lines.before > 0 && <tr aria-hidden="true" style={{ height: lines.before }} />}
            {lines.shown.map(({ index }) => {
              const link = measured[index]!;
              const reading = newest.get(link.id)!;
              const { a, b } = linkEnds(kept, link);
              const verdict = judge(plan, a, b, reading);
              const { aDbm: levelA, bDbm: levelB } = readLevelsDbm(a, b, reading);
              const worstIsA = Math.abs(levelA - reading.expectedADbm) >= Math.abs(levelB - reading.expectedBDbm);
              const selected = selection?.kind === "link" && selection.id === link.id;
              return (
                <tr
                  key={link.id}
                  ref={lines.measure}
                  data-index={index}
                  className={`border-b border-rule ${selected ? "bg-panel" : ""}`}
                >
                  <td className="py-1.5">
                    <button
                      type="button"
                      className="text-left hover:text-clay"
                      onClick={() => select({ kind: "link", id: link.id })}
                    >
                      {name(link.id)}
                    </button>
                    {(verdict.causes[0] || verdict.summary) && (
                      <span className="block text-xs text-quiet">{verdict.causes[0]?.title ?? verdict.summary}</span>
                    )}
                  </td>
                  <td>
                    <ProofMark state={stateOf(link.id)} />
                  </td>
                  <td className="figures text-right">
                    {figure(worstIsA ? reading.expectedADbm : reading.expectedBDbm)}
                  </td>
                  <td className="figures text-right">{figure(worstIsA ? levelA : levelB)}</td>
                  <td className="figures text-right whitespace-nowrap">{signedFigure(verdict.worstDeviationDb)} dB</td>
                  <td className="pl-2">
                    <Deviation valueDb={verdict.worstDeviationDb} bandDb={plan.proofDeviationDb} />
                  </td>
                  <td className="text-xs whitespace-nowrap">{verdict.floor.passed ? "✓ above" : "✕ below"}</td>
                  <td className="text-right">
                    <Link className={buttonClass()} to={`/plans/${plan.id}/links/${link.id}/proof`}>
                      New reading
                    </Link>
                  </td>
                </tr>
              );
            })}
            {lines.after > 0 && <tr aria-hidden="true" style={{ height: lines.after }} />}
          </Table>
        </div>
      )}
      {open.length > 0 && (
        <>
          <h2 className="mt-6 mb-1 font-semibold">Still to be measured ({open.length})</h2>
          <ul
            ref={rows.setStart}
            className="grid grid-cols-2 gap-x-4 text-[13px]"
            style={{ paddingTop: rows.before, paddingBottom: rows.after }}
          >
            {rows.shown.flatMap(({ index }) =>
              open.slice(index * OPEN_ACROSS, (index + 1) * OPEN_ACROSS).map((link) => (
                <li key={link.id} className="truncate leading-5">
                  <Link className="block truncate hover:text-clay" to={`/plans/${plan.id}/links/${link.id}/proof`}>
                    {name(link.id)}
                  </Link>
                </li>
              )),
            )}
          </ul>
        </>
      )}
    </div>
  );
}
