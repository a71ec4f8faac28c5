import { parseAxis, type Place } from "#core/geodesy";
import { GLAZINGS, MOUNTS, SITE_POWERS, SUBSCRIBER_STATUSES } from "#core/plan";
import type { ReadPlace } from "#core/survey";
import { parseNumber } from "../text";
import type { Mapping, PlaceField } from "./fields";
import { parsePosition, utmToPlace } from "./position";
import type { SourceTable } from "./table";

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
  const cell = (field: PlaceField) => cells[mapping[field] ?? -1]?.trim() ?? "";
  const reject = (field: PlaceField, reason: string) => {
    errors.push({ row, field, value: cell(field).slice(0, 80), reason });
    return null;
  };
  const number = (field: PlaceField, min: number, max: number, whole = false): number | null => {
    if (cell(field) === "") return null;
    const value = parseNumber(cell(field), decimalComma);
    if (Number.isNaN(value)) return reject(field, "is not a number");
    if (value < min || value > max) return reject(field, `must lie between ${min} and ${max}`);
    return whole && !Number.isInteger(value) ? reject(field, "must be a whole number") : value;
  };
  const oneOf = <T extends string>(field: PlaceField, choices: readonly T[]): T | null => {
    const word = cell(field).toLowerCase().replace(/\s+/g, "_") as T;
    if (word === "") return null;
    return choices.includes(word) ? word : reject(field, `must be one of ${choices.join(", ")}`);
  };
  const text = (field: PlaceField, most: number): string | null => {
    if (cell(field).length > most) return reject(field, `is longer than ${most} characters`);
    return cell(field) || null;
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
  else if (name.length > 120) reject("name", "is longer than 120 characters");
  const at = position();
  const fields = {
    heightM: number("height", 0, 500),
    maxHeightM: number("maxHeight", 0, 500),
    demandMbps: number("demand", 0, 100_000),
    demandUpMbps: number("demandUp", 0, 100_000),
    tier: text("tier", 60),
    status: oneOf("status", SUBSCRIBER_STATUSES),
    people: number("people", 1, 100_000, true),
    mount: oneOf("mount", MOUNTS),
    behind: oneOf("behind", GLAZINGS),
    structure: text("structure", 60),
    poleMm: number("pole", 10, 2000),
    power: oneOf("power", SITE_POWERS),
    freeMounts: number("mounts", 0, 99, true),
    isFeed: cell("feed") === "" ? null : /^(1|y|yes|true|x)$/i.test(cell("feed")),
    feedMbps: number("feedMbps", 0, 1_000_000),
    access: text("access", 1000),
    terms: text("terms", 1000),
    hazards: text("hazards", 1000),
    notes: text("notes", 4000),
  };
  if (fields.heightM !== null && fields.maxHeightM !== null && fields.heightM > fields.maxHeightM)
    reject("height", `is above the ${fields.maxHeightM} m that the structure offers`);
  return { row, errors, place: errors.length > 0 || !kind || !at ? null : { row, kind, name, ...at, ...fields } };
}
