import { Tabs } from "radix-ui";
import { Link, useSearchParams } from "react-router";
import { requirePlan } from "../requests/plan.server";
import { PlanFrame } from "../frame/PlanFrame";
import { PlacesImport } from "../import/PlacesImport";
import { ShapesImport } from "../import/ShapesImport";
import { TerrainImport } from "../import/TerrainImport";
import type { Route } from "./+types/import";

export async function loader({ params }: Route.LoaderArgs) {
  const { context, rows, revision } = await requirePlan(params.planId);
  const terrain = await context.ask("terrain");
  return {
    plan: rows.plan,
    revision,
    counts: { sites: rows.sites.length, subscribers: rows.subscribers.length, areas: rows.areas.length },
    layers: rows.layers,
    overlays: rows.overlays,
    terrain: terrain && { version: terrain.reliefVersion, extent: terrain.extent },
  };
}

const TABS = [
  ["places", "Sites and subscribers"],
  ["terrain", "Terrain and cover"],
  ["shapes", "Outlines and overlays"],
] as const;

/** Everything that comes into a plan as a file. */
export default function Import({ loaderData }: Route.ComponentProps) {
  const { plan, revision, counts, layers, overlays, terrain } = loaderData;
  const [params, setParams] = useSearchParams();
  const tab = TABS.find(([key]) => key === params.get("what"))?.[0] ?? "places";
  return (
    <PlanFrame>
      <main className="mx-auto w-full max-w-5xl px-6 py-5">
        <title>{`Import – ${plan.name}`}</title>
        <h1 className="mb-1 text-xl font-semibold">Import files</h1>
        <p className="mb-3 text-sm text-quiet">
          The plan holds {counts.sites} sites, {counts.subscribers} subscribers and{" "}
          {layers.length === 0 ? "no terrain" : layers.length === 1 ? "one raster" : `${layers.length} rasters`}. Noise
          scans come in{" "}
          <Link className="text-clay underline" to={`/plans/${plan.id}/noise`}>
            under Noise
          </Link>
          .
        </p>
        <Tabs.Root value={tab} onValueChange={(what) => setParams({ what }, { replace: true })}>
          <Tabs.List aria-label="What to import" className="mb-4 flex gap-4 border-b border-rule text-sm">
            {TABS.map(([key, title]) => (
              <Tabs.Trigger
                key={key}
                value={key}
                className="-mb-px border-b-2 border-transparent pb-1 data-[state=active]:border-clay data-[state=active]:font-semibold"
              >
                {title}
              </Tabs.Trigger>
            ))}
          </Tabs.List>
          <Tabs.Content value="places">
            <PlacesImport planId={plan.id} terrain={terrain} />
          </Tabs.Content>
          <Tabs.Content value="terrain">
            <TerrainImport planId={plan.id} revision={revision} layers={layers} />
          </Tabs.Content>
          <Tabs.Content value="shapes">
            <ShapesImport planId={plan.id} revision={revision} areaCount={counts.areas} overlays={overlays} />
          </Tabs.Content>
        </Tabs.Root>
      </main>
    </PlanFrame>
  );
}
