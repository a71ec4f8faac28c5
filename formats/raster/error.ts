import { refusedUsually } from "../refused";

/** Thrown when a raster cannot be read; the message names what was found where. */
export class RasterError extends refusedUsually(
  "Fetch the file again, or write it anew as a GeoTIFF in EPSG:4326, and bring it again.",
) {}
