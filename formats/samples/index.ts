import { METRICS, pushedSampleSchema, type PushedSample } from "#core/watch";
import { plainIssue } from "#core/plan";
import Papa from "papaparse";
import { decodeText, JsonMeter, readJson } from "../text";
import { refusedUsually } from "../refused";

/** Thrown where samples are not taken; nothing of the file is kept then. */
export class SamplesError extends refusedUsually("Mend the file there and bring it again.") {}

/** Samples that are taken at once. */
export const MOST_SAMPLES = 50_000;

/**
 * Reads samples as devices and collectors send them: JSON, a list of objects {series, at, …figures}, or CSV with a column `series`, one `at`
 * and one for each figure told; a cell left empty is not told. Throws SamplesError naming row, field, value and bound.
 */
export async function readSamples(bytes: Uint8Array, isCsv: boolean): Promise<PushedSample[]> {
  const rows = isCsv ? csvRows(decodeText(bytes).text) : jsonRows(bytes);
  if (rows.length > MOST_SAMPLES)
    throw new SamplesError(`${rows.length} samples; at most ${MOST_SAMPLES} are taken at once`, {
      todo: "Send them in parts.",
    });
  const samples: PushedSample[] = [];
  for (const [index, row] of rows.entries()) {
    // Whoever serves beside this gets a turn.
    if (index % AT_ONCE === AT_ONCE - 1) await new Promise((resolve) => setTimeout(resolve));
    samples.push(sampleOf(row, index + 1));
  }
  return samples;
}
/** Samples that are looked at before others get their turn. */
const AT_ONCE = 2_000;

function sampleOf(row: unknown, number: number): PushedSample {
  const parsed = pushedSampleSchema.safeParse(row);
  if (parsed.success) return parsed.data;
  const [issue] = parsed.error.issues;
  const field = issue!.path.join(".");
  const found =
    field === "" ? "" : `, found ${JSON.stringify((row as Record<string, unknown>)[field])?.slice(0, 60) ?? "nothing"}`;
  throw new SamplesError(`sample ${number}: ${field} ${plainIssue(issue!)}${found}`.replace("  ", " "));
}

function jsonRows(bytes: Uint8Array): unknown[] {
  const tooMuch = new JsonMeter().take(bytes);
  if (tooMuch !== null) throw new SamplesError(`what was sent ${tooMuch}`, { todo: "Send it in parts." });
  const { value, problem } = readJson(decodeText(bytes).text);
  if (problem !== null) throw new SamplesError(`what was sent ${problem}`);
  if (!Array.isArray(value)) throw new SamplesError("a list of samples was expected, such as [{…}, {…}]");
  return value;
}

/** As many samples as are taken at once, with every figure told. */
const MOST_CELLS = MOST_SAMPLES * (METRICS.length + 2);

/** Cells of a CSV text at most, whatever stands between them: counted before anything is made of them. */
function cellsIn(text: string): number {
  let cells = 1;
  for (let i = 0; i < text.length; i++) cells += ENDS_CELL[text.charCodeAt(i)] ?? 0;
  return cells;
}
const ENDS_CELL = new Uint8Array(128);
for (const sign of "\n\r,;\t|\u001e\u001f") ENDS_CELL[sign.charCodeAt(0)] = 1;

const FIGURES: ReadonlySet<string> = new Set(METRICS.map(({ key }) => key));

function csvRows(text: string): unknown[] {
  const cells = cellsIn(text);
  if (cells > MOST_CELLS)
    throw new SamplesError(`${cells} cells; at most ${MOST_CELLS} are taken at once`, { todo: "Send them in parts." });
  const { data, errors } = Papa.parse<string[]>(text, { skipEmptyLines: true });
  const fault = errors.find(({ type }) => type !== "Delimiter");
  if (fault) throw new SamplesError(`row ${(fault.row ?? 0) + 1}: ${fault.message.toLowerCase()}`);
  const [header = [], ...rows] = data;
  const fields = header.map((name) => name.trim());
  for (const needed of ["series", "at"])
    if (!fields.includes(needed))
      throw new SamplesError(
        `a column "${needed}" was expected, found ${fields.filter(Boolean).slice(0, 12).join(", ") || "none"}`,
      );
  const twice = fields.find((name, at) => fields.indexOf(name) !== at);
  if (twice !== undefined) throw new SamplesError(`the column "${twice}" stands twice`);
  return rows.map((cells, row) => {
    if (cells.length > fields.length)
      throw new SamplesError(`row ${row + 2}: ${cells.length} cells under ${fields.length} columns`);
    return Object.fromEntries(
      cells.flatMap((cell, at) => {
        const [name, value] = [fields[at]!, cell.trim()];
        return value === "" ? [] : [[name, FIGURES.has(name) ? Number(value) : value]];
      }),
    );
  });
}
