import { linksOf, radioOf, type Finding, type Remedy } from "#core/findings";
import { Users } from "lucide-react";
import { Link } from "react-router";
import { Button, buttonClass } from "../ui";
import { useAnswer } from "../ask/useAnswer";
import { useDesk } from "../desk/DeskContext";
import { selectionText, type Selection } from "../desk/selection";

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
            select(placeOf(finding));
            draft.put(remedy.patches);
          }}
        >
          Take in hand
        </Button>
      )}
    </li>
  );
}

/** Where one looks at a finding: its first link, else the site or radio that it is about. */
function placeOf(finding: Finding): Selection {
  if (finding.linkId !== null) return { kind: "link", id: finding.linkId };
  const site = finding.about.find(({ kind }) => kind === "sites");
  if (site) return { kind: "site", id: site.id };
  const radioId = radioOf(finding);
  return radioId === null ? null : { kind: "radio", id: radioId };
}

/** Whether a finding is about what is chosen. */
export function isChosen(finding: Finding, selection: Selection): boolean {
  const place = placeOf(finding);
  return place !== null && selection !== null && place.kind === selection.kind && place.id === selection.id;
}

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
  // In a large plan only the worst findings come with their remedies: the others' are worked out when they are looked at.
  const isWanted = open && finding.remedies === null && draft.patches.length === 0;
  const address = `/plans/${data.world.plan.id}/remedies?finding=${encodeURIComponent(finding.id)}`;
  const { answer, failed } = useAnswer<Remedy[]>(isWanted ? { address, of: [data.revision] } : null, { isFresh: true });
  const remedies = finding.remedies ?? answer;
  const selected = selection?.kind === "link" && linksOf(finding).includes(selection.id);
  return (
    <article
      data-finding={finding.check}
      data-row={selectionKey(finding)}
      className={`border-b border-rule px-3 py-2 ${selected && withPlace ? "bg-ground" : ""}`}
    >
      <button type="button" onClick={() => select(placeOf(finding))} className="block w-full text-left hover:text-clay">
        <span className="flex items-baseline justify-between gap-2">
          <span className="text-[13px] font-semibold">{finding.title}</span>
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
            <p role="status" className="text-xs text-quiet">
              {failed ? `Remedies were not worked out. ${failed}` : "Trying what could help…"}
            </p>
          ) : remedies.length > 0 ? (
            <ul className="space-y-1.5">
              {remedies.map((remedy) => (
                <RemedyRow key={remedy.label} remedy={remedy} finding={finding} planId={data.world.plan.id} />
              ))}
            </ul>
          ) : (
            <p className="text-xs text-quiet">No single change of height, kit, channel or site resolves this.</p>
          )}
          {finding.isSearched && finding.linkId !== null && (
            <Link
              to={`/plans/${data.world.plan.id}/paths?sel=link:${encodeURIComponent(finding.linkId)}&bench=ways`}
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

function selectionKey(finding: Finding): string | undefined {
  const place = placeOf(finding);
  return place ? selectionText(place) : undefined;
}
