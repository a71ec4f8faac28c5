/** One fault in a file of kit: where, what stands there, and what is wrong with it. */
export interface KitError {
  /** Row as a spreadsheet counts them, 1 for the header; 0 where the whole file is meant. */
  row: number;
  field: string;
  value: string;
  reason: string;
}

export type ReadKit<T> = { item: T; errors: [] } | { item: null; errors: KitError[] };

/** More faults than these are counted, not listed. */
export const MOST_ERRORS = 50;
