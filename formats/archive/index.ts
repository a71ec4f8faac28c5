import {
  bareSchema,
  declared,
  emptyRows,
  fieldOf,
  fieldsOf,
  LIST_KINDS,
  planSchema,
  radioWithChannelSchema,
  ROW_SCHEMAS,
  rowsOfBefore,
  type ListKind,
  type PlanRows,
  type RadioWithChannel,
} from "#core/plan";
import { withoutGuard, writeCsv } from "../text";
import { ArchiveError } from "./error";
import { json, said, textOf, type ArchiveFiles } from "./parsing";

export { ArchiveError } from "./error";
export type { ArchiveFiles } from "./parsing";
export { besideFiles, readBesideFiles, VOICES, voiceFile, type Beside } from "./beside";

import Papa from "papaparse";
import { z } from "zod";

/** Version of the archive's layout; a newer one is refused, never guessed at. */
export const ARCHIVE_VERSION = 9;
export const MANIFEST = "tejado-plan.json";

const manifestSchema = z.object({
  format: z.literal("tejado-plan"),
  version: z.number().int().positive(),
  plan: planSchema.omit({ id: true, isDemo: true }),
});

/** Rows that are read by people stand as CSV; the others hold lists within rows and stand as JSON. */
const fileOf = (kind: ListKind) => `${kind}.${declared(kind).isTable ? "csv" : "json"}`;

const encode = (text: string) => new TextEncoder().encode(text);
const byId = <T extends { id: string }>(rows: readonly T[]) =>
  [...rows].sort((x, y) => (x.id < y.id ? -1 : x.id > y.id ? 1 : 0));

function withoutPlan(row: object): Record<string, unknown> {
  const rest: Record<string, unknown> = { ...row };
  delete rest.planId;
  return rest;
}

/** A plan's rows as the files of an archive. The plan's own id is left out: whoever takes it in gives it one. */
export function rowFiles(rows: PlanRows): Map<string, Uint8Array> {
  const plan: Partial<PlanRows["plan"]> = { ...rows.plan };
  delete plan.id;
  delete plan.isDemo;
  const files = new Map<string, Uint8Array>();
  files.set(
    MANIFEST,
    encode(`${JSON.stringify({ format: "tejado-plan", version: ARCHIVE_VERSION, plan }, null, 2)}\n`),
  );
  for (const kind of LIST_KINDS) {
    const records = byId(rows[kind] as { id: string }[]).map(withoutPlan);
    if (declared(kind).isTable) {
      const columns = fieldsOf(kind).flatMap(({ name }) => (name === "planId" ? [] : [name]));
      files.set(
        fileOf(kind),
        encode(
          writeCsv(
            columns,
            records.map((row) => columns.map((name) => row[name] as string)),
          ),
        ),
      );
    } else {
      const lines = records.map((row) => JSON.stringify(row));
      files.set(fileOf(kind), encode(`[\n${lines.join(",\n")}\n]\n`));
    }
  }
  return files;
}

/** Reads what `rowFiles` wrote into rows of plan `planId`. Throws ArchiveError naming file, row, field and value. */
export function readRowFiles(files: ArchiveFiles, planId: string): PlanRows {
  const manifest = manifestSchema.safeParse(json(files, MANIFEST));
  if (!manifest.success) throw new ArchiveError(`${MANIFEST}: ${said(manifest.error)}`);
  const { version, plan } = manifest.data;
  if (version > ARCHIVE_VERSION)
    throw new ArchiveError(
      `${MANIFEST}: version ${version} is newer than ${ARCHIVE_VERSION}, which this Tejado reads`,
      {
        todo: "Bring it to a Tejado of that version or a later one.",
      },
    );
  const read = (kind: ListKind, schema: z.ZodType = ROW_SCHEMAS[kind]): unknown[] => {
    const name = fileOf(kind);
    if (version < (declared(kind).archiveFrom ?? 1)) return [];
    const raw = declared(kind).isTable ? csvRecords(files, name, kind) : json(files, name);
    if (!Array.isArray(raw)) throw new ArchiveError(`${name}: holds no list; one of rows was expected`);
    const ids = new Set<unknown>();
    return raw.map((record: unknown, index) => {
      const parsed = schema.safeParse({ ...(record as object), planId });
      if (!parsed.success) throw new ArchiveError(`${name}, row ${index + 1}: ${said(parsed.error)}`);
      const { id } = parsed.data as { id: string };
      if (ids.has(id)) throw new ArchiveError(`${name}, row ${index + 1}: the id ${id} stands twice`);
      ids.add(id);
      return parsed.data;
    });
  };
  const rows = emptyRows({ ...plan, id: planId, isDemo: false });
  // In the first version every radio carried its channel itself.
  const isOld = version === 1;
  for (const kind of LIST_KINDS)
    if (!isOld || (kind !== "radios" && kind !== "carriers")) Object.assign(rows, { [kind]: read(kind) });
  return isOld ? rowsOfBefore({ ...rows, radios: read("radios", radioWithChannelSchema) as RadioWithChannel[] }) : rows;
}

/** CSV records with each cell made what its field is: number, truth or text. */
function csvRecords(files: ArchiveFiles, name: string, kind: ListKind): Record<string, unknown>[] {
  const { data } = Papa.parse<string[]>(textOf(files, name), { skipEmptyLines: true, delimiter: "," });
  const [header = [], ...records] = data;
  const readers = header.map((column) => cellReader(fieldOf(kind, column)?.schema));
  return records.map((cells) => Object.fromEntries(header.map((column, i) => [column, readers[i]!(cells[i] ?? "")])));
}

/** Returns what makes a cell's text the value that a field takes. */
function cellReader(schema: z.ZodType | undefined): (cell: string) => unknown {
  const field = schema && bareSchema(schema);
  const mayBeNull = schema?.safeParse(null).success ?? false;
  const read =
    field instanceof z.ZodNumber
      ? (cell: string) => (cell === "" ? NaN : Number(cell))
      : field instanceof z.ZodBoolean
        ? (cell: string) => (cell === "true" ? true : cell === "false" ? false : cell)
        : withoutGuard;
  return (cell) => (cell === "" && mayBeNull ? null : read(cell));
}
