import { areaIndex, areasWithin, type CoverArea } from "./areas";
import { arraySurface, cellSizeM, type GridFrame, type Surface } from "./surface";
import { terrainOf, type Terrain, type TerrainLayer } from "./terrain";

/** West, south, east and north edge, degrees. */
export type Bounds = [westDeg: number, southDeg: number, eastDeg: number, northDeg: number];

/** A piece of a terrain as plain arrays, to be handed to a worker. */
export interface TerrainCut {
  layers: {
    kind: TerrainLayer["kind"];
    frame: GridFrame;
    groundAmslM: Float32Array;
    coverHeightM: Float32Array;
    coverCode: Uint8Array;
  }[];
  areas: readonly CoverArea[];
  /** Cell of the finest raster in the cut, m, and whether that is coarser than the terrain's own. */
  cellM: number;
  isCoarser: boolean;
}

/** The bounds of some places, `marginM` wider on every side. */
export function boundsOf(places: readonly { latDeg: number; lonDeg: number }[], marginM: number): Bounds {
  let [west, south, east, north] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const { latDeg, lonDeg } of places) {
    west = Math.min(west, lonDeg);
    east = Math.max(east, lonDeg);
    south = Math.min(south, latDeg);
    north = Math.max(north, latDeg);
  }
  if (east - west > 180) {
    // Places on both sides of the 180th meridian lie close together: those west of it are counted on.
    const shifted = places.map(({ lonDeg }) => (lonDeg < 0 ? lonDeg + 360 : lonDeg));
    west = Math.min(...shifted);
    east = Math.max(...shifted);
  }
  const latMargin = marginM / 111_195;
  const lonMargin = latMargin / Math.max(0.05, Math.cos((((south + north) / 2) * Math.PI) / 180));
  return [west - lonMargin, south - latMargin, east + lonMargin, north + latMargin];
}

/**
 * The cells of every raster within `bounds`, as they are; of a raster with more than `mostCells` of them there its overview
 * is taken, or every so many. A profile within the bounds reads the same from the cut as from the terrain unless it was
 * thinned. Yields between blocks of rows, so that whoever serves others can do so in between.
 */
export function* cuttingOut(
  terrain: Terrain,
  bounds: Bounds,
  mostCells = MOST_CELLS,
): Generator<undefined, TerrainCut> {
  const layers: TerrainCut["layers"] = [];
  let isCoarser = false;
  for (const { surface, kind } of terrain.layers) {
    let source = surface;
    let window = windowOf(source.frame, bounds);
    if (window && window.columns * window.rows > mostCells && surface.overview) {
      source = surface.overview;
      window = windowOf(source.frame, bounds);
      isCoarser = true;
    }
    if (!window) continue;
    const every = Math.ceil(Math.sqrt((window.columns * window.rows) / mostCells));
    if (every > 1) isCoarser = true;
    layers.push({ kind, ...(yield* copyCells(source, window, every)) });
  }
  const [west, south, east, north] = bounds;
  const indexed = terrain.areas;
  const areas = indexed ? areasWithin(indexed, west, south, east, north).map(({ area }) => area) : [];
  const cells = layers.filter(({ kind }) => kind !== "cover").map(({ frame }) => cellSizeM(frame));
  return { layers, areas, cellM: cells.length > 0 ? Math.min(...cells) : NaN, isCoarser };
}

/** Cells of one raster that a cut holds at most: 108 MB. */
const MOST_CELLS = 12_000_000;

/** The same in one go. */
export function cutOut(terrain: Terrain, bounds: Bounds, mostCells = MOST_CELLS): TerrainCut {
  const work = cuttingOut(terrain, bounds, mostCells);
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
  }
}

/** The terrain that a cut makes. */
export function terrainOfCut({ layers, areas }: TerrainCut): Terrain {
  return terrainOf(
    layers.map(({ kind, frame, groundAmslM, coverHeightM, coverCode }) => ({
      kind,
      surface: arraySurface(frame, groundAmslM, { heightM: coverHeightM, code: coverCode }),
    })),
    areaIndex(areas),
  );
}

interface CellWindow {
  column: number;
  row: number;
  columns: number;
  rows: number;
}

/** Columns and rows of a grid that lie within bounds, with two cells more on every side; the widest where bounds and grid meet twice around the globe. */
function windowOf(frame: GridFrame, [west, south, east, north]: Bounds): CellWindow | null {
  return [0, 360, -360]
    .map((turn) => plainWindowOf(frame, [west + turn, south, east + turn, north]))
    .reduce((best, window) => (window && (!best || window.columns > best.columns) ? window : best), null);
}

function plainWindowOf(frame: GridFrame, [west, south, east, north]: Bounds): CellWindow | null {
  const clamp = (value: number, most: number) => Math.min(most, Math.max(0, value));
  const column = clamp(Math.floor((west - frame.westDeg) / frame.cellLonDeg) - 2, frame.columns);
  const row = clamp(Math.floor((frame.northDeg - north) / frame.cellLatDeg) - 2, frame.rows);
  const endColumn = clamp(Math.ceil((east - frame.westDeg) / frame.cellLonDeg) + 2, frame.columns);
  const endRow = clamp(Math.ceil((frame.northDeg - south) / frame.cellLatDeg) + 2, frame.rows);
  const [columns, rows] = [endColumn - column, endRow - row];
  return columns > 0 && rows > 0 ? { column, row, columns, rows } : null;
}

/** Rows copied between two yields. */
const ROWS_AT_ONCE = 64;

function* copyCells(
  surface: Surface,
  window: CellWindow,
  every: number,
): Generator<undefined, Omit<TerrainCut["layers"][number], "kind">> {
  const { frame } = surface;
  const columns = Math.ceil(window.columns / every);
  const rows = Math.ceil(window.rows / every);
  const groundAmslM = new Float32Array(columns * rows);
  const coverHeightM = new Float32Array(columns * rows);
  const coverCode = new Uint8Array(columns * rows);
  const middle = every >> 1;
  for (let y = 0; y < rows; y++) {
    const row = Math.min(window.row + y * every + middle, frame.rows - 1);
    for (let x = 0; x < columns; x++) {
      const column = Math.min(window.column + x * every + middle, frame.columns - 1);
      const at = y * columns + x;
      groundAmslM[at] = surface.groundAmslM(column, row);
      coverHeightM[at] = surface.coverHeightM(column, row);
      coverCode[at] = surface.coverCode(column, row);
    }
    if (y % ROWS_AT_ONCE === ROWS_AT_ONCE - 1) yield;
  }
  return {
    frame: {
      westDeg: frame.westDeg + window.column * frame.cellLonDeg,
      northDeg: frame.northDeg - window.row * frame.cellLatDeg,
      cellLonDeg: frame.cellLonDeg * every,
      cellLatDeg: frame.cellLatDeg * every,
      columns,
      rows,
    },
    groundAmslM,
    coverHeightM,
    coverCode,
  };
}
