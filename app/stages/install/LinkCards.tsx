import { linkEnds, type Link as PlanLink } from "#core/plan";
import { useMemo } from "react";
import { Link } from "react-router";
import { useDesk } from "../../desk/DeskContext";
import { buttonClass, figure, ProofMark, StateStroke, useFormats } from "../../ui";
import { useCardRows } from "../../views/useRows";

/** One link: what it is, how high, and what a chain should read. */
function LinkCard({ link }: { link: PlanLink }) {
  const { data, kept, summaries, select, selection, stateOf } = useDesk();
  const formats = useFormats();
  const planId = data.world.plan.id;
  const { a, b } = linkEnds(kept, link);
  const summary = summaries.get(link.id);
  const selected = selection?.kind === "link" && selection.id === link.id;
  return (
    <li className={`rounded border bg-panel p-3 ${selected ? "border-clay" : "border-rule"}`}>
      <button
        type="button"
        onClick={() => select({ kind: "link", id: link.id })}
        className="flex w-full items-start justify-between gap-2 text-left hover:text-clay"
      >
        <span className="font-semibold">
          {a.placeName} – {b.placeName}
        </span>
        <ProofMark state={stateOf(link.id)} />
      </button>
      <p className="mt-1 flex items-center gap-2 text-xs text-quiet">
        <StateStroke state={summary?.state ?? "unknown"} /> {link.kind} · {formats.distance(summary?.distanceM ?? 0)}
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
}

const LEAST_CARD_PX = 282;
const CARD_ROW_PX = 176;

/** A card for each link, those not yet proven first. */
export function LinkCards() {
  const { kept, stateOf } = useDesk();
  const links = useMemo(() => {
    const isProven = ({ id }: PlanLink) => Number(stateOf(id) === "proven");
    return [...kept.links.values()].sort((x, y) => isProven(x) - isProven(y));
  }, [kept.links, stateOf]);
  const { setElement, across, virtual } = useCardRows(links.length, LEAST_CARD_PX, CARD_ROW_PX);
  if (links.length === 0)
    return (
      <p className="p-8 text-center text-sm text-quiet">No links yet. A link that is kept under Paths stands here.</p>
    );
  return (
    <div ref={setElement} className="h-full overflow-y-auto p-3" tabIndex={0} role="region" aria-label="Link cards">
      <div className="relative" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map(({ index, key, start }) => (
          <ul
            key={key}
            ref={virtual.measureElement}
            data-index={index}
            className="absolute inset-x-0 top-0 grid gap-3 pb-3"
            style={{ transform: `translateY(${start}px)`, gridTemplateColumns: `repeat(${across}, minmax(0, 1fr))` }}
          >
            {links.slice(index * across, (index + 1) * across).map((link) => (
              <LinkCard key={link.id} link={link} />
            ))}
          </ul>
        ))}
      </div>
    </div>
  );
}
