import Papa from "papaparse";
import { partSchema, plainIssue, type Part } from "#core/plan";
import { decodeText, guessDelimiter, parseNumber, usesDecimalComma, withoutGuard, writeCsv } from "../text";
import { MOST_ERRORS, type KitError, type ReadKit } from "./error";

/** A table of parts: one row a part. See docs/formats.md. */
const PARTS_CSV_COLUMNS = [
  ...["id", "maker", "model", "kind", "unit", "packOf", "priceEur", "weightKg", "poleFromMm", "poleToMm"],
  ...["standard", "volts", "watts", "ampereHours", "ports", "crossSectionMm2", "deliveryDays", "notes"],
] as const;
const TEXTS = new Set(["id", "maker", "model", "kind", "unit", "standard", "notes"]);
const NEEDED = ["maker", "model", "kind", "priceEur"];
const MOST_PARTS = 2000;

/** Whether a file's first line names the columns of a table of parts. */
export function isPartsCsv(bytes: Uint8Array): boolean {
  const [first = ""] = decodeText(bytes).text.split(/\r?\n/, 1);
  return NEEDED.every((name) => first.toLowerCase().includes(name.toLowerCase()));
}

/** Parts as a table; `readPartsCsv` reads it back the same. */
export function writePartsCsv(parts: readonly Part[]): string {
  return writeCsv(
    PARTS_CSV_COLUMNS,
    parts.map(({ poleMm, ...part }) =>
      PARTS_CSV_COLUMNS.map((column) =>
        column === "poleFromMm"
          ? (poleMm?.[0] ?? null)
          : column === "poleToMm"
            ? (poleMm?.[1] ?? null)
            : (part as unknown as Record<string, string | number | null>)[column]!,
      ),
    ),
  );
}

/** Reads a table of parts, or names every row and field that cannot be taken. A row without an id gets one from `makeId`. */
export function readPartsCsv(bytes: Uint8Array, makeId: () => string): ReadKit<Part[]> {
  const text = decodeText(bytes).text.replace(/^\uFEFF/, "");
  const { data } = Papa.parse<string[]>(text, { skipEmptyLines: "greedy", delimiter: guessDelimiter(text) ?? "," });
  const errors: KitError[] = [];
  const fault = (row: number, field: string, value: string, reason: string) => {
    if (errors.length < MOST_ERRORS) errors.push({ row, field, value: value.slice(0, 80), reason });
  };
  const header = (data[0] ?? []).map((cell) => cell.trim());
  for (const name of NEEDED)
    if (!header.includes(name)) fault(1, "header", header.join(","), `lacks the column ${name}`);
  if (data.length - 1 > MOST_PARTS) fault(0, "file", `${data.length - 1} rows`, `more than ${MOST_PARTS} rows`);
  if (errors.length > 0) return { item: null, errors };
  const decimalComma = usesDecimalComma(data.slice(1).flat());
  const ids = new Set<string>();
  const parts: Part[] = [];
  for (const [i, cells] of data.slice(1).entries()) {
    const row = i + 2;
    const cell = (name: string) => withoutGuard((cells[header.indexOf(name)] ?? "").trim());
    const raw: Record<string, unknown> = {};
    for (const name of PARTS_CSV_COLUMNS) {
      if (cell(name) === "") continue;
      raw[name] = TEXTS.has(name) ? cell(name) : parseNumber(cell(name), decimalComma);
    }
    const { poleFromMm, poleToMm, ...rest } = raw;
    const hasPole = poleFromMm !== undefined || poleToMm !== undefined;
    const parsed = partSchema.safeParse({
      ...{ id: makeId(), weightKg: 0 },
      ...rest,
      ...(hasPole && { poleMm: [poleFromMm, poleToMm] }),
    });
    if (!parsed.success) {
      for (const issue of parsed.error.issues) {
        const field = String(issue.path[0] ?? "row");
        const named = field === "poleMm" ? (issue.path[1] === 1 ? "poleToMm" : "poleFromMm") : field;
        fault(row, named, cell(named), plainIssue(issue));
      }
      continue;
    }
    if (ids.has(parsed.data.id)) fault(row, "id", parsed.data.id, "stands twice");
    ids.add(parsed.data.id);
    parts.push(parsed.data);
  }
  if (errors.length > 0) return { item: null, errors };
  return parts.length > 0
    ? { item: parts, errors: [] }
    : { item: null, errors: [{ row: 0, field: "file", value: "", reason: "holds no part" }] };
}
