import type { PlacesAlong } from "../geodesy";
import {
  blockOf,
  coverCodeIn,
  coverHeightIn,
  columnOf,
  rowOf,
  frameContains,
  groundAt,
  HOLE,
  startOf,
  UNKNOWN_COVER,
  type Surface,
} from "./surface";
import { readGround, type GroundSample, type Terrain } from "./terrain";

/** What is known of the ground at many places, in arrays of one length. */
interface GroundAlong {
  groundAmslM: Float64Array;
  coverHeightM: Float64Array;
  coverCode: Uint8Array;
}

/** What was met on the way. */
interface Met {
  /** The steps, by the sample that they lead to, that may go over the corner of a covered cell without a sample in it; null where any may. */
  corners: number[] | null;
  /** The ground of some place is not known. */
  hasHole: boolean;
}

/**
 * Reads ground and cover at many places that follow each other, as `readGround` does for one. The finest raster is read from
 * its blocks in memory; only places that it leaves open are read through the others.
 */
export function readAlong(
  terrain: Terrain,
  { latDeg, lonDeg }: PlacesAlong,
  into: GroundAlong,
  count = latDeg.length,
): Met {
  const { layers } = terrain;
  const finest = layers[0];
  if (!finest || finest.kind !== "bare") return readEach(terrain, latDeg, lonDeg, into, count);
  const met = readBlocks(finest.surface, latDeg, lonDeg, into, count);
  return layers.length === 1 ? met : readEach(terrain, latDeg, lonDeg, into, count, true);
}

/** Reads place by place; `onlyOpen` leaves those alone whose ground and cover are known already. */
function readEach(
  terrain: Terrain,
  latDeg: Float64Array,
  lonDeg: Float64Array,
  { groundAmslM, coverHeightM, coverCode }: GroundAlong,
  count: number,
  onlyOpen = false,
): Met {
  let hasHole = false;
  const sample: GroundSample = { groundAmslM: 0, coverHeightM: 0, coverCode: 0 };
  for (let i = 0; i < count; i++) {
    if (onlyOpen && groundAmslM[i] === groundAmslM[i] && coverCode[i] !== 0) continue;
    readGround(terrain, latDeg[i]!, lonDeg[i]!, sample);
    groundAmslM[i] = sample.groundAmslM;
    coverHeightM[i] = sample.coverHeightM;
    coverCode[i] = sample.coverCode;
    hasHole ||= Number.isNaN(sample.groundAmslM);
  }
  return { corners: null, hasHole };
}

/** One raster of bare ground with its cover. */
function readBlocks(
  surface: Surface,
  latDeg: Float64Array,
  lonDeg: Float64Array,
  into: GroundAlong,
  count: number,
): Met {
  const { westDeg, northDeg, columns, rows, cellLonDeg, cellLatDeg } = surface.frame;
  const { blockColumns, blockRows } = surface;
  const corners: number[] = [];
  const block: Block = {
    start: HOLE,
    firstColumn: 0,
    firstRow: 0,
    lastColumn: -1,
    lastRow: -1,
    overCorner: false,
    hasHole: false,
  };
  let i = 0;
  while (i < count) {
    const east = (lonDeg[i]! - westDeg) * (1 / cellLonDeg) - 0.5;
    const south = (northDeg - latDeg[i]!) * (1 / cellLatDeg) - 0.5;
    const isOn = east >= 0 && south >= 0 && east < columns && south < rows;
    const column = east | 0;
    const row = south | 0;
    block.start = isOn ? startOf(surface, blockOf(surface, column, row)) : HOLE;
    if (block.start !== HOLE) {
      block.firstColumn = column - (column % blockColumns);
      block.firstRow = row - (row % blockRows);
      block.lastColumn = Math.min(block.firstColumn + blockColumns, columns) - 1;
      block.lastRow = Math.min(block.firstRow + blockRows, rows) - 1;
    }
    if (block.start === HOLE || column >= block.lastColumn || row >= block.lastRow) {
      readCells(surface, latDeg[i]!, lonDeg[i]!, i, into);
      if (Number.isNaN(into.groundAmslM[i]!)) block.hasHole = true;
      corners.push(i);
      i++;
      continue;
    }
    // The step into a block may come over a corner of another.
    if (i > 0) corners.push(i);
    const end = readGroundInBlock(surface, block, latDeg, lonDeg, into.groundAmslM, i, count);
    while (i < end) {
      i = readCoverInBlock(surface, block, latDeg, lonDeg, into, i, end);
      if (block.overCorner) corners.push(i - 1);
    }
  }
  return { corners, hasHole: block.hasHole };
}

/** A block of a surface, as rows and columns of the grid in which a cell has its right and lower neighbours beside it. */
interface Block {
  /** Index of its first cell in the surface's arrays. */
  start: number;
  firstColumn: number;
  firstRow: number;
  lastColumn: number;
  lastRow: number;
  /** The last sample that was read is stepped to over the corner of a cell in which something taller stands. */
  overCorner: boolean;
  /** The ground of some sample read so far is not known. */
  hasHole: boolean;
}

// The two loops below have no call in them, and are two: each then works with few enough arrays for a processor's registers.

/** Reads the ground from sample `first` on, up to the first that lies outside the block; gives that one's index. */
function readGroundInBlock(
  { frame, blockColumns: stride, groundAmslM: cells }: Surface,
  block: Block,
  latDeg: Float64Array,
  lonDeg: Float64Array,
  groundAmslM: Float64Array,
  first: number,
  count: number,
): number {
  const { westDeg, northDeg } = frame;
  const columnsPerDeg = 1 / frame.cellLonDeg;
  const rowsPerDeg = 1 / frame.cellLatDeg;
  const { firstColumn, firstRow, lastColumn, lastRow } = block;
  const origin = (block.start - Math.imul(firstRow, stride) - firstColumn) | 0;
  // Not a number once one height was none: cheaper than to ask each.
  let sumM = 0;
  let i = first;
  for (; i < count; i++) {
    const column = (lonDeg[i]! - westDeg) * columnsPerDeg - 0.5;
    const row = (northDeg - latDeg[i]!) * rowsPerDeg - 0.5;
    if (!(column >= firstColumn && column < lastColumn && row >= firstRow && row < lastRow)) break;
    const left = column | 0;
    const top = row | 0;
    const x = column - left;
    const y = row - top;
    const at = origin + top * stride + left;
    const upper = cells[at]! + (cells[at + 1]! - cells[at]!) * x;
    const lower = cells[at + stride]! + (cells[at + stride + 1]! - cells[at + stride]!) * x;
    const ground = upper + (lower - upper) * y;
    groundAmslM[i] = ground;
    sumM += ground;
  }
  if (Number.isNaN(sumM)) block.hasHole = true;
  return i;
}

/**
 * Reads the cover of samples `first` to `end`, which lie in the block, or to just past one that is stepped to over a corner; gives
 * the index of the next to read.
 */
function readCoverInBlock(
  { frame, blockColumns: stride, coverHeightM: heights, coverCode: codes }: Surface,
  block: Block,
  latDeg: Float64Array,
  lonDeg: Float64Array,
  { coverHeightM, coverCode }: GroundAlong,
  first: number,
  end: number,
): number {
  if (codes === null || heights === null) {
    coverCode.fill(0, first, end);
    coverHeightM.fill(0, first, end);
    return end;
  }
  const { westDeg, northDeg } = frame;
  const columnsPerDeg = 1 / frame.cellLonDeg;
  const rowsPerDeg = 1 / frame.cellLatDeg;
  const origin = (block.start - Math.imul(block.firstRow, stride) - block.firstColumn) | 0;
  // A first sample in this block has no step in it.
  const before = block.overCorner ? first - 1 : first;
  let columnBefore = ((lonDeg[before]! - westDeg) * columnsPerDeg) | 0;
  let rowBefore = ((northDeg - latDeg[before]!) * rowsPerDeg) | 0;
  block.overCorner = false;
  for (let i = first; i < end; i++) {
    const column = ((lonDeg[i]! - westDeg) * columnsPerDeg) | 0;
    const row = ((northDeg - latDeg[i]!) * rowsPerDeg) | 0;
    const near = origin + row * stride + column;
    const code = codes[near]!;
    let heightM = 0;
    if (code !== 0 && code !== UNKNOWN_COVER) {
      heightM = heights[near]!;
      coverCode[i] = code;
    } else coverCode[i] = 0;
    coverHeightM[i] = heightM;
    if (column !== columnBefore && row !== rowBefore) {
      const besideM = Math.max(coverHeightM[i - 1]!, heightM);
      const across = heights[origin + rowBefore * stride + column]!;
      const along = heights[origin + row * stride + columnBefore]!;
      if (across > besideM || along > besideM) {
        block.overCorner = true;
        return i + 1;
      }
    }
    columnBefore = column;
    rowBefore = row;
  }
  return end;
}

/** One place whose four cells do not lie in one block: on the seam of two tiles, at the edge of the grid, or off it. */
function readCells(surface: Surface, latDeg: number, lonDeg: number, i: number, into: GroundAlong): void {
  const { frame } = surface;
  into.groundAmslM[i] = groundAt(surface, latDeg, lonDeg);
  let code = 0;
  if (frameContains(frame, latDeg, lonDeg)) {
    const column = columnOf(frame, lonDeg);
    const row = rowOf(frame, latDeg);
    code = coverCodeIn(surface, column, row);
    if (code === UNKNOWN_COVER) code = 0;
    into.coverHeightM[i] = code === 0 ? 0 : coverHeightIn(surface, column, row);
  } else into.coverHeightM[i] = 0;
  into.coverCode[i] = code;
}
