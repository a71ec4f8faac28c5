import { worldOf, emptyRows, type Patch, type Plan, type Site, type Subscriber } from "#core/plan";
import { densityCells, placeVerdicts, type DensityCell, type PlaceVerdict, type Verdict } from "#core/survey";
import {
  guessMapping,
  interpretRows,
  readPasted,
  readTable,
  type InterpretedRow,
  type InterpretOptions,
  type Mapping,
  type RowError,
  type SourceTable,
} from "#formats/places";
import { writeCsv } from "#formats/text";
import { telling } from "#formats/refused";
import type { KeepAnswer } from "../keep/answer";
import { nextOp, postChange } from "../keep/post";
import { expose } from "comlink";

/** A row as the preview shows it. */
export interface PreviewRow {
  row: number;
  verdict: Verdict | "rejected";
  kind: string;
  name: string;
  latDeg: number | null;
  lonDeg: number | null;
  note: string;
  errors: RowError[];
}

/** All rows, and where they are too many to be drawn one by one, how many stand where. */
export interface Preview {
  rows: PreviewRow[];
  density: DensityCell[];
}

/** Thousands of glyphs say less than how many stand where, and hold the page up while they are drawn. */
const MOST_GLYPHS = 1500;

export interface LoadedTable {
  found: string;
  columns: string[];
  samples: string[][];
  rowCount: number;
  mapping: Mapping;
}

interface KeptPlaces {
  revision: number;
  plan: Plan;
  sites: Site[];
  subscribers: Subscriber[];
}

let table: SourceTable | null = null;
let interpreted: InterpretedRow[] = [];
/** The revision of the plan that the rows were held against. */
let base = 0;
let verdicts = new Map<number, PlaceVerdict>();

async function json<T>(url: string, init?: RequestInit): Promise<T> {
  const response = await fetch(url, init);
  if (!response.ok && response.headers.get("content-type")?.includes("json") !== true)
    throw new Error(await response.text());
  return (await response.json()) as T;
}

const api = {
  /** Reads a file or pasted text; throws a message for what cannot be read. */
  load(source: ArrayBuffer | string): LoadedTable {
    table = telling(() => (typeof source === "string" ? readPasted(source) : readTable(new Uint8Array(source))));
    return {
      found: table.found,
      columns: table.columns,
      samples: table.columns.map((_, column) =>
        table!.rows
          .slice(0, 20)
          .map(({ cells }) => cells[column] ?? "")
          .filter((cell) => cell !== "")
          .slice(0, 3),
      ),
      rowCount: table.rows.length,
      mapping: guessMapping(table.columns),
    };
  },

  /** Puts another text into one cell of the table, to mend a row that was rejected. */
  mend(row: number, column: number, value: string): void {
    const found = table?.rows.find((one) => one.row === row);
    if (found) found.cells[column] = value;
  },

  /** Holds every row against the plan; gives a Preview as JSON. */
  async preview(planId: string, options: InterpretOptions, nearM: number): Promise<string> {
    if (!table) return JSON.stringify({ rows: [], density: [] } satisfies Preview);
    const kept = await json<KeptPlaces>(`/plans/${planId}/places`);
    const world = worldOf({ ...emptyRows(kept.plan), sites: kept.sites, subscribers: kept.subscribers });
    base = kept.revision;
    interpreted = interpretRows(table, options);
    const places = interpreted.flatMap(({ place }) => (place ? [place] : []));
    verdicts = new Map(
      placeVerdicts(world, places, nearM, () => crypto.randomUUID()).map((one) => [one.place.row, one]),
    );
    const rows = interpreted.map(({ row, errors }, index): PreviewRow => {
      const found = verdicts.get(row);
      const cell = (column: number | undefined) =>
        column === undefined ? "" : (table!.rows[index]!.cells[column] ?? "");
      if (!found)
        return {
          row,
          verdict: "rejected",
          kind: cell(options.mapping.kind),
          name: cell(options.mapping.name),
          latDeg: null,
          lonDeg: null,
          note: errors.map(({ field, value, reason }) => `${field} "${value}" ${reason}`).join("; "),
          errors,
        };
      const { place, verdict, note } = found;
      return {
        row,
        verdict,
        kind: place.kind,
        name: place.name,
        latDeg: place.latDeg,
        lonDeg: place.lonDeg,
        note,
        errors: [],
      };
    });
    const density = places.length > MOST_GLYPHS ? densityCells(places.map((one) => ({ ...one, demandMbps: 0 }))) : [];
    return JSON.stringify({ rows, density } satisfies Preview);
  },

  /** The rejected rows as they came, each with what is wrong, as CSV to mend elsewhere. */
  rejectedCsv(): string {
    const rejected = interpreted.flatMap((one, index) =>
      one.place
        ? []
        : [[...table!.rows[index]!.cells, one.errors.map(({ field, reason }) => `${field} ${reason}`).join("; ")]],
    );
    return writeCsv([...(table?.columns ?? []), "rejected because"], rejected);
  },

  /** Keeps the chosen rows in one change. */
  async keep(planId: string, rows: number[], what: string): Promise<KeepAnswer> {
    const patches: Patch[] = rows.flatMap((row) => {
      const found = verdicts.get(row);
      return found?.patch ? [found.patch] : [];
    });
    if (patches.length === 0) return { ok: true, message: "Nothing to keep: everything is in the plan as it stands." };
    return postChange(planId, { op: nextOp(), base, patches, what });
  },
};
export type PlacesWorker = typeof api;
expose(api);
