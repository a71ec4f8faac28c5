import type { CellLosses, CellWindow, CoverageGrid } from "#core/coverage";
import { sideOf } from "#core/coverage";

/** Losses travel in hundredths of a decibel, 0 where nothing is known; tilts in hundredths of a degree. */
const PER_DB = 100;
const PER_DEG = 100;

/** The losses of a window of a grid's cells: three arrays of 16 bits each, one after another. */
export function lossesToWire(grid: CoverageGrid, losses: CellLosses, window: CellWindow): Uint8Array {
  const side = sideOf(grid);
  const [firstColumn, endColumn] = window.columns;
  const [firstRow, endRow] = window.rows;
  const count = (endColumn - firstColumn) * (endRow - firstRow);
  const loss = new Uint16Array(count);
  const diffraction = new Uint16Array(count);
  const tilt = new Int16Array(count);
  let at = 0;
  for (let row = firstRow; row < endRow; row++)
    for (let column = firstColumn; column < endColumn; column++, at++) {
      const cell = row * side + column;
      const lossDb = losses.lossDb[cell]!;
      if (lossDb !== lossDb) continue;
      loss[at] = Math.max(1, Math.round(lossDb * PER_DB));
      diffraction[at] = Math.round(losses.diffractionDb[cell]! * PER_DB);
      tilt[at] = Math.round(losses.tiltDownDeg[cell]! * PER_DEG);
    }
  const bytes = new Uint8Array(6 * count);
  [loss, diffraction, tilt].forEach((array, i) => bytes.set(new Uint8Array(array.buffer), i * 2 * count));
  return bytes;
}

/** Puts the losses that came for a window into those of the whole grid. RangeError where they are not of that window. */
export function lossesFromWire(bytes: ArrayBuffer, grid: CoverageGrid, window: CellWindow, into: CellLosses): void {
  const side = sideOf(grid);
  const [firstColumn, endColumn] = window.columns;
  const [firstRow, endRow] = window.rows;
  const count = (endColumn - firstColumn) * (endRow - firstRow);
  if (bytes.byteLength !== 6 * count)
    throw new RangeError(`the losses are ${bytes.byteLength} bytes; this window has ${6 * count}`);
  const loss = new Uint16Array(bytes, 0, count);
  const diffraction = new Uint16Array(bytes, 2 * count, count);
  const tilt = new Int16Array(bytes, 4 * count, count);
  let at = 0;
  for (let row = firstRow; row < endRow; row++)
    for (let column = firstColumn; column < endColumn; column++, at++) {
      if (loss[at] === 0) continue;
      const cell = row * side + column;
      into.lossDb[cell] = loss[at]! / PER_DB;
      into.diffractionDb[cell] = diffraction[at]! / PER_DB;
      into.tiltDownDeg[cell] = tilt[at]! / PER_DEG;
    }
}
