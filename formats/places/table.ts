import { refusedUsually } from "../refused";

/** Any file of places as a table of text: what was read, before anything is made of it. */
export interface SourceTable {
  /** What the file was found to be, in words. */
  found: string;
  columns: string[];
  /** `row` is the line or feature number that its author would count. */
  rows: { row: number; cells: string[] }[];
  decimalComma: boolean;
}

/** Thrown when a file of places or outlines cannot be read at all. */
export class PlacesFileError extends refusedUsually(
  "Write the file anew from where it came, as CSV, GeoJSON, KML or GPX, and bring it again.",
) {}
