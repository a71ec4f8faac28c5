import type { DensityCell } from "#core/survey";
import { counted } from "#core/words";
import type { Mapping } from "#formats/places";
import { toldOf } from "#formats/refused";
import { wrap, type Remote } from "comlink";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { download } from "../ui/download";
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

const NO_CELLS: DensityCell[] = [];
/** How long a field must rest before the rows are compared with the plan again, ms. */
const REST_MS = 250;

/** Large work is done in pieces, between which the page answers. */
const nextFrame = () => new Promise((resolve) => requestAnimationFrame(() => setTimeout(resolve)));

/** Places on their way into a plan: read in a worker, mapped, compared with the plan, and kept once they were looked over. */
export function usePlacesImport(planId: string) {
  const reader = useRef<Remote<PlacesWorker> | null>(null);
  useEffect(() => {
    const worker = new PlacesReader();
    reader.current = wrap<PlacesWorker>(worker);
    return () => worker.terminate();
  }, []);
  const [name, setName] = useState("");
  const [table, setTable] = useState<LoadedTable | null>(null);
  const [mapping, setMapping] = useState<Mapping>({});
  const [defaultKind, setDefaultKind] = useState<"site" | "subscriber">("subscriber");
  const [zone, setZone] = useState("");
  const [nearM, setNearM] = useState("5");
  const [rows, setRows] = useState<PreviewRow[]>([]);
  const [density, setDensity] = useState(NO_CELLS);
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
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
  const downloadRejected = async () => download("rejected-rows.csv", "text/csv", await reader.current!.rejectedCsv());
  return {
    ...{ name, table, mapping, changeMapping, defaultKind, setDefaultKind, zone, setZone, nearM, setNearM },
    ...{ rows, density, counts, chosen, toggle, busy, result, load, mend, keep, downloadRejected },
  };
}
export type PlacesImporting = ReturnType<typeof usePlacesImport>;
