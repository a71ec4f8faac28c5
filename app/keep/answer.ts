import type { Conflict } from "#core/plan";

/** A conflict as it travels. */
export type ConflictWire = Omit<Conflict, "at"> & { at: string };

/** What the server answers to a change. `conflicts` stand where others changed the same fields since. */
export interface KeepAnswer {
  ok: boolean;
  message: string;
  /** The plan's revision after the change, or as it stood when it was refused; absent where nobody looked. */
  revision?: number;
  conflicts?: ConflictWire[];
}
