import type { PlacesAlong } from "../geodesy";
import { frameContains, groundAt, UNKNOWN_COVER, type Surface } from "./surface";
import { readGround, type GroundSample, type Terrain } from "./terrain";

/** What is known of the ground at many places, in arrays of one length. */
export interface GroundAlong {
  groundAmslM: Float64Array;
  coverHeightM: Float64Array;
  coverCode: Uint8Array;
}

/**
 * Reads ground and cover at many places that follow each other, exactly as `readGround` does for one. The finest raster is
 * read from its blocks in memory; only places that it leaves open are read through the others.
 */
export function readAlong(terrain: Terrain, { latDeg, lonDeg }: PlacesAlong, into: GroundAlong): void {
  const { layers } = terrain;
  const finest = layers[0];
  if (!finest || finest.kind !== "bare" || !finest.surface.blockAt) return readEach(terrain, latDeg, lonDeg, into);
  readBlocks(finest.surface, latDeg, lonDeg, into);
  if (layers.length > 1) readEach(terrain, latDeg, lonDeg, into, true);
}

/** Reads place by place; `onlyOpen` leaves those alone whose ground and cover are known already. */
function readEach(
  terrain: Terrain,
  latDeg: Float64Array,
  lonDeg: Float64Array,
  { groundAmslM, coverHeightM, coverCode }: GroundAlong,
  onlyOpen = false,
): void {
  const sample: GroundSample = { groundAmslM: 0, coverHeightM: 0, coverCode: 0 };
  for (let i = 0; i < latDeg.length; i++) {
    if (onlyOpen && groundAmslM[i] === groundAmslM[i] && coverCode[i] !== 0) continue;
    readGround(terrain, latDeg[i]!, lonDeg[i]!, sample);
    groundAmslM[i] = sample.groundAmslM;
    coverHeightM[i] = sample.coverHeightM;
    coverCode[i] = sample.coverCode;
  }
}

/** One raster of bare ground with its cover, without a call or an object for any sample that lies inside a block. */
function readBlocks(surface: Surface, latDeg: Float64Array, lonDeg: Float64Array, into: GroundAlong): void {
  const { westDeg, northDeg, cellLonDeg, cellLatDeg, columns, rows } = surface.frame;
  const { groundAmslM, coverHeightM, coverCode } = into;
  const columnsPerDeg = 1 / cellLonDeg;
  const rowsPerDeg = 1 / cellLatDeg;
  let cells: Float32Array = groundless;
  let heights: Float32Array | null = null;
  let codes: Uint8Array | null = null;
  // The block in hand, as rows and columns of the grid in which a cell has its right and lower neighbours beside it.
  let firstColumn = 0;
  let firstRow = 0;
  let lastColumn = -1;
  let lastRow = -1;
  let stride = 0;
  for (let i = 0; i < latDeg.length; i++) {
    const column = (lonDeg[i]! - westDeg) * columnsPerDeg - 0.5;
    const row = (northDeg - latDeg[i]!) * rowsPerDeg - 0.5;
    const left = Math.floor(column);
    const top = Math.floor(row);
    if (left < firstColumn || top < firstRow || left >= lastColumn || top >= lastRow) {
      const isOn = left >= 0 && top >= 0 && left < columns && top < rows;
      const block = isOn ? surface.blockAt!(left, top) : undefined;
      if (block) {
        cells = block.groundAmslM;
        heights = block.coverHeightM;
        codes = block.coverCode;
        stride = block.columns;
        firstColumn = block.column;
        firstRow = block.row;
        lastColumn = Math.min(block.column + block.columns, columns) - 1;
        lastRow = Math.min(block.row + block.rows, rows) - 1;
      } else lastColumn = lastRow = -1;
      if (!block || left >= lastColumn || top >= lastRow) {
        readCells(surface, latDeg[i]!, lonDeg[i]!, i, into);
        continue;
      }
    }
    const x = column - left;
    const y = row - top;
    const at = (top - firstRow) * stride + (left - firstColumn);
    const upper = cells[at]! + (cells[at + 1]! - cells[at]!) * x;
    const lower = cells[at + stride]! + (cells[at + stride + 1]! - cells[at + stride]!) * x;
    groundAmslM[i] = upper + (lower - upper) * y;
    coverCode[i] = coverHeightM[i] = 0;
    if (codes === null) continue;
    const near = at + (x >= 0.5 ? 1 : 0) + (y >= 0.5 ? stride : 0);
    const code = codes[near]!;
    if (code === 0 || code === UNKNOWN_COVER) continue;
    coverCode[i] = code;
    if (heights !== null) coverHeightM[i] = heights[near]!;
  }
}

const groundless = new Float32Array(0);

/** One place whose four cells do not lie in one block: on the seam of two tiles, at the edge of the grid, or off it. */
function readCells(surface: Surface, latDeg: number, lonDeg: number, i: number, into: GroundAlong): void {
  const { frame } = surface;
  into.groundAmslM[i] = groundAt(surface, latDeg, lonDeg);
  let code = 0;
  if (frameContains(frame, latDeg, lonDeg)) {
    const column = Math.min(Math.floor((lonDeg - frame.westDeg) / frame.cellLonDeg), frame.columns - 1);
    const row = Math.min(Math.floor((frame.northDeg - latDeg) / frame.cellLatDeg), frame.rows - 1);
    code = surface.coverCode(column, row);
    if (code === UNKNOWN_COVER) code = 0;
    into.coverHeightM[i] = code === 0 ? 0 : surface.coverHeightM(column, row);
  } else into.coverHeightM[i] = 0;
  into.coverCode[i] = code;
}
