import type { PlacesAlong } from "../geodesy";
import {
  blockOf,
  coverCodeIn,
  coverHeightIn,
  eastOfDeg,
  frameContains,
  groundAt,
  HOLE,
  startOf,
  UNKNOWN_COVER,
  type Surface,
} from "./surface";
import { readGround, type GroundSample, type Terrain } from "./terrain";

/** What is known of the ground at many places, in arrays of one length. */
export interface GroundAlong {
  groundAmslM: Float64Array;
  coverHeightM: Float64Array;
  coverCode: Uint8Array;
}

/**
 * Reads ground and cover at many places that follow each other, exactly as `readGround` does for one. The finest raster is
 * read from its blocks in memory; only places that it leaves open are read through the others. Gives the steps, by the
 * sample that they lead to, that may go over the corner of a covered cell without a sample in it; null where any may.
 */
export function readAlong(
  terrain: Terrain,
  { latDeg, lonDeg }: PlacesAlong,
  into: GroundAlong,
  count = latDeg.length,
): number[] | null {
  const { layers } = terrain;
  const finest = layers[0];
  if (!finest || finest.kind !== "bare") {
    readEach(terrain, latDeg, lonDeg, into, count);
    return null;
  }
  const corners = readBlocks(finest.surface, latDeg, lonDeg, into, count);
  if (layers.length === 1) return corners;
  readEach(terrain, latDeg, lonDeg, into, count, true);
  return null;
}

/** Reads place by place; `onlyOpen` leaves those alone whose ground and cover are known already. */
function readEach(
  terrain: Terrain,
  latDeg: Float64Array,
  lonDeg: Float64Array,
  { groundAmslM, coverHeightM, coverCode }: GroundAlong,
  count: number,
  onlyOpen = false,
): void {
  const sample: GroundSample = { groundAmslM: 0, coverHeightM: 0, coverCode: 0 };
  for (let i = 0; i < count; i++) {
    if (onlyOpen && groundAmslM[i] === groundAmslM[i] && coverCode[i] !== 0) continue;
    readGround(terrain, latDeg[i]!, lonDeg[i]!, sample);
    groundAmslM[i] = sample.groundAmslM;
    coverHeightM[i] = sample.coverHeightM;
    coverCode[i] = sample.coverCode;
  }
}

/**
 * One raster of bare ground with its cover, without a call or an object for any sample that lies inside a block. Gives the
 * steps over corners beside which something may stand.
 */
function readBlocks(
  surface: Surface,
  latDeg: Float64Array,
  lonDeg: Float64Array,
  into: GroundAlong,
  count: number,
): number[] {
  const { westDeg, northDeg, cellLonDeg, cellLatDeg, columns, rows } = surface.frame;
  const { groundAmslM, coverHeightM, coverCode } = into;
  const columnsPerDeg = 1 / cellLonDeg;
  const rowsPerDeg = 1 / cellLatDeg;
  const { blockColumns, blockRows, groundAmslM: cells, coverHeightM: heights, coverCode: codes } = surface;
  // The block in hand, as rows and columns of the grid in which a cell has its right and lower neighbours beside it.
  let firstColumn = 0;
  let firstRow = 0;
  let lastColumn = -1;
  let lastRow = -1;
  let start = 0;
  const stride = blockColumns;
  const corners: number[] = [];
  /** The cell of the sample before, as it lies in the block in hand; −1 where it lies in another. */
  let nearBefore = -1;
  for (let i = 0; i < count; i++) {
    const column = (lonDeg[i]! - westDeg) * columnsPerDeg - 0.5;
    const row = (northDeg - latDeg[i]!) * rowsPerDeg - 0.5;
    const left = Math.floor(column);
    const top = Math.floor(row);
    if (left < firstColumn || top < firstRow || left >= lastColumn || top >= lastRow) {
      const isOn = left >= 0 && top >= 0 && left < columns && top < rows;
      start = isOn ? startOf(surface, blockOf(surface, left, top)) : HOLE;
      if (start !== HOLE) {
        nearBefore = -1;
        firstColumn = left - (left % blockColumns);
        firstRow = top - (top % blockRows);
        lastColumn = Math.min(firstColumn + blockColumns, columns) - 1;
        lastRow = Math.min(firstRow + blockRows, rows) - 1;
      } else lastColumn = lastRow = -1;
      if (start === HOLE || left >= lastColumn || top >= lastRow) {
        readCells(surface, latDeg[i]!, lonDeg[i]!, i, into);
        corners.push(i);
        nearBefore = -1;
        continue;
      }
    }
    const x = column - left;
    const y = row - top;
    const at = start + (top - firstRow) * stride + (left - firstColumn);
    const upper = cells[at]! + (cells[at + 1]! - cells[at]!) * x;
    const lower = cells[at + stride]! + (cells[at + stride + 1]! - cells[at + stride]!) * x;
    groundAmslM[i] = upper + (lower - upper) * y;
    coverCode[i] = coverHeightM[i] = 0;
    if (codes === null) continue;
    const near = at + (x >= 0.5 ? 1 : 0) + (y >= 0.5 ? stride : 0);
    const code = codes[near]!;
    if (code !== 0 && code !== UNKNOWN_COVER) {
      coverCode[i] = code;
      if (heights !== null) coverHeightM[i] = heights[near]!;
    }
    const move = near - nearBefore;
    // A step to another column and row at once goes over the corner of a third cell.
    if (move !== 0 && move !== 1 && move !== -1 && move !== stride && move !== -stride) {
      const across = move === stride + 1 || move === 1 - stride ? 1 : -1;
      if (nearBefore < 0 || heights === null) corners.push(i);
      else {
        const besideM = Math.max(coverHeightM[i - 1]!, coverHeightM[i]!);
        if (heights[nearBefore + across]! > besideM || heights[near - across]! > besideM) corners.push(i);
      }
    }
    nearBefore = near;
  }
  return corners;
}

/** One place whose four cells do not lie in one block: on the seam of two tiles, at the edge of the grid, or off it. */
function readCells(surface: Surface, latDeg: number, lonDeg: number, i: number, into: GroundAlong): void {
  const { frame } = surface;
  into.groundAmslM[i] = groundAt(surface, latDeg, lonDeg);
  let code = 0;
  if (frameContains(frame, latDeg, lonDeg)) {
    const column = Math.min(Math.floor(eastOfDeg(frame.westDeg, lonDeg) / frame.cellLonDeg), frame.columns - 1);
    const row = Math.min(Math.floor((frame.northDeg - latDeg) / frame.cellLatDeg), frame.rows - 1);
    code = coverCodeIn(surface, column, row);
    if (code === UNKNOWN_COVER) code = 0;
    into.coverHeightM[i] = code === 0 ? 0 : coverHeightIn(surface, column, row);
  } else into.coverHeightM[i] = 0;
  into.coverCode[i] = code;
}
