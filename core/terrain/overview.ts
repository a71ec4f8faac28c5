import { TILE_CELLS, tilesAcross, type TerrainTile } from "./tiles";
import { cellSizeM, type GridFrame } from "./surface";
import type { Terrain } from "./terrain";

/** A raster with more cells on a side than this has a coarse copy of itself, for looking at it from far away. */
const LARGEST_SIDE = 2048;

/** Cells of a raster that go into one cell of its overview, along a side; 1 where it needs none. */
export function overviewFactor({ columns, rows }: GridFrame): number {
  let factor = 1;
  while (Math.max(columns, rows) / factor > LARGEST_SIDE) factor *= 2;
  return Math.min(factor, TILE_CELLS);
}

export function overviewFrame(frame: GridFrame): GridFrame {
  const factor = overviewFactor(frame);
  return {
    ...frame,
    cellLonDeg: frame.cellLonDeg * factor,
    cellLatDeg: frame.cellLatDeg * factor,
    columns: Math.ceil(frame.columns / factor),
    rows: Math.ceil(frame.rows / factor),
  };
}

/** Gathers an overview while the tiles of a raster pass by: mean heights, and the cover of each cell's first corner. */
export function overviewGatherer(frame: GridFrame, empty: () => TerrainTile) {
  const factor = overviewFactor(frame);
  const small = overviewFrame(frame);
  const tiles = new Map<number, TerrainTile>();
  return {
    add(index: number, tile: TerrainTile): void {
      const left = (index % tilesAcross(frame)) * TILE_CELLS;
      const top = Math.floor(index / tilesAcross(frame)) * TILE_CELLS;
      for (let y = 0; y < TILE_CELLS; y += factor)
        for (let x = 0; x < TILE_CELLS; x += factor) {
          const column = (left + x) / factor;
          const row = (top + y) / factor;
          if (column >= small.columns || row >= small.rows) continue;
          let sum = 0;
          let count = 0;
          for (let dy = 0; dy < factor; dy++)
            for (let dx = 0; dx < factor; dx++) {
              const height = tile.groundAmslM[(y + dy) * TILE_CELLS + x + dx]!;
              if (height !== height) continue;
              sum += height;
              count++;
            }
          const at = Math.floor(row / TILE_CELLS) * tilesAcross(small) + Math.floor(column / TILE_CELLS);
          let target = tiles.get(at);
          if (!target) tiles.set(at, (target = empty()));
          const offset = (row % TILE_CELLS) * TILE_CELLS + (column % TILE_CELLS);
          if (count > 0) target.groundAmslM[offset] = sum / count;
          target.coverCode[offset] = tile.coverCode[y * TILE_CELLS + x]!;
          target.coverHeightM[offset] = tile.coverHeightM[y * TILE_CELLS + x]!;
        }
    },
    tiles: tiles as ReadonlyMap<number, TerrainTile>,
  };
}

/** The same terrain seen so that one step is `stepM`: rasters far finer than that give way to their overviews. */
export function seenFromAfar(terrain: Terrain, stepM: number): Terrain {
  return {
    ...terrain,
    layers: terrain.layers.map((layer) => {
      const { overview } = layer.surface;
      return overview && cellSizeM(overview.frame) <= stepM * 1.5 ? { ...layer, surface: overview } : layer;
    }),
  };
}
