export { areaIndex, type AreaIndex, type CoverArea } from "./areas";
export { boundsOf, cutOut, cuttingOut, terrainOfCut, type Bounds, type TerrainCut } from "./cutOut";
export { overviewFactor, overviewFrame, overviewGatherer, seenFromAfar, withOverview } from "./overview";
export { profileScratch, sampleProfile, SHORTEST_PATH_M, type Profile, type ProfileScratch } from "./profile";
export { readAlong } from "./readAlong";
export {
  arraySurface,
  cellSizeM,
  COVER_KINDS,
  coverCode,
  coverDensity,
  coverKind,
  frameContains,
  groundAt,
  isEvergreen,
  isTrees,
  UNKNOWN_COVER,
  type CellBlock,
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
