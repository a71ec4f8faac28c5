import { gainBeyondPatternDb } from "#core/antenna";
import { libraryFor } from "#core/catalogue";
import { putPatch, removePatch, setPatch, type Equipment, type Part } from "#core/plan";
import { counted } from "#core/words";
import {
  isPartsCsv,
  readAntennaCsv,
  readPartsCsv,
  readRadioJson,
  writePartsCsv,
  writeRadioJson,
  type KitError,
} from "#formats/kit";
import { useRef, useState } from "react";
import { Link, useRevalidator } from "react-router";
import { toast } from "sonner";
import { requirePlan } from "../requests/plan.server";
import { PlanFrame } from "../frame/PlanFrame";
import { keepPatches } from "../keep/keepPatches";
import { download } from "../ui/download";
import { PartEditor } from "../library/PartEditor";
import { PartsTable } from "../library/PartsTable";
import { MOST_COMPARED } from "../library/lines";
import { Button, buttonClass, euros, figure, Table } from "../ui";
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

const bandText = ([low, high]: readonly [number, number]) => `${figure(low, 0)}–${figure(high, 0)}`;

/** All radios and antennas that a plan can build with, and the ways in and out for more. */
function TakeOutButton({ name, onTakeOut }: { name: string; onTakeOut: (name: string) => void }) {
  return (
    <Button className="px-1.5 py-0 text-xs" aria-label={`Take ${name} out`} onClick={() => onTakeOut(name)}>
      Take out
    </Button>
  );
}

export default function Library({
  loaderData: { plan, revision, antennas, radios, parts, uses, lacking },
}: Route.ComponentProps) {
  const { revalidate } = useRevalidator();
  const [errors, setErrors] = useState<{ name: string; errors: KitError[] } | null>(null);
  const [chosen, setChosen] = useState<string[]>([]);
  const [written, setWritten] = useState<Part | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const keep = async (items: Equipment[], what: string) => {
    const known = new Set([...antennas, ...radios, ...parts].map(({ id }) => id));
    const patches = items.map((row) =>
      known.has(row.id)
        ? setPatch("equipment", row.id, { body: row.body } as Partial<Equipment>)
        : putPatch("equipment", row),
    );
    const { ok, message } = await keepPatches(plan.id, revision, patches, what);
    if (ok) toast(`${what}. Undo takes it back.`);
    else toast.error(message);
    await revalidate();
    return ok;
  };
  const take = async (given: File) => {
    setErrors(null);
    const bytes = new Uint8Array(await given.arrayBuffer());
    if (/\.json$/i.test(given.name)) {
      const read = readRadioJson(bytes);
      if (!read.item) return setErrors({ name: given.name, errors: read.errors });
      const taken = new Set([...antennas, ...radios].map(({ id }) => id));
      const clashes = read.item.filter(({ id }) => taken.has(id) && uses[id]);
      // A model that links stand on is not replaced behind their back: the newcomer gets an id of its own.
      const items = read.item.map((body): Equipment => {
        const id = clashes.some((one) => one.id === body.id) ? crypto.randomUUID() : body.id;
        return { kind: "radio", id, planId: plan.id, body: { ...body, id } };
      });
      return keep(items, `Read ${counted(items.length, "radio")} from ${given.name}`.slice(0, 300));
    }
    if (isPartsCsv(bytes)) {
      const read = readPartsCsv(bytes, () => crypto.randomUUID());
      if (!read.item) return setErrors({ name: given.name, errors: read.errors });
      const items = read.item.map((body): Equipment => ({ kind: "part", id: body.id, planId: plan.id, body }));
      return keep(items, `Read ${counted(items.length, "part")} from ${given.name}`.slice(0, 300));
    }
    const read = readAntennaCsv(bytes, () => crypto.randomUUID());
    if (!read.item) return setErrors({ name: given.name, errors: read.errors });
    const { item } = read;
    const kept = await keep(
      [{ kind: "antenna", id: item.id, planId: plan.id, body: item }],
      `Read antenna ${item.maker} ${item.model}`,
    );
    const beyondDb = gainBeyondPatternDb(item);
    if (kept && beyondDb > 0)
      toast.warning(
        `${item.model}: the stated gain is ${beyondDb.toFixed(1)} dB more than its cuts allow. It is taken as it stands; check the sheet.`,
        { duration: 12_000 },
      );
  };
  const remove = async (id: string, name: string) => {
    const { ok, message } = await keepPatches(
      plan.id,
      revision,
      [removePatch("equipment", id)],
      `Took ${name} out of the library`,
    );
    if (ok) toast(`${name} is out of the library. Undo takes it back.`);
    else toast.error(message);
    await revalidate();
  };
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
              onClick={() => {
                const known = new Set([...antennas, ...radios, ...parts].map(({ id }) => id));
                void keep(
                  libraryFor(plan.id).filter(({ id }) => !known.has(id)),
                  `Added ${lacking} shipped models that the plan lacked`,
                );
              }}
            >
              Add {lacking} shipped models that are lacking
            </Button>
          )}
        </div>
        {errors && (
          <section role="alert" className="mb-3 rounded border border-blocked p-3 text-sm">
            <p className="font-medium">
              {errors.name} was not taken; the library is as it was. Mend what is told here and bring the file again.
            </p>
            <Table
              caption="What could not be read"
              columns={[{ name: "Row" }, { name: "Field" }, { name: "Value" }, { name: "What is wrong" }]}
            >
              {errors.errors.map(({ row, field, value, reason }, i) => (
                <tr key={i}>
                  <td className="figures">{row || "–"}</td>
                  <td>{field}</td>
                  <td className="figures text-xs">{value || "–"}</td>
                  <td>{reason}</td>
                </tr>
              ))}
            </Table>
          </section>
        )}
        <section aria-labelledby="radios">
          <div className="flex items-center gap-2">
            <h2 id="radios" className="mr-auto font-semibold">
              Radios ({radios.length})
            </h2>
            <Link to={`${base}/radios/new`} className={buttonClass()}>
              Add a radio
            </Link>
          </div>
          <Table
            caption="Radios"
            columns={[
              { name: "Radio" },
              { name: "Use" },
              { name: "MHz" },
              { name: "Widths, MHz" },
              { name: "Power", isNumber: true },
              { name: "Range", isNumber: true },
              { name: "Price", isNumber: true },
              { name: "In use", isNumber: true },
              { name: "Action", isHidden: true },
            ]}
          >
            {radios.map((radio) => (
              <tr key={radio.id}>
                <td>
                  <Link to={`${base}/radios/${encodeURIComponent(radio.id)}`} className="text-clay underline">
                    {radio.maker} {radio.model}
                  </Link>
                </td>
                <td>{radio.use}</td>
                <td className="figures text-xs">{bandText(radio.bandMHz)}</td>
                <td className="figures text-xs">{radio.widthsMHz.join(", ")}</td>
                <td className="figures text-right text-xs">{figure(radio.powerMaxDbm, 0)} dBm</td>
                <td className="figures text-right text-xs">{figure(radio.rangeLimitKm, 0)} km</td>
                <td className="figures text-right text-xs">{euros(radio.priceEur)}</td>
                <td className="figures text-right text-xs">{uses[radio.id] ?? 0}</td>
                <td className="text-right">
                  {!uses[radio.id] && (
                    <TakeOutButton
                      name={`${radio.maker} ${radio.model}`}
                      onTakeOut={(name) => void remove(radio.id, name)}
                    />
                  )}
                </td>
              </tr>
            ))}
          </Table>
        </section>
        <section aria-labelledby="antennas" className="mt-6">
          <div className="flex items-center gap-2">
            <h2 id="antennas" className="mr-auto font-semibold">
              Antennas ({antennas.length})
            </h2>
            {chosen.length > 1 && (
              <Link
                to={`${base}/antennas?${new URLSearchParams(chosen.map((id) => ["id", id]))}`}
                className={buttonClass("primary")}
              >
                Compare {chosen.length}
              </Link>
            )}
          </div>
          <Table
            caption="Antennas"
            columns={[
              { name: "Antenna" },
              { name: "Shape" },
              { name: "MHz" },
              { name: "Gain", isNumber: true },
              { name: "Price", isNumber: true },
              { name: "In use", isNumber: true },
              { name: "Compare" },
              { name: "Action", isHidden: true },
            ]}
          >
            {antennas.map(({ id, maker, model, shape, bandMHz, gainDbi, priceEur }) => (
              <tr key={id}>
                <td>
                  <Link to={`${base}/antennas?${new URLSearchParams({ id })}`} className="text-clay underline">
                    {maker} {model}
                  </Link>
                </td>
                <td>{shape}</td>
                <td className="figures text-xs">{bandText(bandMHz)}</td>
                <td className="figures text-right text-xs">{figure(gainDbi)} dBi</td>
                <td className="figures text-right text-xs">{euros(priceEur)}</td>
                <td className="figures text-right text-xs">{uses[id] ?? 0}</td>
                <td>
                  <input
                    type="checkbox"
                    aria-label={`Compare ${maker} ${model}`}
                    checked={chosen.includes(id)}
                    disabled={!chosen.includes(id) && chosen.length >= MOST_COMPARED}
                    onChange={({ target: { checked } }) =>
                      setChosen(checked ? [...chosen, id] : chosen.filter((one) => one !== id))
                    }
                  />
                </td>
                <td className="text-right">
                  {!uses[id] && (
                    <TakeOutButton name={`${maker} ${model}`} onTakeOut={(name) => void remove(id, name)} />
                  )}
                </td>
              </tr>
            ))}
          </Table>
        </section>
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
