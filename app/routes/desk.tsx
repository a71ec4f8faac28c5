import { historySteps, stepHistory } from "#store";
import { useEffect, useMemo, useRef, useState } from "react";
import { data, redirect, useFetcher, useLocation, useNavigate, type ShouldRevalidateFunctionArgs } from "react-router";
import { toast } from "sonner";
import { keepChange } from "../data/keep.server";
import { warmViews } from "#jobs";
import { requirePlan } from "../data/plan.server";
import { signature } from "../data/preferences";
import { AreaSheet } from "../desk/AreaSheet";
import { ChangeBar } from "../desk/ChangeBar";
import { DeskBar } from "../desk/DeskBar";
import { DeskProvider, useDesk, type DeskData } from "../desk/DeskContext";
import { describePatches } from "../desk/describe";
import { LinkSheet } from "../desk/LinkSheet";
import { LeftColumn } from "../desk/Lists";
import { Palette } from "../desk/Palette";
import { SiteSheet, SubscriberSheet } from "../desk/PlaceSheet";
import { PlanAndSection } from "../desk/PlanAndSection";
import { Shortcuts } from "../desk/Shortcuts";
import { isStage, type Stage } from "../desk/stages";
import { useKeys } from "../desk/useKeys";
import { InstallStage } from "../stages/InstallStage";
import { ProofStage } from "../stages/ProofStage";
import type { Route } from "./+types/desk";

export async function loader({ params, request }: Route.LoaderArgs) {
  if (!isStage(params.stage)) {
    const { search } = new URL(request.url);
    if (params.stage) throw data(`There is no stage "${params.stage}".`, { status: 404 });
    return redirect(`/plans/${params.planId}/paths${search}`);
  }
  const { store, context } = await requirePlan(params.planId);
  const { rows, review, extent, terrainVersion, reliefVersion } = context;
  warmViews();
  return {
    stage: params.stage,
    // Travels as one text: the framework's own encoding of ten thousand rows takes many times as long.
    packed: JSON.stringify({
      rows,
      summaries: [...review.summaries.values()],
      outcome: review.outcome,
      findings: review.findings,
      terrain: extent && { version: terrainVersion, reliefVersion, extent },
      steps: await historySteps(store.db, params.planId),
    } satisfies DeskData),
  };
}

export async function action({ params, request }: Route.ActionArgs) {
  const { store, context } = await requirePlan(params.planId);
  const form = await request.formData();
  const intent = String(form.get("intent"));
  const who = signature(request);
  if (intent === "undo" || intent === "redo") {
    const what = await stepHistory(store.db, params.planId, who, intent);
    return data({
      ok: what !== null,
      message: what === null ? `Nothing to ${intent}.` : `${intent === "undo" ? "Took back" : "Redone"}: ${what}`,
    });
  }
  let patches: unknown;
  try {
    patches = JSON.parse(String(form.get("patches") ?? ""));
  } catch {
    return data({ ok: false, message: "Not kept: the change that arrived is not JSON." }, { status: 400 });
  }
  const { status, ...result } = await keepChange(store, context, {
    patches,
    who,
    what: String(form.get("what") || ""),
    reason: String(form.get("reason") ?? ""),
  });
  return data(result, { status });
}

/** Choosing something changes only the URL's search: the plan's data need not be read again for it. */
export function shouldRevalidate({
  currentUrl,
  nextUrl,
  formMethod,
  defaultShouldRevalidate,
}: ShouldRevalidateFunctionArgs) {
  if (formMethod) return true;
  const choosing = currentUrl.pathname === nextUrl.pathname && currentUrl.search !== nextUrl.search;
  return choosing ? false : defaultShouldRevalidate;
}

function Sheet() {
  const { selection, link, world } = useDesk();
  if (link) return <LinkSheet key={link.id} link={link} />;
  const site = selection?.kind === "site" ? world.sites.get(selection.id) : undefined;
  const subscriber = selection?.kind === "subscriber" ? world.subscribers.get(selection.id) : undefined;
  const area = selection?.kind === "area" ? world.areas.get(selection.id) : undefined;
  if (area) return <AreaSheet key={`${area.id} ${JSON.stringify(area.rings).length}`} area={area} />;
  if (site) return <SiteSheet key={site.id} site={site} />;
  if (subscriber) return <SubscriberSheet key={subscriber.id} subscriber={subscriber} />;
  const empty = world.sites.size + world.subscribers.size === 0;
  return (
    <p className="p-3 text-sm text-quiet">
      {selection
        ? "What was selected is no longer in the plan."
        : empty
          ? "The plan is empty. Import sites, subscribers and terrain from the menu."
          : "Choose a site, a subscriber or a link, on the plan or in the list."}
    </p>
  );
}

function DeskFrame({ stage }: { stage: Stage }) {
  const { data: desk, draft, kept, selection, select, world } = useDesk();
  const fetcher = useFetcher<typeof action>();
  const navigate = useNavigate();
  const { search } = useLocation();
  const [finding, setFinding] = useState(false);
  const [help, setHelp] = useState(false);
  const busy = fetcher.state !== "idle";
  const planId = desk.rows.plan.id;

  const result = fetcher.data;
  const { discard } = draft;
  useEffect(() => {
    if (!result) return;
    if (result.ok) {
      toast(result.message);
      if (result.message === "Kept.") discard();
    } else toast.error(result.message, { duration: 12_000 });
  }, [result, discard]);

  // Undo is pressed faster than a save answers: whatever changes the plan waits its turn, none is lost.
  const turn = useRef<Promise<unknown>>(Promise.resolve());
  const { submit } = fetcher;
  const inTurn = (fields: Record<string, string>) => {
    turn.current = turn.current.then(() => submit(fields, { method: "post" })).catch(() => undefined);
  };
  const keep = (reason = "") => {
    if (draft.patches.length === 0 || busy) return;
    inTurn({
      intent: "keep",
      patches: JSON.stringify(draft.patches),
      what: describePatches(kept, world, draft.patches),
      reason,
    });
  };
  const history = (intent: "undo" | "redo") => inTurn({ intent });
  useKeys({
    find: () => setFinding(true),
    help: () => setHelp(true),
    go: (to) => void navigate(`/plans/${planId}/${to}${search}`),
    step: (by) => {
      const rows = [...document.querySelectorAll<HTMLElement>("[data-list] [data-row]")].sort(
        (x, y) => x.getBoundingClientRect().top - y.getBoundingClientRect().top,
      );
      // The URL is ahead of what is drawn when keys come fast.
      const current = new URLSearchParams(window.location.search).get("sel");
      const at = rows.findIndex((row) => row.dataset.row === current);
      const next = rows[Math.min(rows.length - 1, Math.max(0, at + by))];
      next?.click();
      next?.scrollIntoView({ block: "nearest" });
    },
    keep: () => keep(),
    discard: () => (draft.patches.length > 0 ? draft.discard() : selection && select(null)),
    history,
  });

  const onMap = stage === "survey" || stage === "paths";
  return (
    <div className="flex h-dvh flex-col">
      <DeskBar
        stage={stage}
        onFind={() => setFinding(true)}
        onHelp={() => setHelp(true)}
        onStep={history}
        busy={busy}
      />
      <div className="flex min-h-0 flex-1">
        <LeftColumn stage={stage} />
        <main className="min-w-0 flex-1">
          {onMap && <PlanAndSection canDraw={stage === "survey"} />}
          {stage === "install" && <InstallStage />}
          {stage === "proof" && <ProofStage />}
        </main>
        <aside aria-label="Sheet" tabIndex={0} className="w-86 shrink-0 overflow-y-auto border-l border-rule bg-panel">
          <Sheet />
        </aside>
      </div>
      <ChangeBar onKeep={keep} busy={busy} />
      <Palette open={finding} onOpenChange={setFinding} stage={stage} />
      <Shortcuts open={help} onOpenChange={setHelp} />
    </div>
  );
}

export default function DeskRoute({ loaderData: { stage, packed } }: Route.ComponentProps) {
  const desk = useMemo(() => JSON.parse(packed) as DeskData, [packed]);
  return (
    <DeskProvider data={desk}>
      <title>{`${desk.rows.plan.name} – Tejado`}</title>
      <DeskFrame stage={stage} />
    </DeskProvider>
  );
}
