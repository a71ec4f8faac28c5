/** Samples along one side of a relief tile: 256 pixels and one more on every side, so that slopes meet at the seams. */
export const RELIEF_SAMPLES = 258;

/** In the place of a cover code: no raster reaches here, so what is unknown is no hole. */
export const BEYOND_TERRAIN = 255;
