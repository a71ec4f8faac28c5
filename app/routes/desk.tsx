import { useCallback, useMemo, useRef, useState } from "react";
import { data, redirect, useRouteLoaderData, type ShouldRevalidateFunctionArgs } from "react-router";
import { toast } from "sonner";
import { ADDABLE } from "../adding/addable";
import { AddingProvider, useAdding } from "../adding/AddingContext";
import { EmptyPlan } from "../adding/EmptyPlan";
import { AreaSheet } from "../desk/AreaSheet";
import { ChangeBar } from "../desk/ChangeBar";
import { ConflictPanel } from "../desk/ConflictPanel";
import { DeskProvider, useDesk } from "../desk/DeskContext";
import { useFollowing } from "../follow/useFollowing";
import { describePatches } from "../desk/describe";
import { LinkSheet } from "../desk/LinkSheet";
import { LeftColumn } from "../desk/Lists";
import { PlanAndSection } from "../desk/PlanAndSection";
import { RadioSheet } from "../desk/RadioSheet";
import { SiteSheet } from "../desk/SiteSheet";
import { SubscriberSheet } from "../desk/SubscriberSheet";
import { namesIn } from "../frame/names";
import { PlanFrame } from "../frame/PlanFrame";
import { isStage, type Stage } from "#wire";
import { firstSector } from "../sectors/scene";
import { CapacityStage } from "../capacity/CapacityStage";
import { ChannelsStage } from "../channels/ChannelsStage";
import { SectorsStage } from "../sectors/SectorsStage";
import { BenchStage } from "../staging/BenchStage";
import { KitStage } from "../kit/KitStage";
import { InstallStage } from "../install/InstallStage";
import { ProofStage } from "../stages/ProofStage";
import { WatchStage } from "../watch/WatchStage";
import { said } from "../work/said";
import type { Route } from "./+types/desk";
import type { loader as planLoader } from "./plan";

export async function loader({ params, url }: Route.LoaderArgs) {
  if (!isStage(params.stage)) {
    const { search } = url;
    if (params.stage) throw data(`There is no stage "${params.stage}".`, { status: 404 });
    return redirect(`/plans/${encodeURIComponent(params.planId)}/paths${search}`);
  }
  return { stage: params.stage };
}
/**
 * The page is built in the browser, which has the plan to work on anyway. The plan comes by a question of its own, as one text: within the
 * page, ten thousand rows would hold up everybody whom the server serves meanwhile.
 */
export async function clientLoader({ params, serverLoader }: Route.ClientLoaderArgs) {
  const { stage } = await serverLoader();
  const response = await fetch(`/plans/${params.planId}/window`).catch(() => null);
  if (!response) throw data("Tejado does not answer; try again.", { status: 503 });
  if (!response.ok) throw data(await said(response), { status: response.status });
  return { stage, packed: await response.text() };
}
clientLoader.hydrate = true as const;

export function HydrateFallback() {
  return <p className="p-6 text-sm text-quiet">Laying the plan out…</p>;
}

/** The desk follows its plan by itself: it is sent whole only when it is opened. */
export function shouldRevalidate({ currentParams, nextParams }: ShouldRevalidateFunctionArgs) {
  return currentParams.planId !== nextParams.planId || !isStage(nextParams.stage);
}

function Sheet({ stage }: { stage: Stage }) {
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

function Desk({ stage }: { stage: Stage }) {
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
  const onMap = stage === "survey" || stage === "paths";
  return (
    <PlanFrame
      desk={{
        stage,
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
          {onMap && <PlanAndSection canDraw={stage === "survey"} />}
          {stage === "install" && <InstallStage />}
          {stage === "sectors" && <SectorsStage />}
          {stage === "channels" && <ChannelsStage />}
          {stage === "capacity" && <CapacityStage />}
          {stage === "kit" && <KitStage />}
          {stage === "bench" && <BenchStage />}
          {stage === "proof" && <ProofStage />}
          {stage === "watch" && <WatchStage />}
        </main>
        <aside
          aria-label="Sheet"
          tabIndex={0}
          className="w-86 shrink-0 overflow-y-auto border-l border-rule bg-panel max-md:w-full max-md:border-l-0"
        >
          <Sheet stage={stage} />
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
  const stage = isStage(params.stage) ? params.stage : "paths";
  return (
    <DeskProvider data={desk} follow={follow}>
      <title>{`${desk.world.plan.name} – Tejado`}</title>
      <AddingProvider>
        <Desk stage={stage} />
      </AddingProvider>
    </DeskProvider>
  );
}
