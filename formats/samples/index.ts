import { METRICS, pushedSampleSchema, type PushedSample } from "#core/watch";
import { plainIssue } from "#core/plan";
import Papa from "papaparse";
import { decodeText, readJson } from "../text";

/** Thrown for samples that cannot be read, with the place that is wrong: nothing of them is kept then. */
export class SamplesError extends Error {}

/** Samples that are taken at once. */
export const MOST_SAMPLES = 50_000;

/**
 * Reads samples as devices and collectors send them: JSON, a list of objects {series, at, …figures}, or CSV with a column `series`, one `at`
 * and one for each figure told; a cell left empty is not told. Throws SamplesError naming row, field, value and bound.
 */
export function readSamples(bytes: Uint8Array, isCsv: boolean): PushedSample[] {
  const rows = isCsv ? csvRows(decodeText(bytes).text) : jsonRows(bytes);
  if (rows.length > MOST_SAMPLES)
    throw new SamplesError(`${rows.length} samples; at most ${MOST_SAMPLES} are taken at once: send them in parts`);
  return rows.map((row, index) => {
    const parsed = pushedSampleSchema.safeParse(row);
    if (parsed.success) return parsed.data;
    const [issue] = parsed.error.issues;
    const field = issue!.path.join(".");
    const found =
      field === ""
        ? ""
        : `, found ${JSON.stringify((row as Record<string, unknown>)[field])?.slice(0, 60) ?? "nothing"}`;
    throw new SamplesError(`sample ${index + 1}: ${field} ${plainIssue(issue!)}${found}`.replace("  ", " "));
  });
}

function jsonRows(bytes: Uint8Array): unknown[] {
  const { value, problem } = readJson(decodeText(bytes).text);
  if (problem !== null) throw new SamplesError(`what was sent ${problem}`);
  if (!Array.isArray(value)) throw new SamplesError("a list of samples was expected, such as [{…}, {…}]");
  return value;
}

const FIGURES: ReadonlySet<string> = new Set(METRICS.map(({ key }) => key));

function csvRows(text: string): unknown[] {
  const { data, errors, meta } = Papa.parse<Record<string, string>>(text, { header: true, skipEmptyLines: true });
  const fault = errors.find(({ type }) => type !== "Delimiter");
  if (fault) throw new SamplesError(`row ${(fault.row ?? 0) + 2}: ${fault.message.toLowerCase()}`);
  const fields = meta.fields ?? [];
  for (const needed of ["series", "at"])
    if (!fields.includes(needed))
      throw new SamplesError(`a column "${needed}" was expected, found ${fields.slice(0, 12).join(", ") || "none"}`);
  return data.map((row) =>
    Object.fromEntries(
      Object.entries(row).flatMap(([key, cell]) =>
        cell.trim() === "" ? [] : [[key, FIGURES.has(key) ? Number(cell) : cell.trim()]],
      ),
    ),
  );
}
