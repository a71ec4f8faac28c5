export { changeShare } from "./cells";
export { areaIndex, type CoverArea } from "./areas";
export { boundsOf } from "./bounds";
export { highPoints, type HeightAt, type HighPoint } from "./highPoints";
export { overviewFactor, overviewFrame, overviewGatherer, seenFromAfar } from "./overview";
export { profileScratch, sampleProfile, SHORTEST_PATH_M, type Profile } from "./profile";
export { readAlong } from "./readAlong";
export {
  arraySurface,
  cellSizeM,
  columnsEast,
  COVER_KINDS,
  coverCodeIn,
  coverHeightIn,
  coverCode,
  coverDensity,
  coverKind,
  groundAt,
  groundIn,
  HOLE,
  isEvergreen,
  isTrees,
  rowsSouth,
  UNKNOWN_COVER,
  UNREAD,
  UnreadGround,
  type CoverKind,
  type GridFrame,
  type Surface,
} from "./surface";
export {
  LONGEST_EXACT_M,
  plainTerrain,
  reachesGround,
  stepBetweenM,
  readGround,
  terrainExtent,
  terrainOf,
  type GroundSample,
  type Terrain,
  type TerrainLayer,
} from "./terrain";
export {
  cutTiles,
  layTile,
  TILE_CELLS,
  tileArrays,
  tiledSurface,
  tilesAcross,
  tilesDown,
  type TerrainTile,
} from "./tiles";
export { coverStep } from "./coverEdges";
export { END_ZONE_M, ENTRY, EXIT } from "./coverRuns";
