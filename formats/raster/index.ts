export { coverWriter, legendSchema, type Legend } from "./cover";
export { writeGeotiff } from "./geotiffWrite";
export { emptyTile, exactWriter, heightWriter, layerFrame, layerTiles, type CellWriter } from "./layer";
export { openRaster } from "./open";
export { RasterError } from "./error";
export { MOST_CELLS, type RasterSource } from "./source";
export { afterBlock } from "./tiffDecoders";
