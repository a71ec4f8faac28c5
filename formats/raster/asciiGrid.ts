import { createReadStream } from "node:fs";
import { crsOf } from "./crs";
import { RasterError } from "./error";
import { HIGHEST_M, LOWEST_M, requireSize, type RasterSource } from "./source";

const HEADER_KEYS = ["ncols", "nrows", "xllcorner", "xllcenter", "yllcorner", "yllcenter", "cellsize", "nodata_value"];
/** A text grid is unpacked whole while it is read; beyond this it belongs in a GeoTIFF. */
const MOST_CELLS = 100_000_000;
const LONGEST_WORD = 64;

/** Words of a text stream with the line each stands on. */
async function* wordsOf(path: string): AsyncGenerator<{ word: string; line: number }[]> {
  let line = 1;
  let rest = "";
  for await (const chunk of createReadStream(path, { encoding: "latin1", highWaterMark: 1 << 20 })) {
    const batch: { word: string; line: number }[] = [];
    const text = rest + (chunk as string);
    let start = -1;
    for (let at = 0; at < text.length; at++) {
      const code = text.charCodeAt(at);
      const isSpace = code === 32 || code === 9 || code === 10 || code === 13;
      if (!isSpace) {
        if (start < 0) start = at;
        else if (at - start > LONGEST_WORD)
          throw new RasterError(
            `line ${line}: "${text.slice(start, start + 30)}…" goes on for over ${LONGEST_WORD} characters; a number was expected`,
          );
        continue;
      }
      if (start >= 0) batch.push({ word: text.slice(start, at), line });
      start = -1;
      if (code === 10) line++;
    }
    rest = start >= 0 ? text.slice(start) : "";
    yield batch;
  }
  if (rest) yield [{ word: rest, line }];
}

/**
 * Opens an ESRI ASCII grid. The header's order is free; corner and centre are both understood. It does not name its
 * system: degrees are taken for EPSG:4326, and a grid in metres needs `epsg` from the user. Throws RasterError for a header
 * out of bounds, too few or too many values, or a height that is no number or outside −12000 to 9000 m.
 */
export async function openAsciiGrid(
  path: string,
  { epsg, values }: { epsg: number | null; values: "heights" | "classes" },
): Promise<RasterSource> {
  const header = new Map<string, number>();
  let cells: Float32Array | null = null;
  let frame: ReturnType<typeof frameOf> | null = null;
  let noData = -9999;
  let count = 0;
  let line = 1;
  let key: string | null = null;
  for await (const batch of wordsOf(path)) {
    for (const { word, line: at } of batch) {
      line = at;
      if (!cells) {
        if (key === null && HEADER_KEYS.includes(word.toLowerCase())) {
          key = word.toLowerCase();
          if (header.has(key)) throw new RasterError(`line ${line}: ${key} stands twice; once was expected`);
          continue;
        }
        if (key !== null) {
          const value = Number(word);
          if (!Number.isFinite(value)) throw new RasterError(`line ${line}: ${key} is "${word}", not a number`);
          header.set(key, value);
          key = null;
          continue;
        }
        frame = frameOf(header, epsg);
        noData = header.get("nodata_value") ?? -9999;
        cells = new Float32Array(frame.columns * frame.rows);
      }
      if (count >= cells.length)
        throw new RasterError(`line ${line}: more values follow after the ${cells.length} that the header announces`);
      const value = Number(word);
      if (value === noData) cells[count++] = NaN;
      else if (Number.isNaN(value) || (values === "heights" && !(value >= LOWEST_M && value <= HIGHEST_M))) {
        const { columns } = frame!;
        throw new RasterError(
          `line ${line}: height "${word}" (row ${Math.floor(count / columns) + 1}, column ${(count % columns) + 1}) must lie between ${LOWEST_M} and ${HIGHEST_M} m`,
        );
      } else cells[count++] = value;
    }
  }
  if (!cells || !frame) {
    frameOf(header, epsg);
    throw new RasterError(`line ${line}: the file ends where its first height was expected`);
  }
  if (count < cells.length)
    throw new RasterError(`line ${line}: the file ends after ${count} of ${cells.length} heights`);
  const { columns } = frame;
  const held = cells;
  return {
    found: `ESRI ASCII grid, ${frame.crs.name}`,
    ...frame,
    readRows: (first, rows) => Promise.resolve(held.slice(first * columns, (first + rows) * columns)),
    close: () => Promise.resolve(),
  };
}

function frameOf(header: Map<string, number>, epsg: number | null) {
  const required = (key: string): number => {
    const value = header.get(key);
    if (value === undefined) throw new RasterError(`the header has no ${key}, which a grid needs`);
    return value;
  };
  const columns = required("ncols");
  const rows = required("nrows");
  requireSize(columns, rows);
  if (columns * rows > MOST_CELLS)
    throw new RasterError(`the header claims ${columns} × ${rows} cells; a text grid may have ${MOST_CELLS}`);
  const cell = required("cellsize");
  if (!(cell > 0)) throw new RasterError(`cellsize is ${cell}; it must be above 0`);
  const edge = (axis: "x" | "y") =>
    header.has(`${axis}llcorner`) ? required(`${axis}llcorner`) : required(`${axis}llcenter`) - cell / 2;
  const west = edge("x");
  const south = edge("y");
  const north = south + rows * cell;
  const inDegrees =
    cell <= 1 && west >= -180.5 && west + columns * cell <= 180.5 + cell && south >= -90.5 && north <= 90.5;
  if (epsg === null && !inDegrees)
    throw new RasterError(
      `the grid reaches from ${west}, ${south} to ${west + columns * cell}, ${north} in cells of ${cell}: these are no degrees`,
      { todo: "Name the coordinate system that it is in." },
    );
  const crs = crsOf(epsg ?? 4326);
  if (crs.isGeographic && !inDegrees)
    throw new RasterError(
      `the grid reaches from ${west}, ${south} to ${west + columns * cell}, ${north}: these are no degrees`,
    );
  return { columns, rows, west, north, cellX: cell, cellY: cell, crs };
}
