import { FileRefused, type RefusedOptions } from "../refused";

/** Thrown when a raster cannot be read; the message names what was found where. */
export class RasterError extends FileRefused {
  constructor(message: string, { todo = USUAL_TODO, ...options }: RefusedOptions = {}) {
    super(message, { todo, ...options });
  }
}
const USUAL_TODO = "Fetch the file again, or write it anew as a GeoTIFF in EPSG:4326, and bring it again.";
