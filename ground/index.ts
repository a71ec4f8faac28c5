export { groundOver, type Ground } from "./ground";
export { shareTiles, type PackedTile, type SharedGround, type SharedRaster } from "./shared";
export { decodeTile, encodeTile } from "./tileCodec";
