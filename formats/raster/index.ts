export { coverWriter, legendSchema, type Legend } from "./cover";
export { writeGeotiff } from "./geotiffWrite";
export { emptyTile, exactWriter, heightWriter, layerFrame, layerTiles } from "./layer";
export { openRaster } from "./open";
export { RasterError } from "./error";
export { type RasterSource } from "./source";
export { afterBlock } from "./tiffDecoders";
