import { linkEnds } from "#core/plan";
import { Link } from "react-router";
import { useDesk } from "../desk/DeskContext";
import { buttonClass, figure, ProofMark, StateStroke, useFormats } from "../ui";

/** Job cards: one for each link, those not yet proven first. */
export function InstallStage() {
  const { data, kept, summaries, select, selection } = useDesk();
  const formats = useFormats();
  const planId = data.world.plan.id;
  const links = [...kept.links.values()].sort((x, y) => Number(x.state === "proven") - Number(y.state === "proven"));
  if (links.length === 0)
    return (
      <p className="p-8 text-center text-sm text-quiet">
        No jobs yet. A link that is kept under Paths becomes a job here.
      </p>
    );
  return (
    <div className="h-full overflow-y-auto p-3" tabIndex={0} role="region" aria-label="Job cards">
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(270px,1fr))] gap-3">
        {links.map((link) => {
          const { a, b } = linkEnds(kept, link);
          const summary = summaries.get(link.id);
          const selected = selection?.kind === "link" && selection.id === link.id;
          return (
            <li key={link.id} className={`rounded border bg-panel p-3 ${selected ? "border-clay" : "border-rule"}`}>
              <button
                type="button"
                onClick={() => select({ kind: "link", id: link.id })}
                className="flex w-full items-start justify-between gap-2 text-left hover:text-clay"
              >
                <span className="font-semibold">
                  {a.placeName} – {b.placeName}
                </span>
                <ProofMark state={link.state} />
              </button>
              <p className="mt-1 flex items-center gap-2 text-xs text-quiet">
                <StateStroke state={summary?.state ?? "unknown"} /> {link.kind} ·{" "}
                {formats.distance(summary?.distanceM ?? 0)}
              </p>
              <dl className="figures mt-1 grid grid-cols-[auto_1fr_1fr] gap-x-3 text-xs">
                <dt className="font-sans text-quiet">Height</dt>
                <dd className="text-right">{formats.height(a.radio.heightM)}</dd>
                <dd className="text-right">{formats.height(b.radio.heightM)}</dd>
                <dt className="font-sans text-quiet">A chain’s level</dt>
                <dd className="text-right">{summary?.levelADbm == null ? "–" : `${figure(summary.levelADbm)} dBm`}</dd>
                <dd className="text-right">{summary?.levelBDbm == null ? "–" : `${figure(summary.levelBDbm)} dBm`}</dd>
              </dl>
              <div className="mt-2 flex gap-1.5">
                <Link className={buttonClass()} to={`/plans/${planId}/links/${link.id}/sheet`}>
                  Crew sheet
                </Link>
                <a className={buttonClass()} href={`/plans/${planId}/links/${link.id}/sheet.pdf`}>
                  PDF
                </a>
                <Link className={buttonClass()} to={`/plans/${planId}/links/${link.id}/proof`}>
                  Reading
                </Link>
              </div>
            </li>
          );
        })}
      </ul>
    </div>
  );
}
