import { useEffect, useState } from "react";
import { isRouteErrorResponse } from "react-router";
import type { Patch } from "#core/plan";
import { counted } from "#core/words";
import { downloadDraft, editCount, setStoredDraftAside, storedDraft } from "../desk/asideDrafts";
import { Button } from "../ui";

/** Headings of pages that are refused, by the answer's status. */
const HEADINGS: Readonly<Record<number, string>> = {
  403: "Not for your role",
  404: "Not here",
  507: "The disk is full",
};

/**
 * Shown in place of a page that cannot be drawn. Of a page of a plan (`planId`) the draft is offered: it can be downloaded, and set
 * aside so that the plan opens as saved even where the draft itself is what cannot be drawn.
 */
export function BrokenPage({ error, planId }: { error: unknown; planId?: string }) {
  const refused = isRouteErrorResponse(error) && (error.status < 500 || error.status === 507) ? error : null;
  return (
    <main className="mx-auto max-w-xl p-8">
      <title>Tejado</title>
      <h1 className="mb-2 text-xl font-semibold">{HEADINGS[refused?.status ?? 0] ?? "Something went wrong"}</h1>
      <p>
        {refused
          ? String(refused.data || refused.statusText)
          : "This page could not be drawn. Everything that was saved is safe, and so is your draft."}
      </p>
      {!refused && planId && <DraftRescue planId={planId} />}
      <p className="mt-4 flex items-center gap-3">
        {!refused && <Button onClick={() => window.location.reload()}>Try again</Button>}
        <a className="text-clay underline" href="/">
          All plans
        </a>
      </p>
    </main>
  );
}

function DraftRescue({ planId }: { planId: string }) {
  const [patches, setPatches] = useState<Patch[]>([]);
  useEffect(() => setPatches(storedDraft(planId)), [planId]);
  const openSaved = () => {
    setStoredDraftAside(planId);
    window.location.assign(`/plans/${encodeURIComponent(planId)}`);
  };
  return (
    <div className="mt-4 rounded border border-rule bg-panel p-3">
      {patches.length > 0 && (
        <p className="mb-2">
          The draft holds {counted(editCount(patches), "edit")}. Set aside, it stays in this browser: the bar at the
          foot of the desk restores or deletes it.
        </p>
      )}
      <p className="flex flex-wrap gap-2">
        <Button look="primary" onClick={openSaved}>
          {patches.length > 0 ? "Set the draft aside, open the plan as saved" : "Open the plan as saved"}
        </Button>
        {patches.length > 0 && <Button onClick={() => downloadDraft(planId, patches)}>Download the draft</Button>}
      </p>
    </div>
  );
}
