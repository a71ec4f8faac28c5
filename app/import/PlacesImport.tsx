import type { DensityCell } from "#core/survey";
import { counted } from "#core/words";
import type { Mapping } from "#formats/places";
import { toldOf } from "#formats/refused";
import { wrap, type Remote } from "comlink";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import { PlanMap } from "../map/PlanMap";
import type { PlanMapProps } from "../map/types";
import { Button, buttonClass, SelectField, TextField } from "../ui";
import { MappingEditor } from "./MappingEditor";
import { PreviewTable, VERDICT_WORDS } from "./PreviewTable";
import PlacesReader from "./places.worker?worker";
import type { LoadedTable, PlacesWorker, Preview, PreviewRow } from "./places.worker";

const memoryKey = (columns: string[]) => `tejado-columns-${columns.join("|").toLowerCase().slice(0, 400)}`;

/** The mapping used last for a file of these columns, else the one that their names suggest. */
function rememberedMapping({ columns, mapping }: LoadedTable): Mapping {
  try {
    return (JSON.parse(localStorage.getItem(memoryKey(columns)) ?? "null") as Mapping | null) ?? mapping;
  } catch {
    return mapping;
  }
}

const NO_LINKS: PlanMapProps["links"] = [];
const NO_CELLS: DensityCell[] = [];
/** How long a field rests before the rows are held against the plan again. */
const REST_MS = 250;

/** Large work is done in pieces, between which the page answers. */
const nextFrame = () => new Promise((resolve) => requestAnimationFrame(() => setTimeout(resolve)));

const VERDICTS = ["new", "changed", "duplicate", "rejected", "same"] as const;

/** Places from a file or pasted text: read in a worker, mapped, held against the plan, looked over, and only then kept. */
export function PlacesImport({ planId, terrain }: { planId: string; terrain: PlanMapProps["terrain"] }) {
  const reader = useRef<Remote<PlacesWorker> | null>(null);
  useEffect(() => {
    const worker = new PlacesReader();
    reader.current = wrap<PlacesWorker>(worker);
    return () => worker.terminate();
  }, []);
  const [name, setName] = useState("");
  const [pasted, setPasted] = useState("");
  const [table, setTable] = useState<LoadedTable | null>(null);
  const [mapping, setMapping] = useState<Mapping>({});
  const [defaultKind, setDefaultKind] = useState<"site" | "subscriber">("subscriber");
  const [zone, setZone] = useState("");
  const [nearM, setNearM] = useState("5");
  const [rows, setRows] = useState<PreviewRow[]>([]);
  const [density, setDensity] = useState(NO_CELLS);
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const [filter, setFilter] = useState<PreviewRow["verdict"] | "all">("all");
  const [highlighted, setHighlighted] = useState<number | null>(null);
  const [busy, setBusy] = useState("");
  const [result, setResult] = useState<{ ok: boolean; message: string } | null>(null);

  const load = async (source: ArrayBuffer | string, from: string) => {
    setBusy("Reading…");
    setResult(null);
    try {
      const loaded = await reader.current!.load(source);
      setTable(loaded);
      setMapping(rememberedMapping(loaded));
      setName(from);
    } catch (error) {
      setTable(null);
      setRows([]);
      setResult({ ok: false, message: `${from}: ${toldOf(error)} Nothing was read.` });
    }
    setBusy("");
  };

  const refresh = useCallback(async () => {
    if (!table || !reader.current) return;
    setBusy("Comparing with the plan…");
    try {
      const near = Math.max(0, Number(nearM.replace(",", ".")) || 0);
      const packed = await reader.current.preview(planId, { mapping, defaultKind, defaultZone: zone }, near);
      // One text passes between the threads many times faster than ten thousand objects.
      const { rows: next, density: cells } = JSON.parse(packed) as Preview;
      await nextFrame();
      setRows(next);
      setDensity(cells);
      await nextFrame();
      setChosen(
        new Set(next.filter(({ verdict }) => verdict === "new" || verdict === "changed").map(({ row }) => row)),
      );
    } catch (error) {
      setResult({ ok: false, message: (error as Error).message });
    }
    setBusy("");
  }, [table, planId, mapping, defaultKind, zone, nearM]);
  useEffect(() => {
    const timer = setTimeout(() => void refresh(), REST_MS);
    return () => clearTimeout(timer);
  }, [refresh]);

  const counts = useMemo(() => {
    const count: Record<PreviewRow["verdict"], number> = { new: 0, changed: 0, same: 0, duplicate: 0, rejected: 0 };
    for (const { verdict } of rows) count[verdict]++;
    return count;
  }, [rows]);
  const shown = useMemo(
    () => (filter === "all" ? rows : rows.filter(({ verdict }) => verdict === filter)),
    [rows, filter],
  );
  const onMap = useMemo(() => {
    if (density.length > 0) return { sites: [], subscribers: [] };
    const places = rows.flatMap(({ row, kind, name: label, latDeg, lonDeg, verdict }) =>
      latDeg === null
        ? []
        : [{ id: String(row), name: label, kind, place: { latDeg, lonDeg: lonDeg! }, linked: verdict !== "new" }],
    );
    return {
      sites: places.filter(({ kind }) => kind === "site"),
      subscribers: places.filter(({ kind }) => kind !== "site"),
    };
  }, [rows, density]);

  const changeMapping = (next: Mapping) => {
    setMapping(next);
    if (table) localStorage.setItem(memoryKey(table.columns), JSON.stringify(next));
  };
  const toggle = (row: number) =>
    setChosen((old) => {
      const next = new Set(old);
      if (!next.delete(row)) next.add(row);
      return next;
    });
  const mend = async (row: number, column: number, value: string) => {
    await reader.current!.mend(row, column, value);
    await refresh();
  };
  const keep = async () => {
    setBusy("Keeping…");
    const taken = rows.filter(({ row }) => chosen.has(row));
    const added = taken.filter(({ verdict }) => verdict !== "changed").length;
    const changed = taken.length - added;
    try {
      const answer = await reader.current!.keep(
        planId,
        taken.map(({ row }) => row),
        `Imported ${name}: ${added} new, ${changed} changed`,
      );
      const left =
        counts.rejected > 0 ? `; ${counted(counts.rejected, "rejected row stays", "rejected rows stay")} out` : "";
      setResult(
        answer.message === "Kept."
          ? { ok: true, message: `${name}: ${added} new, ${changed} changed${left}.` }
          : answer,
      );
      if (answer.ok) await refresh();
    } catch (error) {
      setResult({ ok: false, message: (error as Error).message });
    }
    setBusy("");
  };
  const downloadRejected = async () => {
    const url = URL.createObjectURL(new Blob([await reader.current!.rejectedCsv()], { type: "text/csv" }));
    const anchor = document.createElement("a");
    anchor.href = url;
    anchor.download = "rejected-rows.csv";
    anchor.click();
    URL.revokeObjectURL(url);
  };

  return (
    <section aria-label="Places" className="space-y-4">
      {result && (
        <p
          role={result.ok ? "status" : "alert"}
          className={`rounded border p-3 text-sm font-medium ${result.ok ? "border-clear" : "border-blocked"}`}
        >
          {result.message}{" "}
          {result.ok && (
            <Link to={`/plans/${planId}/survey`} className={`ml-2 ${buttonClass("primary")}`}>
              To the survey
            </Link>
          )}
        </p>
      )}
      <div className="grid gap-4 sm:grid-cols-2">
        <div className="rounded border border-rule bg-panel p-3">
          <label className="mb-1 block text-sm font-semibold" htmlFor="places-file">
            Places file
          </label>
          <p className="mb-2 text-xs text-quiet">
            CSV, GeoJSON, KML, KMZ or GPX. Positions in decimal degrees, degrees and minutes, or UTM.
          </p>
          <input
            id="places-file"
            type="file"
            accept=".csv,.txt,.tsv,.geojson,.json,.kml,.kmz,.gpx"
            onChange={async (event) => {
              const file = event.target.files?.[0];
              if (file) await load(await file.arrayBuffer(), file.name);
            }}
            className="block w-full text-sm file:mr-3 file:rounded file:border file:border-rule file:bg-panel file:px-2.5 file:py-1 file:text-ink"
          />
        </div>
        <div className="rounded border border-rule bg-panel p-3">
          <label className="mb-1 block text-sm font-semibold" htmlFor="pasted">
            Or paste rows
          </label>
          <textarea
            id="pasted"
            rows={2}
            value={pasted}
            onChange={(event) => setPasted(event.target.value)}
            placeholder={"Casa Nueva; -37.61 -30.21"}
            className="figures w-full rounded border border-rule bg-panel px-2 py-1 text-xs"
          />
          <Button disabled={pasted.trim() === ""} onClick={() => void load(pasted, "pasted text")}>
            Read the text
          </Button>
        </div>
      </div>
      <p role="status" className="h-4 text-xs text-quiet">
        {busy}
      </p>
      {table && (
        <>
          <div className="rounded border border-rule bg-panel p-3">
            <p className="mb-2 text-sm">
              <strong>{name}</strong>: {table.found}, {table.rowCount} rows.
            </p>
            <MappingEditor table={table} mapping={mapping} onChange={changeMapping} />
            <div className="mt-3 grid grid-cols-3 gap-3">
              <SelectField
                label="Rows that do not say are"
                value={defaultKind}
                onChange={(event) => setDefaultKind(event.target.value as "site" | "subscriber")}
              >
                <option value="subscriber">subscribers</option>
                <option value="site">sites</option>
              </SelectField>
              <TextField
                label="UTM zone where not given"
                placeholder="25S"
                value={zone}
                onChange={(event) => setZone(event.target.value)}
              />
              <TextField
                label="Perhaps the same within"
                unit="m"
                value={nearM}
                inputMode="decimal"
                onChange={(event) => setNearM(event.target.value)}
              />
            </div>
          </div>
          {rows.length > 0 && (
            <div className="h-64 overflow-hidden rounded border border-rule">
              <PlanMap
                planId={planId}
                terrain={terrain}
                sites={onMap.sites}
                subscribers={onMap.subscribers}
                density={density}
                fitsPlaces
                links={NO_LINKS}
                selected={null}
                onPick={(pick) => setHighlighted(pick ? Number(pick.id) : null)}
                cursor={null}
                onPathHover={() => undefined}
              />
            </div>
          )}
          <div className="flex flex-wrap items-center gap-1.5" role="group" aria-label="Show rows">
            {(["all", ...VERDICTS] as const).map((one) => (
              <Button
                key={one}
                aria-pressed={filter === one}
                onClick={() => setFilter(one)}
                className={filter === one ? "border-clay text-clay" : ""}
              >
                {one === "all"
                  ? `all ${rows.length}`
                  : `${VERDICT_WORDS[one].glyph} ${counts[one]} ${VERDICT_WORDS[one].word}`}
              </Button>
            ))}
            <span className="ml-auto flex gap-1.5">
              {counts.rejected > 0 && <Button onClick={() => void downloadRejected()}>Download rejected rows</Button>}
              <Button look="primary" disabled={busy !== "" || chosen.size === 0} onClick={() => void keep()}>
                Keep {counted(chosen.size, "place")}
              </Button>
            </span>
          </div>
          <PreviewTable
            rows={shown}
            chosen={chosen}
            mapping={mapping}
            highlighted={highlighted}
            onToggle={toggle}
            onMend={(row, column, value) => void mend(row, column, value)}
          />
        </>
      )}
    </section>
  );
}
