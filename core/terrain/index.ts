export { sampleProfile, SHORTEST_PATH_M, type Profile } from "./profile";
export {
  arraySurface,
  cellAt,
  cellSizeM,
  COVER_KINDS,
  frameContains,
  groundAt,
  isTrees,
  UNKNOWN_SURFACE,
  type CoverKind,
  type GridFrame,
  type Surface,
} from "./surface";
export { cutTiles, TILE_CELLS, tiledSurface, tilesAcross, tilesDown, type TerrainTile } from "./tiles";
