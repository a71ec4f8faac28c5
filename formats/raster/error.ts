/** Thrown when a raster cannot be read; the message names what was found where. */
export class RasterError extends Error {}
