export { areaIndex, type AreaIndex, type CoverArea } from "./areas";
export { overviewFactor, overviewFrame, overviewGatherer, seenFromAfar, withOverview } from "./overview";
export { sampleProfile, SHORTEST_PATH_M, type Profile } from "./profile";
export {
  arraySurface,
  cellSizeM,
  COVER_KINDS,
  coverCode,
  coverDensity,
  coverKind,
  frameContains,
  groundAt,
  isTrees,
  UNKNOWN_COVER,
  type CoverKind,
  type GridFrame,
  type Surface,
} from "./surface";
export {
  plainTerrain,
  reachesGround,
  readGround,
  terrainExtent,
  terrainOf,
  type GroundSample,
  type Terrain,
  type TerrainLayer,
} from "./terrain";
export { cutTiles, TILE_CELLS, tiledSurface, tilesAcross, tilesDown, type TerrainTile } from "./tiles";
