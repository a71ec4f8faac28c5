import { coverCodeIn, coverHeightIn, groundIn, HOLE, type GridFrame, type Surface } from "./surface";

/** Cells along one side of a stored tile; 64 KB of ground heights before compression. */
export const TILE_CELLS = 128;

/** One tile's worth of ground and cover, TILE_CELLS² values each, row by row from the north. */
export interface TerrainTile {
  groundAmslM: Float32Array;
  coverHeightM: Float32Array;
  coverCode: Uint8Array;
}

export function tilesAcross(frame: GridFrame): number {
  return Math.ceil(frame.columns / TILE_CELLS);
}

export function tilesDown(frame: GridFrame): number {
  return Math.ceil(frame.rows / TILE_CELLS);
}

/** Cuts a surface into tiles, west to east, north to south; cells beyond its edge are holes. */
export function* cutTiles(surface: Surface): Generator<{ tileColumn: number; tileRow: number; tile: TerrainTile }> {
  const { frame } = surface;
  for (let tileRow = 0; tileRow < tilesDown(frame); tileRow++) {
    for (let tileColumn = 0; tileColumn < tilesAcross(frame); tileColumn++) {
      const tile: TerrainTile = {
        groundAmslM: new Float32Array(TILE_CELLS ** 2).fill(NaN),
        coverHeightM: new Float32Array(TILE_CELLS ** 2),
        coverCode: new Uint8Array(TILE_CELLS ** 2),
      };
      const rows = Math.min(TILE_CELLS, frame.rows - tileRow * TILE_CELLS);
      const columns = Math.min(TILE_CELLS, frame.columns - tileColumn * TILE_CELLS);
      for (let y = 0; y < rows; y++) {
        for (let x = 0; x < columns; x++) {
          const column = tileColumn * TILE_CELLS + x;
          const row = tileRow * TILE_CELLS + y;
          tile.groundAmslM[y * TILE_CELLS + x] = groundIn(surface, column, row);
          tile.coverHeightM[y * TILE_CELLS + x] = coverHeightIn(surface, column, row);
          tile.coverCode[y * TILE_CELLS + x] = coverCodeIn(surface, column, row);
        }
      }
      yield { tileColumn, tileRow, tile };
    }
  }
}

/** Cells of one tile. */
const CELLS = TILE_CELLS ** 2;

/** Arrays for `count` tiles, all of which are `start` to begin with. */
export function tileArrays(
  frame: GridFrame,
  count: number,
  start: number,
  bytes = (length: number): ArrayBufferLike => new ArrayBuffer(length),
): Surface {
  const tiles = tilesAcross(frame) * tilesDown(frame);
  return {
    frame,
    blockColumns: TILE_CELLS,
    blockRows: TILE_CELLS,
    starts: new Int32Array(bytes(tiles * 4)).fill(start),
    groundAmslM: new Float32Array(bytes(count * CELLS * 4)),
    coverHeightM: new Float32Array(bytes(count * CELLS * 4)),
    coverCode: new Uint8Array(bytes(count * CELLS)),
    overview: null,
  };
}

/** Lays a tile into a surface as its `slot`th one, and lets it be read. */
export function layTile(surface: Surface, block: number, slot: number, tile: TerrainTile): void {
  const start = slot * CELLS;
  surface.groundAmslM.set(tile.groundAmslM, start);
  surface.coverHeightM!.set(tile.coverHeightM, start);
  surface.coverCode!.set(tile.coverCode, start);
  Atomics.store(surface.starts, block, start);
}

/** A surface of tiles by tile index (row · tilesAcross + column); a missing tile is a hole. */
export function tiledSurface(frame: GridFrame, tiles: ReadonlyMap<number, TerrainTile>): Surface {
  const surface = tileArrays(frame, tiles.size, HOLE);
  let slot = 0;
  for (const [index, tile] of tiles) layTile(surface, index, slot++, tile);
  return surface;
}
