import { M_PER_DEG } from "#core/geodesy";
import { TILE_CELLS, tilesAcross, tilesDown, type GridFrame, type TerrainTile } from "#core/terrain";
import { RasterError } from "./error";
import { type RasterSource } from "./source";

/** Spacing of the cells whose place is worked out exactly; between them it runs straight, off by under a hundredth of a cell. */
const LATTICE = 16;
/** Rows of a source held at once, in cells: what a turned system may need for one row of tiles. */
const MOST_BAND_CELLS = 120_000_000;
/** Heights are kept to a 32nd of a metre: whole numbers stay whole, and the noise below it does not fill the disk. */
const HEIGHT_STEPS_PER_M = 32;

/** How far off WGS 84 cells may lie and still be taken as they are, in cells. */
const MOST_OFF_CELLS = 0.1;

/** Whether a source's cells are cells of WGS 84, to a tenth of one: those are copied; all others are placed anew. */
function liesOnWgs84({ columns, rows, west, north, cellX, cellY, crs }: RasterSource): boolean {
  if (!crs.isGeographic) return false;
  for (const [x, y] of [0, 0.5, 1].flatMap((x) => [0, 0.5, 1].map((y) => [x, y] as const))) {
    const at: [number, number] = [west + x * columns * cellX, north - y * rows * cellY];
    const [lon, lat] = crs.toLonLat([...at]);
    const offLon = Math.abs(((lon - at[0] + 540) % 360) - 180);
    if (offLon > MOST_OFF_CELLS * cellX || Math.abs(lat - at[1]) > MOST_OFF_CELLS * cellY) return false;
  }
  return true;
}

/** The geographic grid in which a source is kept: its own where it lies on WGS 84, else one of about the same cells. */
export function layerFrame(source: RasterSource): GridFrame {
  const { columns, rows, west, north, cellX, cellY, crs } = source;
  const [east, south] = [west + columns * cellX, north - rows * cellY];
  if (crs.isGeographic && (west < -181 || east > 361 || north > 91 || south < -91))
    throw new RasterError(
      `the raster reaches from ${west}, ${south} to ${east}, ${north} degrees; −180 to 360 and −90 to 90 were expected`,
    );
  if (liesOnWgs84(source)) {
    const frame = { westDeg: west, northDeg: north, cellLonDeg: cellX, cellLatDeg: cellY, columns, rows };
    // Rasters that count longitude from 0 to 360 are brought to −180 to 180.
    return west >= 180 ? { ...frame, westDeg: west - 360 } : frame;
  }
  let [westDeg, southDeg, eastDeg, northDeg] = [Infinity, Infinity, -Infinity, -Infinity];
  const EDGE_STEPS = 32;
  for (let i = 0; i <= EDGE_STEPS; i++) {
    const share = i / EDGE_STEPS;
    for (const [x, y] of [
      [share, 0],
      [share, 1],
      [0, share],
      [1, share],
    ] as const) {
      const [lon, lat] = crs.toLonLat([west + x * columns * cellX, north - y * rows * cellY]);
      if (!Number.isFinite(lon) || !Number.isFinite(lat))
        throw new RasterError(`the raster's edge does not lie inside ${crs.name}`, {
          todo: "Look whether that is its coordinate system, or reproject it to EPSG:4326.",
        });
      westDeg = Math.min(westDeg, lon);
      eastDeg = Math.max(eastDeg, lon);
      southDeg = Math.min(southDeg, lat);
      northDeg = Math.max(northDeg, lat);
    }
  }
  const middle = Math.cos((((southDeg + northDeg) / 2) * Math.PI) / 180);
  const cellM = Math.hypot(...offsetM(source)) / Math.SQRT2;
  const squareDeg = cellM / M_PER_DEG;
  const cellLatDeg = crs.isGeographic ? cellY : squareDeg;
  const cellLonDeg = crs.isGeographic ? cellX : squareDeg / Math.max(0.05, middle);
  return {
    westDeg,
    northDeg,
    cellLonDeg,
    cellLatDeg,
    columns: Math.max(1, Math.ceil((eastDeg - westDeg) / cellLonDeg)),
    rows: Math.max(1, Math.ceil((northDeg - southDeg) / cellLatDeg)),
  };
}

/** Metres east and north by which one cell of a projected source is off the next, diagonally, at its middle. */
function offsetM({ columns, rows, west, north, cellX, cellY, crs }: RasterSource): [number, number] {
  const x = west + (columns / 2) * cellX;
  const y = north - (rows / 2) * cellY;
  const [lon1, lat1] = crs.toLonLat([x, y]);
  const [lon2, lat2] = crs.toLonLat([x + cellX, y - cellY]);
  return [(lon2 - lon1) * M_PER_DEG * Math.cos((lat1 * Math.PI) / 180), (lat1 - lat2) * M_PER_DEG];
}

/** What becomes of a value: a height, or a class of cover with its height. */
export interface CellWriter {
  put(tile: TerrainTile, offset: number, value: number): void;
  /** Whether values may be mixed (heights) or must be taken as they are (classes). */
  mixes: boolean;
  empty(): TerrainTile;
}

export const heightWriter: CellWriter = {
  put: (tile, offset, value) => {
    tile.groundAmslM[offset] = Math.round(value * HEIGHT_STEPS_PER_M) / HEIGHT_STEPS_PER_M;
  },
  mixes: true,
  empty: emptyTile,
};

/** Heights to the last bit: what Tejado wrote itself comes back as it was. */
export const exactWriter: CellWriter = {
  ...heightWriter,
  put: (tile, offset, value) => {
    tile.groundAmslM[offset] = value;
  },
};

export function emptyTile(): TerrainTile {
  return {
    groundAmslM: new Float32Array(TILE_CELLS ** 2).fill(NaN),
    coverHeightM: new Float32Array(TILE_CELLS ** 2),
    coverCode: new Uint8Array(TILE_CELLS ** 2),
  };
}

/**
 * Cuts a source into the tiles of `frame`, one row of tiles at a time, so that no more than the rows under it are in
 * memory. Tiles without any value are left out. Heights are interpolated where the source lies in another system.
 */
export async function* layerTiles(
  source: RasterSource,
  frame: GridFrame,
  writer: CellWriter,
): AsyncGenerator<{ index: number; tile: TerrainTile; holes: number; doneShare: number }> {
  const across = tilesAcross(frame);
  const down = tilesDown(frame);
  const { columns, rows, west, north, cellX, cellY, crs } = source;
  const isCopied = liesOnWgs84(source);
  // Column and row in the source, cell centres at whole numbers.
  const project = (column: number, row: number): [number, number] => {
    const lon = frame.westDeg + (column + 0.5) * frame.cellLonDeg;
    const lat = frame.northDeg - (row + 0.5) * frame.cellLatDeg;
    if (isCopied) return [column, row];
    const [x, y] = crs.fromLonLat([lon, lat]);
    return [(x - west) / cellX - 0.5, (north - y) / cellY - 0.5];
  };
  for (let tileRow = 0; tileRow < down; tileRow++) {
    const top = tileRow * TILE_CELLS;
    const height = Math.min(TILE_CELLS, frame.rows - top);
    let first = Infinity;
    let last = -Infinity;
    for (let column = 0; column <= frame.columns; column += Math.max(1, Math.min(64, frame.columns)))
      for (const row of [top, top + height - 1]) {
        const y = project(Math.min(column, frame.columns - 1), row)[1];
        first = Math.min(first, y);
        last = Math.max(last, y);
      }
    const from = Math.max(0, Math.floor(first) - 2);
    const to = Math.min(rows, Math.ceil(last) + 3);
    if (to <= from) continue;
    if ((to - from) * columns > MOST_BAND_CELLS)
      throw new RasterError(`the raster is turned too far against north in ${crs.name}`, {
        todo: "Reproject it to EPSG:4326 first.",
      });
    const band = await source.readRows(from, to - from);
    for (let tileColumn = 0; tileColumn < across; tileColumn++) {
      const left = tileColumn * TILE_CELLS;
      const width = Math.min(TILE_CELLS, frame.columns - left);
      const { tile, holes } = isCopied
        ? copyTile(band, columns, top - from, left, width, height, writer)
        : sampleTile(band, columns, from, to, left, top, width, height, project, writer);
      yield {
        index: tileRow * across + tileColumn,
        tile,
        holes,
        doneShare: (tileRow + (tileColumn + 1) / across) / down,
      };
    }
  }
}

function copyTile(
  band: Float32Array,
  columns: number,
  bandRow: number,
  left: number,
  width: number,
  height: number,
  writer: CellWriter,
): { tile: TerrainTile; holes: number } {
  const tile = writer.empty();
  let holes = 0;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const value = band[(bandRow + y) * columns + left + x]!;
      if (value !== value) holes++;
      else writer.put(tile, y * TILE_CELLS + x, value);
    }
  return { tile, holes };
}

function sampleTile(
  band: Float32Array,
  columns: number,
  from: number,
  to: number,
  left: number,
  top: number,
  width: number,
  height: number,
  project: (column: number, row: number) => [number, number],
  writer: CellWriter,
): { tile: TerrainTile; holes: number } {
  const tile = writer.empty();
  let holes = 0;
  const steps = TILE_CELLS / LATTICE;
  const lattice = Array.from({ length: (steps + 1) ** 2 }, (_, i) =>
    project(left + (i % (steps + 1)) * LATTICE, top + Math.floor(i / (steps + 1)) * LATTICE),
  );
  for (let y = 0; y < height; y++) {
    const latticeRow = Math.floor(y / LATTICE);
    const shareY = (y % LATTICE) / LATTICE;
    for (let x = 0; x < width; x++) {
      const latticeColumn = Math.floor(x / LATTICE);
      const shareX = (x % LATTICE) / LATTICE;
      const at = latticeRow * (steps + 1) + latticeColumn;
      const mix = (axis: 0 | 1) =>
        (lattice[at]![axis] * (1 - shareX) + lattice[at + 1]![axis] * shareX) * (1 - shareY) +
        (lattice[at + steps + 1]![axis] * (1 - shareX) + lattice[at + steps + 2]![axis] * shareX) * shareY;
      const value = valueAt(band, columns, from, to, mix(0), mix(1), writer.mixes);
      if (value !== value) holes++;
      else writer.put(tile, y * TILE_CELLS + x, value);
    }
  }
  return { tile, holes };
}

/** Value at a fractional column and row of the source: bilinear, or of the nearest cell. NaN off it or beside a hole. */
function valueAt(
  band: Float32Array,
  columns: number,
  from: number,
  to: number,
  column: number,
  row: number,
  mixes: boolean,
): number {
  if (!(column >= -0.5 && row >= from - 0.5 && column <= columns - 0.5 && row <= to - 0.5)) return NaN;
  if (!mixes) {
    const x = Math.min(columns - 1, Math.max(0, Math.round(column)));
    const y = Math.min(to - 1, Math.max(from, Math.round(row)));
    return band[(y - from) * columns + x]!;
  }
  const x0 = Math.min(Math.max(Math.floor(column), 0), columns - 1);
  const y0 = Math.min(Math.max(Math.floor(row), from), to - 1);
  const x1 = Math.min(x0 + 1, columns - 1);
  const y1 = Math.min(y0 + 1, to - 1);
  const fx = Math.min(1, Math.max(0, column - x0));
  const fy = Math.min(1, Math.max(0, row - y0));
  const upper = band[(y0 - from) * columns + x0]! * (1 - fx) + band[(y0 - from) * columns + x1]! * fx;
  const lower = band[(y1 - from) * columns + x0]! * (1 - fx) + band[(y1 - from) * columns + x1]! * fx;
  return upper * (1 - fy) + lower * fy;
}
