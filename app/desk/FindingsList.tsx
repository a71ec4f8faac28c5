import { FINDING_TITLES, type Finding, type Remedy } from "#core/findings";
import { Users } from "lucide-react";
import { Link, useFetcher } from "react-router";
import { Button, buttonClass } from "../ui";
import { useDesk } from "./DeskContext";

function RemedyRow({ remedy, finding, planId }: { remedy: Remedy; finding: Finding; planId: string }) {
  const { draft, select } = useDesk();
  return (
    <li className="border-t border-rule pt-1.5">
      <p className="text-[13px] font-medium">{remedy.label}</p>
      <p className="figures text-xs text-quiet">{remedy.effect}</p>
      {remedy.visit ? (
        <Link to={`/plans/${planId}/links/${finding.linkId}/proof`} className={`${buttonClass()} mt-1`}>
          {remedy.label}
        </Link>
      ) : (
        <Button
          className="mt-1"
          onClick={() => {
            select({ kind: "link", id: finding.linkId });
            draft.put(remedy.patches);
          }}
        >
          Take in hand
        </Button>
      )}
    </li>
  );
}

/** What a move or a relay could mend. */
const SEARCHED: readonly Finding["kind"][] = ["blocked", "tight", "trees", "weak", "margin", "noise", "demand"];

/** One finding: what, where, by how much, whom it hurts, why; and ways out that were tried. */
export function FindingCard({
  finding,
  open,
  withPlace = true,
}: {
  finding: Finding;
  open: boolean;
  withPlace?: boolean;
}) {
  const { data, draft, select, selection } = useDesk();
  const fetcher = useFetcher<Remedy[]>();
  const remedies = finding.remedies ?? fetcher.data ?? null;
  const remediesUrl = `/plans/${data.rows.plan.id}/remedies?finding=${encodeURIComponent(finding.id)}`;
  const selected = selection?.kind === "link" && finding.linkIds.includes(selection.id);
  return (
    <article
      data-finding={finding.kind}
      data-row={selectionKey(finding)}
      className={`border-b border-rule px-3 py-2 ${selected && withPlace ? "bg-ground" : ""}`}
    >
      <button
        type="button"
        onClick={() => select({ kind: "link", id: finding.linkId })}
        className="block w-full text-left hover:text-clay"
      >
        <span className="flex items-baseline justify-between gap-2">
          <span className="text-[13px] font-semibold">{FINDING_TITLES[finding.kind]}</span>
          <span className="figures flex items-center gap-1 text-xs text-quiet" title="People affected">
            <Users size={11} aria-hidden="true" />
            {finding.people}
            <span className="sr-only"> people affected</span>
          </span>
        </span>
        {withPlace && <span className="block text-xs">{finding.where}</span>}
        <span className="block text-xs text-quiet">{finding.what}</span>
      </button>
      {open && (
        <div className="mt-1.5">
          <p className="mb-1.5 text-xs">{finding.why}</p>
          {remedies === null && draft.patches.length > 0 ? (
            <p className="text-xs text-quiet">
              This is how it stands in hand. Keep the change to have remedies worked out.
            </p>
          ) : remedies === null ? (
            <Button disabled={fetcher.state !== "idle"} onClick={() => void fetcher.load(remediesUrl)}>
              {fetcher.state === "idle" ? "Work out remedies" : "Trying what could help…"}
            </Button>
          ) : remedies.length > 0 ? (
            <ul className="space-y-1.5">
              {remedies.map((remedy) => (
                <RemedyRow key={remedy.label} remedy={remedy} finding={finding} planId={data.rows.plan.id} />
              ))}
            </ul>
          ) : (
            <p className="text-xs text-quiet">No single change of height, kit, channel or site resolves this.</p>
          )}
          {SEARCHED.includes(finding.kind) && (
            <Link
              to={`/plans/${data.rows.plan.id}/paths?sel=link:${encodeURIComponent(finding.linkId)}&bench=ways`}
              className="mt-1.5 inline-block text-xs text-clay underline"
            >
              Search moves and relays too
            </Link>
          )}
        </div>
      )}
    </article>
  );
}

const selectionKey = (finding: Finding) => `link:${finding.linkId}`;
