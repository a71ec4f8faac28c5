import { arraySurface } from "#core/terrain";
import { AsciiGridError, readAsciiGrid } from "#formats/asciiGrid";
import { readPlacesCsv, type RowError } from "#formats/places";
import { placeEdits } from "#jobs";
import { applyChange, writeTerrain } from "#store";
import { data, Form, Link, useActionData, useNavigation } from "react-router";
import { requirePlan } from "../data/plan.server";
import { signature } from "../data/preferences";
import { Button, buttonClass } from "../ui";
import type { Route } from "./+types/import";

interface ImportResult {
  ok: boolean;
  message: string;
  errors: RowError[];
}

export async function loader({ params }: Route.LoaderArgs) {
  const { context } = await requirePlan(params.planId);
  const { rows, terrain } = context;
  return {
    plan: rows.plan,
    siteCount: rows.sites.length,
    subscriberCount: rows.subscribers.length,
    terrain: terrain && { name: terrain.name, columns: terrain.frame.columns, rows: terrain.frame.rows },
  };
}

export async function action({ params, request }: Route.ActionArgs) {
  const { store, context } = await requirePlan(params.planId);
  const form = await request.formData();
  const file = form.get("file");
  const answer = (ok: boolean, message: string, errors: RowError[] = []) =>
    data<ImportResult>({ ok, message, errors }, { status: ok ? 200 : 400 });
  if (!(file instanceof File) || file.size === 0) return answer(false, "Choose a file first; nothing was read.");
  const text = await file.text();

  if (form.get("intent") === "terrain") {
    try {
      const { frame, groundAmslM } = readAsciiGrid(text);
      await writeTerrain(store.db, params.planId, file.name, arraySurface(frame, groundAmslM));
      const holes = groundAmslM.reduce((count, height) => count + (Number.isNaN(height) ? 1 : 0), 0);
      return answer(
        true,
        `Took the terrain of ${file.name}: ${frame.columns} × ${frame.rows} cells${holes > 0 ? `, ${holes} of them holes, which stay holes` : ""}.`,
      );
    } catch (error) {
      if (error instanceof AsciiGridError)
        return answer(false, `${file.name}: ${error.message}. The terrain stays as it was.`);
      throw error;
    }
  }

  const { places, errors } = readPlacesCsv(text);
  const { edits, added, changed, same } = placeEdits(context.world, places);
  if (edits.length > 0) {
    await applyChange(store.db, {
      planId: params.planId,
      who: signature(request),
      what: `Imported ${file.name}: ${added} new, ${changed} changed`,
      edits,
    });
  }
  const left =
    errors.length > 0 ? `; ${new Set(errors.map(({ row }) => row)).size} rows were left out, listed below` : "";
  return answer(
    places.length > 0,
    `${file.name}: ${added} new, ${changed} changed, ${same} as they were${left}.`,
    errors,
  );
}

const FILE =
  "block w-full text-sm file:mr-3 file:rounded file:border file:border-rule file:bg-panel file:px-2.5 file:py-1 file:text-ink";

/** Files into a plan: places as CSV, terrain as an ASCII grid. */
export default function Import({ loaderData: { plan, siteCount, subscriberCount, terrain } }: Route.ComponentProps) {
  const result = useActionData<typeof action>();
  const busy = useNavigation().state !== "idle";
  return (
    <main className="mx-auto max-w-3xl px-6 py-6">
      <title>{`Import – ${plan.name}`}</title>
      <p className="text-sm">
        <Link to={`/plans/${plan.id}`} className="text-clay underline">
          {plan.name}
        </Link>
      </p>
      <h1 className="mb-1 text-xl font-semibold">Import files</h1>
      <p className="mb-4 text-sm text-quiet">
        The plan holds {siteCount} sites, {subscriberCount} subscribers and{" "}
        {terrain ? `terrain of ${terrain.columns} × ${terrain.rows} cells (${terrain.name})` : "no terrain"}.
      </p>
      {result && (
        <div
          role={result.ok ? "status" : "alert"}
          className={`mb-4 rounded border p-3 text-sm ${result.ok ? "border-clear" : "border-blocked"}`}
        >
          <p className="font-medium">{result.message}</p>
          {result.errors.length > 0 && (
            <div className="mt-2 max-h-72 overflow-y-auto" tabIndex={0} role="region" aria-label="Rows left out">
              <table className="w-full text-xs">
                <thead>
                  <tr className="text-left text-quiet">
                    <th className="font-normal">Row</th>
                    <th className="font-normal">Field</th>
                    <th className="font-normal">Value</th>
                    <th className="font-normal">Reason</th>
                  </tr>
                </thead>
                <tbody>
                  {result.errors.map((error, i) => (
                    <tr key={i} className="border-t border-rule">
                      <td className="figures">{error.row === 0 ? "file" : error.row}</td>
                      <td>{error.field}</td>
                      <td className="figures">{error.value}</td>
                      <td>{error.reason}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          )}
        </div>
      )}
      <div className="grid gap-4 sm:grid-cols-2">
        <Form method="post" encType="multipart/form-data" className="rounded border border-rule bg-panel p-4">
          <h2 className="font-semibold">Sites and subscribers</h2>
          <p className="my-2 text-xs text-quiet">
            CSV with a header: kind (site or subscriber), name, lat, lon; if known height, maxHeight, demand, people,
            mount, structure, power, feed. A known name is changed, not doubled.
          </p>
          <label className="mb-1 block text-xs text-quiet" htmlFor="places">
            CSV file
          </label>
          <input id="places" type="file" name="file" accept=".csv,.txt,text/csv" required className={FILE} />
          <Button type="submit" name="intent" value="places" look="primary" className="mt-3" disabled={busy}>
            {busy ? "Reading…" : "Import places"}
          </Button>
        </Form>
        <Form method="post" encType="multipart/form-data" className="rounded border border-rule bg-panel p-4">
          <h2 className="font-semibold">Terrain</h2>
          <p className="my-2 text-xs text-quiet">
            ESRI ASCII grid of ground heights in metres, in degrees of longitude and latitude. It replaces the terrain
            that the plan has.
          </p>
          <label className="mb-1 block text-xs text-quiet" htmlFor="terrain">
            Grid file
          </label>
          <input id="terrain" type="file" name="file" accept=".asc,.grd,.txt" required className={FILE} />
          <Button type="submit" name="intent" value="terrain" look="primary" className="mt-3" disabled={busy}>
            {busy ? "Reading…" : "Import terrain"}
          </Button>
        </Form>
      </div>
      <p className="mt-4">
        <Link to={`/plans/${plan.id}/survey`} className={buttonClass("primary")}>
          To the survey
        </Link>
      </p>
    </main>
  );
}
