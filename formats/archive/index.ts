import {
  LIST_KINDS,
  planSchema,
  ROW_SCHEMAS,
  siteSchema,
  subscriberSchema,
  emptyRows,
  radioWithChannelSchema,
  FIRST_STAGE,
  NO_POWER_PLAN,
  USUAL_CABLING,
  USUAL_CHAIN,
  USUAL_SITE_CHAIN,
  USUAL_SITE_KIT,
  rowsOfBefore,
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
/** Before this version no outsider had a place. */
const OUTSIDERS_FROM = 4;
/** Nor had there been crews and jobs. */
const CREWS_FROM = 7;
/** Nor anything that was watched. */
const ALARMS_FROM = 8;
/** What whole rows of a kind lack from before a version. */
const USUAL_BEFORE: readonly { version: number; rows: Partial<Record<Kind, object>> }[] = [
  { version: 3, rows: { carriers: NO_POWER_PLAN } },
  { version: 5, rows: { radios: USUAL_CABLING, sites: USUAL_SITE_KIT } },
  { version: 6, rows: { radios: USUAL_CHAIN, sites: USUAL_SITE_CHAIN } },
  { version: 9, rows: { links: FIRST_STAGE } },
];
export const MANIFEST = "tejado-plan.json";

const manifestSchema = z.object({
  format: z.literal("tejado-plan"),
  version: z.number().int().positive(),
  plan: planSchema.omit({ id: true, isDemo: true }),
});

/** Rows that are read by people, as CSV; the others hold lists within rows and stand as JSON. */
const CSV_SCHEMAS = { sites: siteSchema, subscribers: subscriberSchema } as const;
type Kind = (typeof LIST_KINDS)[number];
const isCsv = (kind: Kind): kind is keyof typeof CSV_SCHEMAS => kind in CSV_SCHEMAS;

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
  for (const [kind, schema] of Object.entries(CSV_SCHEMAS) as [keyof typeof CSV_SCHEMAS, z.ZodObject][]) {
    const columns = Object.keys(schema.shape).filter((name) => name !== "planId");
    const records = byId(rows[kind] as { id: string }[]).map((row) =>
      columns.map((name) => (row as unknown as Record<string, string>)[name]),
    );
    files.set(`${kind}.csv`, encode(writeCsv(columns, records)));
  }
  for (const kind of LIST_KINDS) {
    if (isCsv(kind)) continue;
    const lines = byId(rows[kind] as { id: string }[]).map((row) => JSON.stringify(withoutPlan(row)));
    files.set(`${kind}.json`, encode(`[\n${lines.join(",\n")}\n]\n`));
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
  const read = (kind: Kind, schema: z.ZodType = ROW_SCHEMAS[kind]): unknown[] => {
    const name = isCsv(kind) ? `${kind}.csv` : `${kind}.json`;
    if (kind === "outsiders" && version < OUTSIDERS_FROM) return [];
    if ((kind === "crews" || kind === "visits") && version < CREWS_FROM) return [];
    if (kind === "alarms" && version < ALARMS_FROM) return [];
    const raw = isCsv(kind) ? csvRecords(files, name, schema as z.ZodObject) : json(files, name);
    if (!Array.isArray(raw)) throw new ArchiveError(`${name}: holds no list; one of rows was expected`);
    const ids = new Set<unknown>();
    const usual = Object.assign({}, ...USUAL_BEFORE.map((one) => (version < one.version ? one.rows[kind] : {})));
    return raw.map((record: unknown, index) => {
      const parsed = schema.safeParse({ ...usual, ...(record as object), planId });
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
function csvRecords(files: ArchiveFiles, name: string, schema: z.ZodObject): Record<string, unknown>[] {
  const { data } = Papa.parse<string[]>(textOf(files, name), { skipEmptyLines: true, delimiter: "," });
  const [header = [], ...records] = data;
  return records.map((cells) =>
    Object.fromEntries(
      header.map((column, i) => {
        const stated = schema.shape[column] as unknown;
        const cell = cells[i] ?? "";
        if (stated instanceof z.ZodNullable && cell === "") return [column, null];
        const field = stated instanceof z.ZodNullable ? stated.unwrap() : stated;
        if (field instanceof z.ZodNumber) return [column, cell === "" ? NaN : Number(cell)];
        if (field instanceof z.ZodBoolean) return [column, cell === "true" ? true : cell === "false" ? false : cell];
        return [column, withoutGuard(cell)];
      }),
    ),
  );
}
