import { parseAxis, type Place } from "#core/geodesy";
import { bareSchema, LONGEST_NAME } from "#core/plan";
import type { ReadPlace } from "#core/survey";
import { parseNumber } from "../text";
import { ROW_COLUMNS, type Mapping } from "./fields";
import { parsePosition, utmToPlace } from "./position";
import type { SourceTable } from "./table";
import { z } from "zod";

/** Why a row could not be taken: where, what stood there, and what would do. */
export interface RowError {
  row: number;
  field: string;
  value: string;
  reason: string;
}

export interface InterpretOptions {
  mapping: Mapping;
  /** What rows are that do not say. */
  defaultKind: ReadPlace["kind"];
  /** UTM zone of rows that do not name one, like "25S". */
  defaultZone: string;
}

export interface InterpretedRow {
  row: number;
  place: ReadPlace | null;
  errors: RowError[];
}

function readKind(text: string, fallback: ReadPlace["kind"]): ReadPlace["kind"] | null {
  const word = text.trim().toLowerCase();
  if (word === "") return fallback;
  if (["site", "tower", "mast"].includes(word)) return "site";
  return ["subscriber", "customer", "client"].includes(word) ? "subscriber" : null;
}

/** Columns that say what a place is called and where it lies: they are read by themselves. */
const PLACED: ReadonlySet<string> = new Set(["name", "lat", "lon"]);

type Read = { value: string | number | boolean } | { reason: string };

/** A cell as its field's schema wants it, or why it cannot be. */
function readCell(text: string, schema: z.ZodType, decimalComma: boolean): Read {
  if (schema instanceof z.ZodBoolean) return { value: /^(1|y|yes|true|x)$/i.test(text) };
  if (schema instanceof z.ZodEnum) {
    const word = text.toLowerCase().replace(/\s+/g, "_");
    return schema.options.includes(word) ? { value: word } : { reason: `must be one of ${schema.options.join(", ")}` };
  }
  if (!(schema instanceof z.ZodNumber)) {
    const most = (schema as z.ZodString).maxLength ?? Infinity;
    return text.length > most ? { reason: `is longer than ${most} characters` } : { value: text };
  }
  const value = parseNumber(text, decimalComma);
  if (Number.isNaN(value)) return { reason: "is not a number" };
  const { minValue, maxValue } = schema;
  if (value < minValue! || value > maxValue!) return { reason: `must lie between ${minValue} and ${maxValue}` };
  return schema.safeParse(value).success ? { value } : { reason: "must be a whole number" };
}

/** Makes places of a table's rows, each with all that is wrong with it. */
export function interpretRows(table: SourceTable, options: InterpretOptions): InterpretedRow[] {
  return table.rows.map((row) => interpretRow(row, table.decimalComma, options));
}

/** One row: a place, or everything that keeps it from being one. */
function interpretRow(
  { row, cells }: SourceTable["rows"][number],
  decimalComma: boolean,
  { mapping, defaultKind, defaultZone }: InterpretOptions,
): InterpretedRow {
  const errors: RowError[] = [];
  const cell = (field: string) => cells[mapping[field] ?? -1]?.trim() ?? "";
  const reject = (field: string, reason: string) => {
    errors.push({ row, field, value: cell(field).slice(0, 80), reason });
    return null;
  };
  const position = (): Place | null => {
    if (cell("position") !== "")
      return parsePosition(cell("position")) ?? reject("position", "is not a latitude and a longitude, nor UTM");
    if (cell("easting") !== "" || cell("northing") !== "") {
      const zone = cell("zone") || defaultZone;
      const place = utmToPlace(
        parseNumber(cell("easting"), decimalComma),
        parseNumber(cell("northing"), decimalComma),
        zone,
      );
      if (typeof place !== "string") return place;
      return reject(place.startsWith("zone") ? "zone" : place.startsWith("easting") ? "easting" : "northing", place);
    }
    const latDeg = parseAxis(cell("lat"), "lat");
    const lonDeg = parseAxis(cell("lon"), "lon");
    if (latDeg === null) reject("lat", "is not a latitude between −90 and 90°");
    if (lonDeg === null) reject("lon", "is not a longitude between −180 and 180°");
    return latDeg === null || lonDeg === null ? null : { latDeg, lonDeg };
  };

  const kind = readKind(cell("kind"), defaultKind) ?? reject("kind", "must be site or subscriber");
  const name = cell("name");
  if (name === "") reject("name", "is empty");
  else if (name.length > LONGEST_NAME) reject("name", `is longer than ${LONGEST_NAME} characters`);
  const at = position();
  const said: Record<string, string | number | boolean> = {};
  for (const { key, schema } of ROW_COLUMNS) {
    if (cell(key) === "" || PLACED.has(key)) continue;
    const read = readCell(cell(key), bareSchema(schema), decimalComma);
    if ("reason" in read) reject(key, read.reason);
    else said[key] = read.value;
  }
  const { height, maxHeight } = said;
  if (height !== undefined && maxHeight !== undefined && height > maxHeight)
    reject("height", `is above the ${maxHeight} m that the structure offers`);
  return { row, errors, place: errors.length > 0 || !kind || !at ? null : { row, kind, name, ...at, said } };
}
