import { decodeText, guessDelimiter, usesDecimalComma, withoutGuard } from "../text";
import Papa from "papaparse";
import { unzipWithin, ZipRefused } from "../zip";
import { geojsonTable } from "./geojson";
import { PlacesFileError, type SourceTable } from "./table";
import { xmlTable } from "./xml";

/** Rows read at most; a file beyond it is refused whole rather than cut short. */
const MOST_ROWS = 50_000;
const MOST_COLUMNS = 200;
const MOST_CELL = 4000;

function csvTable(text: string, encoding: string): SourceTable {
  const plain = text.replace(/^\uFEFF/, "");
  const parsed = Papa.parse<string[]>(plain, { skipEmptyLines: false, delimiter: guessDelimiter(plain) ?? "" });
  const words: Record<string, string> = { ",": "comma", ";": "semicolon", "\t": "tab", "|": "bar" };
  let header: string[] | null = null;
  const rows: SourceTable["rows"] = [];
  parsed.data.forEach((cells, index) => {
    if (cells.every((cell) => cell.trim() === "")) return;
    const clean = cells.map((cell) => withoutGuard(cell.trim()).slice(0, MOST_CELL));
    if (header) rows.push({ row: index + 1, cells: clean });
    else header = clean;
  });
  if (!header) throw new PlacesFileError("the file holds no rows; a row of names and one of values were expected");
  const decimalComma = usesDecimalComma(rows.slice(0, 500).flatMap(({ cells }) => cells));
  const delimiter = words[parsed.meta.delimiter] ?? `"${parsed.meta.delimiter}"`;
  return {
    found: `CSV, ${delimiter}-separated, ${encoding}${decimalComma ? ", decimal comma" : ""}`,
    columns: header,
    rows,
    decimalComma,
  };
}

function textTable(text: string, encoding: string): SourceTable {
  const start = text.trimStart().slice(0, 200);
  if (start.startsWith("{") || start.startsWith("[")) return geojsonTable(text);
  if (start.startsWith("<")) return xmlTable(text);
  return csvTable(text, encoding);
}

/**
 * Reads CSV, GeoJSON, KML, KMZ or GPX into a table; which it is, is told by the content. Throws PlacesFileError naming
 * what is wrong and where; at most 50 000 rows of 200 columns are taken.
 */
export function readTable(bytes: Uint8Array): SourceTable {
  let table: SourceTable;
  if (bytes[0] === 0x50 && bytes[1] === 0x4b) {
    try {
      const files = unzipWithin(bytes, { totalBytes: 64e6, entries: 200, wanted: (name) => /\.kml$/i.test(name) });
      const [name, data] = [...files].sort(([x], [y]) => x.length - y.length)[0] ?? [];
      if (!name || !data) throw new PlacesFileError("the archive holds no .kml, which a KMZ has");
      table = xmlTable(decodeText(data).text);
    } catch (error) {
      if (error instanceof ZipRefused) throw new PlacesFileError(error.message, { todo: error.todo });
      throw error;
    }
  } else {
    const { text, encoding } = decodeText(bytes);
    if (text.includes("\0")) throw new PlacesFileError(`byte ${text.indexOf("\0")} is zero; text was expected`);
    table = textTable(text, encoding);
  }
  if (table.rows.length > MOST_ROWS)
    throw new PlacesFileError(`the file has ${table.rows.length} rows; at most ${MOST_ROWS} are taken`, {
      todo: "Split it and bring it in parts.",
    });
  if (table.columns.length > MOST_COLUMNS)
    throw new PlacesFileError(`the file has ${table.columns.length} columns; at most ${MOST_COLUMNS} are taken`, {
      todo: "Leave out the columns that name no place.",
    });
  return table;
}

/** Pasted text: as a file, but a first line that is no header is a row, and its columns are numbered. */
export function readPasted(text: string): SourceTable {
  const table = readTable(new TextEncoder().encode(text));
  const looksLikeData = table.found.startsWith("CSV") && table.columns.some((cell) => /\d[.,°]\d|^-?\d+$/.test(cell));
  if (!looksLikeData) return table;
  return {
    ...table,
    columns: table.columns.map((_, index) => `column ${index + 1}`),
    rows: [{ row: 1, cells: table.columns }, ...table.rows],
  };
}
