import Papa from "papaparse";

/**
 * What a spreadsheet may run: signs that begin a formula, full-width ones among them, behind blanks of any kind, apostrophes and what parts
 * fields: a table that is read again with another separator begins a cell there.
 */
const SIGNS = "=+\\-@\\uFF1D\\uFF0B\\uFF0D\\uFF20\\u2212";
const BEFORE = "[\\s\\u00A0\\u200B\\uFEFF']*";
const RUNS = new RegExp(`^${BEFORE}[${SIGNS}]|[;,\\t|\\r\\n]${BEFORE}[${SIGNS}]|^'*[\\t\\r\\n]`, "u");

/**
 * A cell that no spreadsheet runs: text that begins like a formula gets an apostrophe in front. A plain number, which
 * may begin with a sign, is left alone.
 */
export function csvCell(value: string | number | boolean | null | undefined): string {
  if (value === null || value === undefined) return "";
  if (typeof value !== "string") return String(value);
  return RUNS.test(value) && !/^[+-]?\d+([.,]\d+)?$/.test(value) ? `'${value}` : value;
}

/** Takes back what `csvCell` put in front. */
export function withoutGuard(text: string): string {
  return text.startsWith("'") && RUNS.test(text.slice(1)) ? text.slice(1) : text;
}

/** CSV text with a header, one record a row, lines ended as spreadsheets expect (RFC 4180). */
export function writeCsv(
  columns: readonly string[],
  records: Iterable<readonly (string | number | boolean | null | undefined)[]>,
): string {
  const data = [...records].map((record) => record.map(csvCell));
  return `${Papa.unparse([[...columns], ...data], { newline: "\r\n" })}\r\n`;
}

const SAMPLE_LINES = 12;

/**
 * The delimiter of a table: the first of tab, semicolon, bar and comma that parts every one of the first lines into the
 * same number of cells, two or more. The comma comes last, for it may be the decimal mark. Undefined where none does.
 */
export function guessDelimiter(text: string): string | undefined {
  const lines = text
    .split(/\r?\n/)
    .filter((line) => line.trim() !== "")
    .slice(0, SAMPLE_LINES)
    .map((line) => line.replace(/"[^"]*"/g, ""));
  return ["\t", ";", "|", ","].find((mark) => {
    const counts = new Set(lines.map((line) => line.split(mark).length));
    return counts.size === 1 && !counts.has(1);
  });
}
