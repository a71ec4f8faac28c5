import { libraryFor } from "#core/catalogue";
import type { Part } from "#core/plan";
import { writePartsCsv, writeRadioJson } from "#formats/kit";
import { useRef, useState } from "react";
import { requirePlan } from "../requests/plan.server";
import { PlanFrame } from "../frame/PlanFrame";
import { download } from "../ui/download";
import { AntennasTable } from "../library/AntennasTable";
import { PartEditor } from "../library/PartEditor";
import { PartsTable } from "../library/PartsTable";
import { RadiosTable } from "../library/RadiosTable";
import { ReadErrors } from "../library/ReadErrors";
import { TakeOutButton } from "../library/TakeOutButton";
import { useLibrary } from "../library/useLibrary";
import { Button } from "../ui";
import type { Route } from "./+types/library";

export async function loader({ params }: Route.LoaderArgs) {
  const { rows, world, revision } = await requirePlan(params.planId);
  const uses: Record<string, number> = {};
  for (const { switchPartId } of rows.sites) if (switchPartId) uses[switchPartId] = (uses[switchPartId] ?? 0) + 1;
  for (const { antennaModelId, radioModelId, bracketId } of rows.radios)
    for (const id of [antennaModelId, radioModelId, bracketId ?? ""]) uses[id] = (uses[id] ?? 0) + 1;
  const known = new Set(rows.equipment.map(({ id }) => id));
  return {
    plan: { id: rows.plan.id, name: rows.plan.name },
    revision,
    antennas: [...world.antennaModels.values()].map(
      ({ id, maker, model, shape, bandMHz, gainAcrossBand, priceEur }) => ({
        id,
        maker,
        model,
        shape,
        bandMHz,
        gainDbi: Math.max(...gainAcrossBand.flatMap(({ hDbi, vDbi }) => [hDbi, vDbi])),
        priceEur,
      }),
    ),
    radios: [...world.radioModels.values()],
    parts: [...world.parts.values()],
    uses,
    lacking: libraryFor(rows.plan.id).filter(({ id }) => !known.has(id)).length,
  };
}

/** A part before anybody wrote it. */
const NEW_PART: Omit<Part, "id"> = {
  ...{ maker: "", model: "", kind: "bracket", unit: "piece", packOf: 1, priceEur: 0, weightKg: 0, standard: "" },
  ...{ poleMm: null, volts: null, watts: null, ampereHours: null, ports: null, crossSectionMm2: null },
  ...{ deliveryDays: null, notes: "" },
};

/** All radios and antennas that a plan can build with, and the ways in and out for more. */
export default function Library({
  loaderData: { plan, revision, antennas, radios, parts, uses, lacking },
}: Route.ComponentProps) {
  const [written, setWritten] = useState<Part | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const known = new Set([...antennas, ...radios, ...parts].map(({ id }) => id));
  const { errors, keep, take, remove } = useLibrary({ planId: plan.id, revision, known, uses });
  const base = `/plans/${plan.id}/library`;
  return (
    <PlanFrame>
      <main className="mx-auto w-full max-w-5xl px-6 py-5">
        <title>{`Library – ${plan.name}`}</title>
        <div className="mb-3 flex flex-wrap items-center gap-2">
          <h1 className="mr-auto text-xl font-semibold">Library</h1>
          <input
            ref={file}
            type="file"
            accept=".csv,.json,text/csv,application/json"
            aria-label="Table of an antenna or of parts, or file of radios"
            className="sr-only"
            onChange={({ target }) => {
              const given = target.files?.[0];
              target.value = "";
              if (given) void take(given);
            }}
          />
          <Button onClick={() => file.current?.click()}>Read a file: antenna or parts CSV, or radios JSON</Button>
          <Button onClick={() => download("radios.json", "application/json", writeRadioJson(radios))}>
            Save all radios as JSON
          </Button>
          <Button onClick={() => download("parts.csv", "text/csv", writePartsCsv(parts))}>Save all parts as CSV</Button>
          {lacking > 0 && (
            <Button
              onClick={() =>
                void keep(
                  libraryFor(plan.id).filter(({ id }) => !known.has(id)),
                  `Added ${lacking} shipped models that the plan lacked`,
                )
              }
            >
              Add {lacking} shipped models that are lacking
            </Button>
          )}
        </div>
        {errors && <ReadErrors {...errors} />}
        <RadiosTable {...{ base, radios, uses }} onTakeOut={(id, name) => void remove(id, name)} />
        <AntennasTable {...{ base, antennas, uses }} onTakeOut={(id, name) => void remove(id, name)} />
        <section aria-labelledby="parts" className="mt-6">
          <div className="flex items-center gap-2">
            <h2 id="parts" className="mr-auto font-semibold">
              Parts ({parts.length})
            </h2>
            <Button onClick={() => setWritten({ ...NEW_PART, id: crypto.randomUUID() })}>Add a part</Button>
          </div>
          {written && (
            <PartEditor
              key={written.id}
              part={written}
              onKeep={(body) =>
                keep([{ kind: "part", id: body.id, planId: plan.id, body }], `Wrote part ${body.maker} ${body.model}`)
              }
              onClose={() => setWritten(null)}
            />
          )}
          <PartsTable
            parts={parts}
            uses={uses}
            onChange={setWritten}
            takeOut={({ id, maker, model }) => (
              <TakeOutButton name={`${maker} ${model}`} onTakeOut={(name) => void remove(id, name)} />
            )}
          />
        </section>
        <p className="mt-4 text-xs text-quiet">
          The columns of an antenna’s table, and of a table of parts, stand in the documentation; radios follow{" "}
          <a href="/schemas/radios.json" className="text-clay underline">
            a published schema
          </a>
          .
        </p>
      </main>
    </PlanFrame>
  );
}
