import type { CellBlock, GridFrame, Surface } from "./surface";

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
          tile.groundAmslM[y * TILE_CELLS + x] = surface.groundAmslM(column, row);
          tile.coverHeightM[y * TILE_CELLS + x] = surface.coverHeightM(column, row);
          tile.coverCode[y * TILE_CELLS + x] = surface.coverCode(column, row);
        }
      }
      yield { tileColumn, tileRow, tile };
    }
  }
}

/** A surface read from tiles by tile index (row · tilesAcross + column); a missing tile is a hole. */
export function tiledSurface(frame: GridFrame, tiles: { get(index: number): TerrainTile | undefined }): Surface {
  const across = tilesAcross(frame);
  // Neighbouring reads almost always hit the tile read last.
  let lastIndex = -1;
  let lastTile: TerrainTile | undefined;
  const tileAt = (column: number, row: number) => {
    const index = ((row / TILE_CELLS) | 0) * across + ((column / TILE_CELLS) | 0);
    if (index !== lastIndex) {
      lastIndex = index;
      lastTile = tiles.get(index);
    }
    return lastTile;
  };
  const offset = (column: number, row: number) => (row % TILE_CELLS) * TILE_CELLS + (column % TILE_CELLS);
  return {
    frame,
    blockAt(column, row): CellBlock | undefined {
      const tile = tileAt(column, row);
      return (
        tile && {
          column: column - (column % TILE_CELLS),
          row: row - (row % TILE_CELLS),
          columns: TILE_CELLS,
          rows: TILE_CELLS,
          ...tile,
        }
      );
    },
    groundAmslM: (column, row) => tileAt(column, row)?.groundAmslM[offset(column, row)] ?? NaN,
    coverHeightM: (column, row) => tileAt(column, row)?.coverHeightM[offset(column, row)] ?? 0,
    coverCode: (column, row) => tileAt(column, row)?.coverCode[offset(column, row)] ?? 0,
  };
}
