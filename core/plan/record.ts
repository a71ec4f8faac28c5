import { fieldsSet, patched, same, type Patch } from "./patch";
import type { RowKind } from "./kinds";

type Row = Record<string, unknown>;

/** A patch as the record keeps it: with what stood there before, so that it can be taken back. */
export type KeptPatch =
  | { kind: RowKind; id: string; set: Row; was: Row }
  | { kind: RowKind; id: string; put: Row }
  | { kind: RowKind; id: string; remove: true; was: Row };

/** A change of the record, as far as a later one has to know it. */
export interface KeptChange {
  revision: number;
  /** The browser window that made it, so that no window stands in its own way. */
  window: string;
  who: string;
  at: Date;
  patches: readonly KeptPatch[];
}

/** A field that somebody else changed since a patch was begun, with both values. `field` is empty for the thing as a whole. */
export interface Conflict {
  kind: RowKind;
  id: string;
  /** Name of the thing as people know it. */
  name: string;
  field: string;
  /** What stands there now, and what the patch wants; null where the thing is gone or would go. */
  theirs: unknown;
  mine: unknown;
  who: string;
  at: Date;
  /** Of the other change. */
  revision: number;
}

const nameOf = (row: object | null | undefined, id: string) => String((row as { name?: string } | null)?.name ?? id);

/** What was done to one row since a patch was begun, newest last. */
interface Touch {
  change: KeptChange;
  kept: KeptPatch;
}

/** What was done to each row, by its kind and id: a large change meets a long record once, not once for each of its patches. */
function touchesByRow(since: readonly KeptChange[]): Map<string, Touch[]> {
  const byRow = new Map<string, Touch[]>();
  for (const change of since)
    for (const kept of change.patches) {
      const key = `${kept.kind} ${kept.id}`;
      const touches = byRow.get(key);
      if (touches) touches.push({ change, kept });
      else byRow.set(key, [{ change, kept }]);
    }
  return byRow;
}

/** Whether a kept patch did anything to a field of its row; an empty field asks for the row as a whole. */
const touchesField = (kept: KeptPatch, field: string) => !("set" in kept) || field === "" || field in kept.set;

/** The value of a field at a patch's base: what the first change after it found there. */
function valueAt(touches: readonly Touch[], field: string, now: unknown): unknown {
  for (const { kept } of touches) if ("set" in kept && field in kept.set) return kept.was[field];
  return now;
}

/**
 * What stands against merging `patches` into the rows as they are: fields that another window changed since the patch's
 * base to another value, things that are gone, ids that are taken, and things to be removed that somebody has worked on.
 * `since` holds the changes after the oldest base, newest last.
 */
export function conflictsOf(
  patches: readonly Patch[],
  rowNow: (kind: RowKind, id: string) => object | null,
  since: readonly KeptChange[],
  window: string,
): Conflict[] {
  const conflicts: Conflict[] = [];
  const byRow = touchesByRow(since);
  for (const patch of patches) {
    const { kind, id, base = 0 } = patch;
    const row = rowNow(kind, id);
    const touches = (byRow.get(`${kind} ${id}`) ?? []).filter(({ change }) => change.revision > base);
    const others = touches.filter(({ change }) => change.window !== window);
    const by = (field: string) => others.findLast(({ kept }) => touchesField(kept, field))?.change;
    const add = (field: string, theirs: unknown, mine: unknown, change: KeptChange | undefined) =>
      conflicts.push({
        kind,
        id,
        name: nameOf(row ?? patch.put, id),
        field,
        theirs,
        mine,
        who: change?.who ?? "",
        at: change?.at ?? new Date(0),
        revision: change?.revision ?? base,
      });
    if (patch.put) {
      if (row && !same(row, patch.put)) add("", row, patch.put, by(""));
    } else if (patch.remove) {
      const change = by("");
      if (row && change) add("", row, null, change);
    } else if (!row) add("", null, patch.set, by(""));
    else
      for (const field of fieldsSet(patch)) {
        const change = by(field);
        const [theirs, mine] = [(row as Row)[field], (patch.set as Row)[field]];
        // What was changed and changed back is as its author saw it.
        const isAsSeen = same(theirs, valueAt(touches, field, theirs));
        if (change && !isAsSeen && !same(theirs, mine)) add(field, theirs, mine, change);
      }
  }
  return conflicts;
}

/** A patch as it will be kept over the row that stands there; null when it changes nothing. */
export function keptPatch(row: object | null, patch: Patch): KeptPatch | null {
  const { kind, id } = patch;
  if (patch.remove) return row && { kind, id, remove: true, was: row as Row };
  if (patch.put) return row ? null : { kind, id, put: patch.put };
  const after = row && (patched(row, patch) as Row);
  const fields = after ? fieldsSet(patch).filter((field) => !same((row as Row)[field], after[field])) : [];
  if (!after || fields.length === 0) return null;
  const pick = (from: Row) => Object.fromEntries(fields.map((field) => [field, from[field]]));
  return { kind, id, set: pick(after), was: pick(row as Row) };
}

/** The patches that take a kept change back, last first; `base` is its revision. */
export function inverseOf(patches: readonly KeptPatch[], base: number): Patch[] {
  return [...patches].reverse().map((kept) => {
    const { kind, id } = kept;
    if ("put" in kept) return { kind, id, base, remove: true } as Patch;
    if ("remove" in kept) return { kind, id, base, put: kept.was } as unknown as Patch;
    return { kind, id, base, set: kept.was } as Patch;
  });
}

/** The patches that make a kept change again. */
export function againOf(patches: readonly KeptPatch[], base: number): Patch[] {
  return patches.map((kept) => {
    const { kind, id } = kept;
    if ("put" in kept) return { kind, id, base, put: kept.put } as unknown as Patch;
    if ("remove" in kept) return { kind, id, base, remove: true } as Patch;
    return { kind, id, base, set: kept.set } as Patch;
  });
}

/** The patches without the fields that conflicts name, so that the rest can be kept. */
export function withoutConflicts(patches: readonly Patch[], conflicts: readonly Conflict[]): Patch[] {
  return patches.flatMap((patch) => {
    const mine = conflicts.filter(({ kind, id }) => kind === patch.kind && id === patch.id);
    if (mine.length === 0) return [patch];
    if (!patch.set || mine.some(({ field }) => field === "")) return [];
    const left = Object.entries(patch.set).filter(([name]) => mine.every(({ field }) => field !== name));
    return left.length > 0 ? [{ ...patch, set: Object.fromEntries(left) } as Patch] : [];
  });
}

/** Patches that know of a conflict and go on all the same: begun anew on the change that stood against them. */
export function overConflicts(patches: readonly Patch[], conflicts: readonly Conflict[]): Patch[] {
  return patches.map((patch) => {
    const mine = conflicts.filter(({ kind, id }) => kind === patch.kind && id === patch.id);
    if (mine.length === 0) return patch;
    return { ...patch, base: Math.max(patch.base ?? 0, ...mine.map(({ revision }) => revision)) };
  });
}
