import {
  areaSchema,
  equipmentSchema,
  layerSchema,
  linkSchema,
  measurementSchema,
  overlaySchema,
  photoSchema,
  planSchema,
  radioSchema,
  scanSchema,
  siteSchema,
  subscriberSchema,
  type RowKind,
  type RowKinds,
} from "#core/plan";
import type { z } from "zod";

/** What every row of a table must satisfy, read or written. */
export const ROW_SCHEMAS: { [K in RowKind]: z.ZodType<RowKinds[K]> } = {
  plans: planSchema,
  sites: siteSchema,
  subscribers: subscriberSchema,
  radios: radioSchema,
  links: linkSchema,
  measurements: measurementSchema,
  equipment: equipmentSchema,
  layers: layerSchema,
  areas: areaSchema,
  overlays: overlaySchema,
  scans: scanSchema,
  photos: photoSchema,
};

/** Columns of each table by the name of the field, in the order of the migration. */
const COLUMNS: Record<RowKind, string[]> = {
  plans: Object.keys(planSchema.shape),
  sites: Object.keys(siteSchema.shape),
  subscribers: Object.keys(subscriberSchema.shape),
  radios: Object.keys(radioSchema.shape),
  links: Object.keys(linkSchema.shape),
  measurements: Object.keys(measurementSchema.shape),
  equipment: ["planId", "id", "kind", "body"],
  layers: Object.keys(layerSchema.shape),
  areas: Object.keys(areaSchema.shape),
  overlays: Object.keys(overlaySchema.shape),
  scans: Object.keys(scanSchema.shape),
  photos: Object.keys(photoSchema.shape),
};

/** `heightAglM` is `height_agl_m` in SQL. */
export function toSnake(name: string): string {
  return name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);
}

function columnList(kind: RowKind): string {
  return COLUMNS[kind].map(toSnake).join(", ");
}

/** Column list that hands rows back under their field names. */
export function selectList(kind: RowKind): string {
  return COLUMNS[kind].map((name) => `${toSnake(name)} AS "${name}"`).join(", ");
}

/** Inserts or replaces rows given as one JSON array, in one statement however many there are. */
export function upsertSql(kind: RowKind): string {
  const key = kind === "plans" ? "id" : "plan_id, id";
  const changing = COLUMNS[kind].map(toSnake).filter((column) => column !== "id" && column !== "plan_id");
  const set = changing.map((column) => `${column} = EXCLUDED.${column}`).join(", ");
  const columns = columnList(kind);
  return `INSERT INTO ${kind} (${columns}) SELECT ${columns} FROM jsonb_populate_recordset(NULL::${kind}, $1::jsonb) ON CONFLICT (${key}) DO UPDATE SET ${set}`;
}

/** A row as the database's JSON functions want it. */
export function toRecord(kind: RowKind, row: object): Record<string, unknown> {
  return Object.fromEntries(COLUMNS[kind].map((name) => [toSnake(name), (row as Record<string, unknown>)[name]]));
}
