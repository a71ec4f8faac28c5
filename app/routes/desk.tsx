import type { StageId } from "#core/findings";
import { Suspense, useCallback, useMemo, useRef, useState } from "react";
import { data, redirect, useRouteLoaderData, type ShouldRevalidateFunctionArgs } from "react-router";
import { toast } from "sonner";
import { ADDABLE } from "../adding/addable";
import { AddingProvider, useAdding } from "../adding/AddingContext";
import { EmptyPlan } from "../adding/EmptyPlan";
import { AreaSheet } from "../sheets/AreaSheet";
import { ChangeBar } from "../sheets/ChangeBar";
import { ConflictPanel } from "../sheets/ConflictPanel";
import { DeskProvider, useDesk } from "../desk/DeskContext";
import { useFollowing } from "../desk/useFollowing";
import { describePatches } from "../desk/describe";
import { LinkSheet } from "../sheets/LinkSheet";
import { LeftColumn } from "../lists/Lists";
import { RadioSheet } from "../sheets/RadioSheet";
import { SiteSheet } from "../sheets/SiteSheet";
import { SubscriberSheet } from "../sheets/SubscriberSheet";
import { namesIn } from "../desk/names";
import { PlanFrame } from "../frame/PlanFrame";
import { stageNamed, stageOf } from "../stages";
import type { StageManifest } from "../views/manifest";
import { firstSector } from "../stages/sectors/scene";
import { request, type Refused } from "../ask/request";
import type { Route } from "./+types/desk";
import type { loader as planLoader } from "./plan";

export async function loader({ params, url }: Route.LoaderArgs) {
  const stage = params.stage ? stageNamed(params.stage) : stageOf("paths");
  if (!stage) throw data(`There is no stage "${params.stage}".`, { status: 404 });
  // No stage, or a name of before.
  if (stage.id !== params.stage)
    return redirect(`/plans/${encodeURIComponent(params.planId)}/${stage.id}${url.search}`);
  return { stage: stage.id };
}
/**
 * The page is built in the browser, which has the plan to work on anyway. The plan comes by a question of its own, as one text: within the
 * page, ten thousand rows would hold up everybody whom the server serves meanwhile.
 */
export async function clientLoader({ params, serverLoader }: Route.ClientLoaderArgs) {
  const { stage } = await serverLoader();
  const response = await request(`/plans/${params.planId}/window`).catch((error: Refused) => {
    throw data(error.message, { status: error.status });
  });
  return { stage, packed: await response.text() };
}
clientLoader.hydrate = true as const;

export function HydrateFallback() {
  return <p className="p-6 text-sm text-quiet">Laying the plan out…</p>;
}

/** The desk follows its plan by itself: it is sent whole only when it is opened. */
export function shouldRevalidate({ currentParams, nextParams }: ShouldRevalidateFunctionArgs) {
  return currentParams.planId !== nextParams.planId || !stageNamed(nextParams.stage);
}

function Sheet({ stage }: { stage: StageId }) {
  const { selection, link, world } = useDesk();
  if (link) return <LinkSheet key={link.id} link={link} />;
  const site = selection?.kind === "site" ? world.sites.get(selection.id) : undefined;
  const subscriber = selection?.kind === "subscriber" ? world.subscribers.get(selection.id) : undefined;
  const unchosen = !selection && stage === "sectors" ? firstSector(world) : null;
  const radio = selection?.kind === "radio" ? world.radios.get(selection.id) : unchosen;
  const area = selection?.kind === "area" ? world.areas.get(selection.id) : undefined;
  if (area) return <AreaSheet key={`${area.id} ${JSON.stringify(area.rings).length}`} area={area} />;
  if (site) return <SiteSheet key={site.id} site={site} />;
  if (subscriber) return <SubscriberSheet key={subscriber.id} subscriber={subscriber} />;
  if (radio) return <RadioSheet key={radio.id} radio={radio} />;
  if (!selection && world.sites.size + world.subscribers.size === 0) return <EmptyPlan />;
  return (
    <p className="p-3 text-sm text-quiet">
      {selection
        ? "What was selected is no longer in the plan."
        : "Choose a site, a subscriber or a link, on the plan or in the list."}
    </p>
  );
}

function Desk({ stage }: { stage: StageManifest }) {
  const { draft, kept, selection, select, world, rested, counts, data: deskData } = useDesk();
  const { start, setMenuOpen } = useAdding();
  const [busy, setBusy] = useState(false);
  const latest = useRef({ draft, kept, world });
  latest.current = { draft, kept, world };

  // Whatever changes the plan waits its turn: what is typed meanwhile goes with the next one.
  const turn = useRef<Promise<void>>(Promise.resolve());
  const inTurn = useCallback((work: () => Promise<void>) => {
    turn.current = turn.current.then(work).catch((error: unknown) => {
      toast.error(
        `Not kept: ${error instanceof Error ? error.message : String(error)}. Nothing that was typed is lost.`,
      );
    });
    return turn.current;
  }, []);
  const keep = (reason = "") => {
    if (latest.current.draft.patches.length === 0) return;
    void inTurn(async () => {
      const now = latest.current;
      if (now.draft.patches.length === 0) return;
      setBusy(true);
      const answer = await now.draft.keep(
        describePatches(now.kept, now.world, now.draft.patches).slice(0, 300),
        reason,
      );
      setBusy(false);
      if (answer.ok) toast(answer.message);
      else if (!answer.conflicts) toast.error(answer.message, { duration: 12_000 });
    });
  };
  const things = useMemo(() => namesIn(rested), [rested]);
  return (
    <PlanFrame
      desk={{
        stage: stage.id,
        counts,
        status:
          deskData.shown === null || deskData.unsettled !== null
            ? "working out…"
            : draft.patches.length > 0
              ? "in hand"
              : "saved",
        busy,
        things,
        commands: ADDABLE.map(({ kind, word }) => ({ name: `Add ${word}…`, run: () => start(kind) })),
        inTurn,
        takeBack: draft.canRestore ? () => draft.restore() : null,
        keys: {
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
          close: () => selection && select(null),
          add: () => setMenuOpen(true),
        },
      }}
    >
      {/* On a phone: what the stage shows, then its list, then the sheet of what is chosen. */}
      <div className="flex min-h-0 flex-1 max-md:flex-col max-md:overflow-y-auto">
        <LeftColumn stage={stage} />
        <main className="min-w-0 flex-1 max-md:order-first max-md:h-[70vh] max-md:flex-none">
          <Suspense fallback={<p className="p-6 text-sm text-quiet">Opening {stage.label}…</p>}>
            <stage.Shown stage={stage} />
          </Suspense>
        </main>
        <aside
          aria-label="Sheet"
          tabIndex={0}
          className="w-86 shrink-0 overflow-y-auto border-l border-rule bg-panel max-md:w-full max-md:border-l-0"
        >
          <Sheet stage={stage.id} />
        </aside>
      </div>
      <ConflictPanel />
      <ChangeBar onKeep={keep} busy={busy} />
    </PlanFrame>
  );
}

export default function DeskRoute({ loaderData: { packed }, params }: Route.ComponentProps) {
  const frame = useRouteLoaderData<typeof planLoader>("routes/plan");
  const { data: desk, follow } = useFollowing(packed, frame?.revision ?? 0);
  const stage = stageNamed(params.stage) ?? stageOf("paths");
  return (
    <DeskProvider data={desk} follow={follow}>
      <title>{`${desk.world.plan.name} – Tejado`}</title>
      <AddingProvider>
        <Desk stage={stage} />
      </AddingProvider>
    </DeskProvider>
  );
}
