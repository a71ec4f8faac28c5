import { parseAxis } from "#core/geodesy";
import { MOUNTS, SITE_POWERS } from "#core/plan";
import Papa from "papaparse";

/** A place read from a row, before it is known to be new. Absent fields are left to the plan's defaults. */
export interface ImportedPlace {
  row: number;
  kind: "site" | "subscriber";
  name: string;
  latDeg: number;
  lonDeg: number;
  heightM: number | null;
  maxHeightM: number | null;
  demandMbps: number | null;
  people: number | null;
  mount: (typeof MOUNTS)[number] | null;
  structure: string | null;
  power: (typeof SITE_POWERS)[number] | null;
  isFeed: boolean;
}

/** Why a row, or the file, could not be taken. Row 1 is the header; 0 stands for the whole file. */
export interface RowError {
  row: number;
  field: string;
  value: string;
  reason: string;
}

export interface ReadPlaces {
  places: ImportedPlace[];
  errors: RowError[];
}

/** Names under which people keep each column. */
const HEADERS: Record<string, string[]> = {
  kind: ["kind", "type", "class"],
  name: ["name", "title", "customer", "site"],
  lat: ["lat", "latitude", "y", "latdeg"],
  lon: ["lon", "lng", "long", "longitude", "x", "londeg"],
  height: ["height", "heightm", "antennaheight", "antennaheightm"],
  maxHeight: ["maxheight", "maxheightm", "structureheight", "structureheightm"],
  demand: ["demand", "demandmbps", "mbps", "speed"],
  people: ["people", "persons", "users"],
  mount: ["mount", "mounting"],
  structure: ["structure", "structurekind"],
  power: ["power"],
  feed: ["feed", "isfeed", "uplink"],
};
const REQUIRED = ["kind", "name", "lat", "lon"];
/** Rows read at most; a file beyond it is refused whole rather than cut short. */
export const MOST_ROWS = 50_000;

const plainHeader = (text: string) => text.toLowerCase().replace(/[^a-z]/g, "");

function readNumber(text: string, min: number, max: number): number | string {
  const value = Number(text.trim().replace("−", "-").replace(",", "."));
  if (text.trim() === "" || !Number.isFinite(value)) return "is not a number";
  return value < min || value > max ? `must lie between ${min} and ${max}` : value;
}

function readKind(text: string): ImportedPlace["kind"] | null {
  const word = text.trim().toLowerCase();
  if (["site", "tower", "mast"].includes(word)) return "site";
  return ["subscriber", "customer", "client"].includes(word) ? "subscriber" : null;
}

/**
 * Reads sites and subscribers from CSV text; the delimiter is found out. Rows that cannot be read are left out and
 * listed with row, field, value and reason; the others come through.
 */
export function readPlacesCsv(text: string): ReadPlaces {
  const parsed = Papa.parse<string[]>(text.replace(/^\uFEFF/, ""), { skipEmptyLines: "greedy" });
  const [header, ...rows] = parsed.data;
  const whole = (field: string, value: string, reason: string): ReadPlaces => ({
    places: [],
    errors: [{ row: 0, field, value, reason }],
  });
  if (!header) return whole("file", "", "holds no rows");
  if (rows.length > MOST_ROWS)
    return whole("file", `${rows.length} rows`, `more than ${MOST_ROWS} rows; split the file`);
  const columns = new Map<string, number>();
  header.forEach((title, index) => {
    for (const [field, names] of Object.entries(HEADERS))
      if (names.includes(plainHeader(title)) && !columns.has(field)) columns.set(field, index);
  });
  const missing = REQUIRED.filter((field) => !columns.has(field));
  if (missing.length > 0)
    return whole("header", header.join(", ").slice(0, 200), `has no column for ${missing.join(", ")}`);

  const places: ImportedPlace[] = [];
  const errors: RowError[] = [];
  rows.forEach((cells, index) => {
    const row = index + 2;
    const cell = (field: string) => cells[columns.get(field) ?? -1]?.trim() ?? "";
    const found: RowError[] = [];
    const reject = (field: string, reason: string) =>
      found.push({ row, field, value: cell(field).slice(0, 80), reason });
    const optional = (field: string, min: number, max: number) => {
      if (cell(field) === "") return null;
      const value = readNumber(cell(field), min, max);
      if (typeof value === "number") return value;
      reject(field, value);
      return null;
    };
    const oneOf = <T extends string>(field: string, choices: readonly T[]): T | null => {
      const word = cell(field).toLowerCase() as T;
      if (word === "" || choices.includes(word)) return word === "" ? null : word;
      reject(field, `must be one of ${choices.join(", ")}`);
      return null;
    };
    const kind = readKind(cell("kind"));
    if (!kind) reject("kind", "must be site or subscriber");
    const name = cell("name");
    if (name === "") reject("name", "is empty");
    else if (name.length > 120) reject("name", "is longer than 120 characters");
    const latDeg = parseAxis(cell("lat"), "lat");
    if (latDeg === null) reject("lat", "is not a latitude between −90 and 90°");
    const lonDeg = parseAxis(cell("lon"), "lon");
    if (lonDeg === null) reject("lon", "is not a longitude between −180 and 180°");
    const place = {
      row,
      name,
      heightM: optional("height", 0, 500),
      maxHeightM: optional("maxHeight", 0, 500),
      demandMbps: optional("demand", 0, 100_000),
      people: optional("people", 1, 100_000),
      mount: oneOf("mount", MOUNTS),
      structure: cell("structure") || null,
      power: oneOf("power", SITE_POWERS),
      isFeed: /^(1|y|yes|true|x)$/i.test(cell("feed")),
    };
    if (place.heightM !== null && place.maxHeightM !== null && place.heightM > place.maxHeightM)
      reject("height", `is above the ${place.maxHeightM} m of the structure`);
    if (place.people !== null && !Number.isInteger(place.people)) reject("people", "must be a whole number");
    if (place.structure && place.structure.length > 60) reject("structure", "is longer than 60 characters");
    if (found.length > 0) errors.push(...found);
    else places.push({ ...place, kind: kind!, latDeg: latDeg!, lonDeg: lonDeg! });
  });
  return { places, errors };
}
