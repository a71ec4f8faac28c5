import { useMemo } from "react";
import { Link, useSearchParams } from "react-router";
import { mountsLeft, radiosBySite, type World } from "#core/plan";
import { requirePlan } from "../requests/plan.server";
import { PlanFrame } from "../frame/PlanFrame";
import { Register } from "../register/Register";
import type { RegisterKind, RegisterRow } from "../register/columns";
import type { CellNotes } from "../register/RegisterLine";
import { buttonClass } from "../ui";
import type { Route } from "./+types/register";

export async function loader({ params, url }: Route.LoaderArgs) {
  const { rows, world, revision } = await requirePlan(params.planId);
  const { plan, sites, subscribers } = rows;
  const kind: RegisterKind = url.searchParams.get("kind") === "sites" ? "sites" : "subscribers";
  // Ten thousand rows travel as one text: the framework's own encoding takes many times as long.
  return {
    planId: plan.id,
    planName: plan.name,
    revision,
    kind,
    packed: JSON.stringify({
      rows: kind === "sites" ? sites : subscribers,
      notes: kind === "sites" ? mountNotes(world) : heightNotes(world),
    }),
  };
}

/** How many mounts the radios planned at each site leave. */
function mountNotes(world: World): CellNotes {
  const notes: CellNotes = {};
  const bySite = radiosBySite(world);
  for (const site of world.sites.values()) {
    const left = mountsLeft(world, site, bySite);
    if (left !== site.freeMounts) notes[site.id] = { freeMounts: left < 0 ? `${-left} short` : `${left} left` };
  }
  return notes;
}

/** Where a customer's radio is planned at another height than is usual there. */
function heightNotes(world: World): CellNotes {
  const notes: CellNotes = {};
  for (const { subscriberId, heightM } of world.radios.values()) {
    const usual = world.subscribers.get(subscriberId ?? "")?.antennaHeightM;
    if (subscriberId && usual !== undefined && usual !== heightM)
      notes[subscriberId] = { antennaHeightM: `radio ${heightM}` };
  }
  return notes;
}

const TABS = [
  ["subscribers", "Subscribers"],
  ["sites", "Sites"],
] as const;

/** The survey as a table. */
export default function RegisterRoute({
  loaderData: { planId, planName, revision, kind, packed },
}: Route.ComponentProps) {
  const { rows, notes } = useMemo(() => JSON.parse(packed) as { rows: RegisterRow[]; notes: CellNotes }, [packed]);
  const [params] = useSearchParams();
  return (
    <PlanFrame>
      <main className="flex min-h-0 flex-1 flex-col">
        <title>{`Register – ${planName}`}</title>
        <header className="flex items-baseline gap-4 border-b border-rule bg-panel px-3 py-2">
          <h1 className="font-semibold">Register</h1>
          <nav aria-label="What is listed" className="flex gap-3 text-sm">
            {TABS.map(([key, title]) => (
              <Link
                key={key}
                to={`?kind=${key}`}
                aria-current={kind === key ? "page" : undefined}
                className={kind === key ? "border-b-2 border-clay font-semibold" : "hover:text-clay"}
              >
                {title}
              </Link>
            ))}
          </nav>
          <span className="ml-auto flex gap-1.5">
            <Link
              className={buttonClass()}
              to={`/plans/${planId}/survey?add=${kind === "sites" ? "site" : "customer"}`}
            >
              Add a {kind === "sites" ? "site" : "customer"}
            </Link>
            <Link className={buttonClass()} to={`/plans/${planId}/import`}>
              Import
            </Link>
          </span>
        </header>
        <Register
          key={`${kind}-${params.get("kind")}`}
          kind={kind}
          planId={planId}
          revision={revision}
          rows={rows}
          notes={notes}
        />
      </main>
    </PlanFrame>
  );
}
