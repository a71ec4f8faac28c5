import type { Layer, PlanRows } from "#core/plan";
import { TILE_CELLS, tilesAcross, type TerrainTile } from "#core/terrain";
import { besideFiles, rowFiles, VOICES, voiceFile, type Beside } from "#formats/archive";
import { writeGeotiff } from "#formats/raster";
import { zipFiles } from "#formats/zip";
import { decodeTile } from "#ground";
import { PLANES, planeFile, type PlaneName } from "./planes";

/** All that goes into a plan's archive, as it lies in the store. */
export interface ArchiveContents {
  rows: PlanRows;
  beside: Beside;
  /** Packed tiles, by layer. */
  tiles: Map<string, { index: number; data: Uint8Array }[]>;
  photos: Map<string, Uint8Array>;
  voices: Map<string, Uint8Array>;
}

const READ: Record<PlaneName, (tile: TerrainTile, i: number) => number> = {
  ground: (tile, i) => tile.groundAmslM[i]!,
  "cover-height": (tile, i) => tile.coverHeightM[i]!,
  "cover-code": (tile, i) => tile.coverCode[i]!,
};

/** The archive of a plan: rows as CSV and JSON, rasters as GeoTIFF, photographs as JPEG. Equal plans give equal bytes. */
export function packArchive({ rows, beside, tiles, photos, voices }: ArchiveContents): Uint8Array {
  const files = rowFiles(rows);
  for (const layer of rows.layers) {
    const unpacked = new Map((tiles.get(layer.id) ?? []).map(({ index, data }) => [index, decodeTile(data)]));
    for (const plane of PLANES) {
      if (plane === "ground" ? layer.kind === "cover" : !hasCover(unpacked)) continue;
      files.set(planeFile(layer.id, plane), layerGeotiff(layer, unpacked, READ[plane]));
    }
  }
  for (const [name, data] of besideFiles(beside)) files.set(name, data);
  for (const [id, data] of photos) files.set(`photos/${id}.jpg`, data);
  for (const [id, data] of voices) files.set(voiceFile(id), data);
  return zipFiles(files, (name) => /\.(tif|jpg)$/.test(name) || name.startsWith(VOICES));
}

function hasCover(tiles: ReadonlyMap<number, TerrainTile>): boolean {
  for (const { coverCode } of tiles.values()) if (coverCode.some((code) => code !== 0)) return true;
  return false;
}

function layerGeotiff(
  layer: Layer,
  tiles: ReadonlyMap<number, TerrainTile>,
  read: (tile: TerrainTile, i: number) => number,
): Uint8Array {
  const across = tilesAcross(layer);
  return writeGeotiff(layer, (column, row) => {
    const tile = tiles.get(((row / TILE_CELLS) | 0) * across + ((column / TILE_CELLS) | 0));
    return tile ? read(tile, (row % TILE_CELLS) * TILE_CELLS + (column % TILE_CELLS)) : NaN;
  });
}
