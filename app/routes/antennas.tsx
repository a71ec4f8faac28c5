import { radiosForAntenna } from "#core/kit";
import { writeAntennaCsv } from "#formats/kit";
import { Link, useSearchParams } from "react-router";
import { requirePlan } from "../requests/plan.server";
import { PlanFrame } from "../frame/PlanFrame";
import { AntennaSheet } from "../library/AntennaSheet";
import { download } from "../ui/download";
import { MOST_COMPARED } from "../library/lines";
import { Button } from "../ui";
import type { Route } from "./+types/antennas";

export async function loader({ params, url }: Route.LoaderArgs) {
  const { rows, world } = await requirePlan(params.planId);
  const wanted = url.searchParams.getAll("id").slice(0, MOST_COMPARED);
  const known = world.antennaModels;
  const antennas = wanted.flatMap((id) => known.get(id) ?? []);
  const uses: Record<string, number> = {};
  for (const { antennaModelId } of rows.radios) uses[antennaModelId] = (uses[antennaModelId] ?? 0) + 1;
  return {
    plan: { id: rows.plan.id, name: rows.plan.name },
    antennas,
    radios: Object.fromEntries(antennas.map((one) => [one.id, radiosForAntenna(world, one)])),
    uses,
    list: [...known.values()].map(({ id, maker, model }) => ({ id, name: `${maker} ${model}` })),
  };
}

/** The sheet of one antenna, or of up to four beside each other; which ones stands in the URL. */
export default function Antennas({ loaderData: { plan, antennas, radios, uses, list } }: Route.ComponentProps) {
  const [params, setParams] = useSearchParams();
  const ids = params.getAll("id");
  const put = (next: string[]) =>
    setParams(new URLSearchParams(next.map((id) => ["id", id])), { preventScrollReset: true });
  const title =
    antennas.length === 1 ? `${antennas[0]!.maker} ${antennas[0]!.model}` : `${antennas.length} antennas compared`;
  return (
    <PlanFrame>
      <main className="mx-auto w-full max-w-4xl px-6 py-5">
        <title>{`${title} – ${plan.name}`}</title>
        <p className="text-sm">
          <Link to={`/plans/${plan.id}/library`} className="text-clay underline">
            Library
          </Link>
        </p>
        <div className="mb-3 flex flex-wrap items-center gap-2">
          <h1 className="mr-auto text-xl font-semibold">{antennas.length === 0 ? "Antennas" : title}</h1>
          {antennas.length > 1 &&
            antennas.map(({ id, model }) => (
              <Button key={id} onClick={() => put(ids.filter((one) => one !== id))}>
                Without {model}
              </Button>
            ))}
          {antennas.length < MOST_COMPARED && (
            <select
              aria-label="Compare with"
              value=""
              onChange={({ target: { value } }) => value && put([...ids, value])}
              className="rounded border border-rule bg-panel px-2 py-1 text-sm"
            >
              <option value="">{antennas.length === 0 ? "Choose an antenna…" : "Compare with…"}</option>
              {list
                .filter(({ id }) => !ids.includes(id))
                .map(({ id, name }) => (
                  <option key={id} value={id}>
                    {name}
                  </option>
                ))}
            </select>
          )}
          {antennas.length === 1 && (
            <Button
              onClick={() =>
                download(
                  `${antennas[0]!.model.replace(/[^\w.-]+/g, "-")}.csv`,
                  "text/csv",
                  writeAntennaCsv(antennas[0]!),
                )
              }
            >
              Save as CSV
            </Button>
          )}
        </div>
        {antennas.length === 0 ? (
          <p className="text-sm text-quiet">Choose one antenna for its sheet, or up to {MOST_COMPARED} to compare.</p>
        ) : (
          <AntennaSheet antennas={antennas} radios={radios} uses={uses} />
        )}
      </main>
    </PlanFrame>
  );
}
