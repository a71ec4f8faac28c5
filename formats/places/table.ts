/** Any file of places as a table of text: what was read, before anything is made of it. */
export interface SourceTable {
  /** What the file was found to be, in words. */
  found: string;
  columns: string[];
  /** `row` is the line or feature number that its author would count. */
  rows: { row: number; cells: string[] }[];
  decimalComma: boolean;
}

/** Why a file could not be read at all; the message names the place. */
export class PlacesFileError extends Error {}
