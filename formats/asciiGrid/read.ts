import type { GridFrame } from "#core/terrain";

/** What an ESRI ASCII grid holds: a frame in degrees and heights from the north-west on, NaN where there are none. */
export interface AsciiGrid {
  frame: GridFrame;
  groundAmslM: Float32Array;
}

/** Said when a grid cannot be read; the message names the line and what was found there. */
export class AsciiGridError extends Error {}

/** Cells taken at most: 400 MB of heights. */
const MOST_CELLS = 100_000_000;
const HEADER_KEYS = ["ncols", "nrows", "xllcorner", "xllcenter", "yllcorner", "yllcenter", "cellsize", "nodata_value"];
const LOWEST_M = -500;
const HIGHEST_M = 9000;

const isSpace = (code: number) => code === 32 || code === 9 || code === 10 || code === 13;

/**
 * Reads an ESRI ASCII grid in geographic coordinates (degrees). The header's order is free; corner and centre are
 * both understood. Throws AsciiGridError for a header out of bounds, too few or too many values, or a height that is
 * no number or outside −500 to 9000 m.
 */
export function readAsciiGrid(text: string): AsciiGrid {
  let at = 0;
  let line = 1;
  const nextWord = (): string | null => {
    while (at < text.length && isSpace(text.charCodeAt(at))) if (text.charCodeAt(at++) === 10) line++;
    if (at >= text.length) return null;
    const start = at;
    while (at < text.length && !isSpace(text.charCodeAt(at))) at++;
    return text.slice(start, at);
  };

  const header = new Map<string, number>();
  for (;;) {
    const mark = at;
    const markLine = line;
    const key = nextWord()?.toLowerCase();
    if (!key || !HEADER_KEYS.includes(key)) {
      at = mark;
      line = markLine;
      break;
    }
    const word = nextWord();
    const value = Number(word);
    if (word === null || !Number.isFinite(value))
      throw new AsciiGridError(`line ${line}: ${key} is "${word ?? ""}", not a number`);
    if (header.has(key)) throw new AsciiGridError(`line ${line}: ${key} stands twice`);
    header.set(key, value);
  }
  const frame = frameOf(header);
  const noData = header.get("nodata_value") ?? -9999;
  const count = frame.columns * frame.rows;
  const groundAmslM = new Float32Array(count);
  for (let i = 0; i < count; i++) {
    const word = nextWord();
    if (word === null) throw new AsciiGridError(`line ${line}: the file ends after ${i} of ${count} heights`);
    const value = Number(word);
    if (value === noData) groundAmslM[i] = NaN;
    else if (!(value >= LOWEST_M && value <= HIGHEST_M)) {
      throw new AsciiGridError(
        `line ${line}: height "${word.slice(0, 40)}" (row ${Math.floor(i / frame.columns) + 1}, column ${(i % frame.columns) + 1}) must lie between ${LOWEST_M} and ${HIGHEST_M} m`,
      );
    } else groundAmslM[i] = value;
  }
  if (nextWord() !== null)
    throw new AsciiGridError(`line ${line}: more values follow after the ${count} that the header announces`);
  return { frame, groundAmslM };
}

function frameOf(header: Map<string, number>): GridFrame {
  const required = (key: string): number => {
    const value = header.get(key);
    if (value === undefined) throw new AsciiGridError(`the header has no ${key}`);
    return value;
  };
  const columns = required("ncols");
  const rows = required("nrows");
  for (const [key, value] of [
    ["ncols", columns],
    ["nrows", rows],
  ] as const) {
    if (!Number.isInteger(value) || value < 1)
      throw new AsciiGridError(`${key} is ${value}; it must be a whole number of at least 1`);
  }
  if (columns * rows > MOST_CELLS)
    throw new AsciiGridError(`the header claims ${columns} × ${rows} cells; at most ${MOST_CELLS} are taken`);
  const cell = required("cellsize");
  if (!(cell > 0)) throw new AsciiGridError(`cellsize is ${cell}; it must be above 0`);
  if (cell > 1)
    throw new AsciiGridError(
      `cellsize is ${cell}; only grids in degrees are read, and no cell of a terrain is over 1°`,
    );
  const edge = (axis: "x" | "y") =>
    header.has(`${axis}llcorner`) ? required(`${axis}llcorner`) : required(`${axis}llcenter`) - cell / 2;
  const westDeg = edge("x");
  const southDeg = edge("y");
  const northDeg = southDeg + rows * cell;
  if (westDeg < -180.5 || westDeg + columns * cell > 180.5 + cell || southDeg < -90.5 || northDeg > 90.5) {
    throw new AsciiGridError(
      `the grid reaches from ${westDeg}, ${southDeg} to ${westDeg + columns * cell}, ${northDeg}; it must lie between −180 and 180, −90 and 90`,
    );
  }
  return { westDeg, northDeg, cellLonDeg: cell, cellLatDeg: cell, columns, rows };
}
