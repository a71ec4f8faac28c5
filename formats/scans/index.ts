import type { Scan } from "#core/plan";
import type { RowError } from "../places";
import { decodeText, guessDelimiter, parseNumber, usesDecimalComma, withoutGuard } from "../text";
import Papa from "papaparse";

/** What rows of a scan file that do not say are taken to mean. */
export type ScanDefaults = Pick<
  Scan,
  "planId" | "siteId" | "headingDeg" | "beamwidthDeg" | "gainDbi" | "polarization" | "scannedAt" | "source" | "binKHz"
>;

interface ReadScans {
  scans: Scan[];
  errors: RowError[];
}

const HEADERS: Record<string, string[]> = {
  frequency: ["frequency", "frequencymhz", "freq", "freqmhz", "mhz", "f"],
  level: ["level", "leveldbm", "dbm", "power", "rssi", "noise"],
  site: ["site", "place"],
  heading: ["heading", "headingdeg", "azimuth", "azimuthdeg", "bearing"],
  polarization: ["polarization", "pol"],
  time: ["time", "scannedat", "date", "timestamp"],
  bin: ["bin", "binkhz", "rbw", "rbwkhz"],
};
const plain = (text: string) => text.toLowerCase().replace(/[^a-z]/g, "");
const MOST_ROWS = 500_000;
const MOST_POINTS = 20_000;

/**
 * Reads a noise scan: a header, then one frequency (MHz) and level (dBm) a row; site (by name), heading (true degrees),
 * polarization (H or V), time (ISO 8601) and bin (kHz) where they are given, else from `defaults`. Rows of one site, heading,
 * polarization and time make one scan, sorted by frequency. Two bare columns of numbers will do.
 */
export function readScans(
  bytes: Uint8Array,
  defaults: ScanDefaults,
  siteIdByName: ReadonlyMap<string, string>,
  makeId: () => string,
): ReadScans {
  const text = decodeText(bytes).text.replace(/^\uFEFF/, "");
  const { data } = Papa.parse<string[]>(text, { skipEmptyLines: "greedy", delimiter: guessDelimiter(text) ?? "" });
  const errors: RowError[] = [];
  const whole = (value: string, reason: string): ReadScans => ({
    scans: [],
    errors: [{ row: 0, field: "file", value, reason }],
  });
  if (data.length === 0) return whole("", "holds no rows");
  if (data.length > MOST_ROWS) return whole(`${data.length} rows`, `more than ${MOST_ROWS} rows; split the file`);
  const first = data[0]!;
  const decimalComma = usesDecimalComma(data.slice(0, 200).flat());
  const bare = first.length >= 2 && first.slice(0, 2).every((cell) => !Number.isNaN(parseNumber(cell, decimalComma)));
  const columns = new Map<string, number>(
    bare
      ? [
          ["frequency", 0],
          ["level", 1],
        ]
      : [],
  );
  if (!bare)
    first.forEach((title, index) => {
      for (const [field, names] of Object.entries(HEADERS))
        if (names.includes(plain(title)) && !columns.has(field)) columns.set(field, index);
    });
  const missing = ["frequency", "level"].filter((field) => !columns.has(field));
  if (missing.length > 0) return whole(first.join(", ").slice(0, 120), `has no column for ${missing.join(" and ")}`);

  const groups = new Map<
    string,
    { scan: Omit<Scan, "id" | "frequenciesMHz" | "levelsDbm">; points: [number, number][] }
  >();
  data.slice(bare ? 0 : 1).forEach((cells, index) => {
    const row = index + (bare ? 1 : 2);
    const cell = (field: string) => withoutGuard(cells[columns.get(field) ?? -1]?.trim() ?? "");
    const found: RowError[] = [];
    const reject = (field: string, reason: string) => {
      found.push({ row, field, value: cell(field).slice(0, 80), reason });
      return NaN;
    };
    const number = (field: string, min: number, max: number, fallback?: number): number => {
      if (cell(field) === "" && fallback !== undefined) return fallback;
      const value = parseNumber(cell(field), decimalComma);
      return value >= min && value <= max ? value : reject(field, `must be a number between ${min} and ${max}`);
    };
    const frequencyMHz = number("frequency", 1, 300_000);
    const levelDbm = number("level", -200, 30);
    const headingDeg = number("heading", 0, 360, defaults.headingDeg);
    const binKHz = number("bin", 0.1, 1_000_000, defaults.binKHz);
    const siteId = cell("site") === "" ? defaults.siteId : siteIdByName.get(cell("site").toLowerCase());
    if (!siteId) reject("site", "names no site of the plan");
    const letter = cell("polarization").toUpperCase();
    if (!["", "H", "V"].includes(letter)) reject("polarization", "must be H or V");
    const at = cell("time") === "" ? new Date(defaults.scannedAt) : new Date(cell("time"));
    if (Number.isNaN(at.getTime())) reject("time", "is not a time like 2026-11-24T10:00:00Z");
    if (found.length > 0) return void errors.push(...found);
    const polarization = (letter || defaults.polarization) as Scan["polarization"];
    const key = [siteId, headingDeg, polarization, at.getTime(), binKHz].join(" ");
    const group = groups.get(key) ?? {
      scan: { ...defaults, siteId: siteId!, headingDeg, polarization, binKHz, scannedAt: at.toISOString() },
      points: [],
    };
    group.points.push([frequencyMHz, levelDbm]);
    groups.set(key, group);
  });
  const scans: Scan[] = [];
  for (const { scan, points } of groups.values()) {
    points.sort(([x], [y]) => x - y);
    const distinct = points.filter(([frequency], i) => i === 0 || frequency > points[i - 1]![0]);
    if (distinct.length > MOST_POINTS) {
      errors.push({
        row: 0,
        field: "file",
        value: `${distinct.length} levels`,
        reason: `one scan may have ${MOST_POINTS}`,
      });
      continue;
    }
    scans.push({
      id: makeId(),
      ...scan,
      frequenciesMHz: distinct.map(([frequency]) => frequency),
      levelsDbm: distinct.map(([, level]) => level),
    });
  }
  return { scans, errors };
}
