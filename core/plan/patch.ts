import { isFixed } from "./facts";
import type { RowKind, RowKinds } from "./kinds";

/** What a patch does to one row: sets some of its fields, puts it whole, or takes it out. Exactly one of the three. */
type Deed<K extends RowKind> =
  | { set: Partial<RowKinds[K]>; put?: undefined; remove?: undefined }
  | { put: RowKinds[K]; set?: undefined; remove?: undefined }
  | { remove: true; set?: undefined; put?: undefined };

/**
 * A change to one row, field by field, so that two people who change different fields of one thing both keep theirs.
 * `base` is the plan's revision that its author saw; a patch that was only computed has none yet.
 */
export type Patch = { [K in RowKind]: { kind: K; id: string; base?: number } & Deed<K> }[RowKind];

type Row = Record<string, unknown>;

/** Whether two values of a field are alike. */
export const same = (x: unknown, y: unknown) => x === y || JSON.stringify(x) === JSON.stringify(y);

/** The fields in which `after` differs from `before`, or null when there are none. */
function fieldsChanged(before: object, after: object): Row | null {
  const changed = Object.entries(after).filter(([field, value]) => !same(value, (before as Row)[field]));
  return changed.length > 0 ? Object.fromEntries(changed) : null;
}

/** The row as a patch leaves it; null if the row has been removed. Setting fields of a removed row does nothing. */
export function patched(row: object | null, patch: Patch): object | null {
  if (patch.remove) return null;
  if (patch.put) return patch.put;
  return row && { ...row, ...patch.set };
}

/** The patch that makes one row of another: what differs is set, a row that was not there is put. Null when nothing differs. */
export function patchBetween<K extends RowKind>(
  kind: K,
  before: RowKinds[K] | undefined | null,
  after: RowKinds[K],
): Patch | null {
  if (!before) return { kind, id: after.id, put: after } as Patch;
  const set = fieldsChanged(before, after);
  return set && ({ kind, id: after.id, set } as Patch);
}

/** Takes a row out. */
export function removePatch(kind: RowKind, id: string): Patch {
  return { kind, id, remove: true } as Patch;
}

/** Puts a row that was not there. */
export function putPatch<K extends RowKind>(kind: K, row: RowKinds[K]): Patch {
  return { kind, id: row.id, put: row } as Patch;
}

/** Sets some fields of a row. */
export function setPatch<K extends RowKind>(kind: K, id: string, set: Partial<RowKinds[K]>): Patch {
  return { kind, id, set } as Patch;
}

const older = (x?: number, y?: number) => (x === undefined || y === undefined ? (x ?? y) : Math.min(x, y));

/** One patch that does what two of the same row do, one after the other. */
function joined(first: Patch, second: Patch): Patch {
  const base = older(first.base, second.base);
  const withBase = (patch: Patch) => (base === undefined ? patch : { ...patch, base });
  if (!second.set || first.remove) return withBase(second);
  const { kind, id } = first;
  if (first.put) return withBase({ kind, id, put: { ...first.put, ...second.set } } as Patch);
  return withBase({ kind, id, set: { ...first.set, ...second.set } } as Patch);
}

/** The patches of two changes as one change: a row is named once, so a long drag stays one patch. */
export function mergePatches(earlier: readonly Patch[], later: readonly Patch[]): Patch[] {
  const merged = new Map<string, Patch>();
  for (const patch of [...earlier, ...later]) {
    const key = `${patch.kind} ${patch.id}`;
    const before = merged.get(key);
    // A row that was only put in hand and is taken out again leaves nothing.
    if (before?.put && patch.remove) merged.delete(key);
    else merged.set(key, before ? joined(before, patch) : patch);
  }
  return [...merged.values()];
}

/** The fields that a patch sets, without those that are never changed; none for a whole row or a removal. */
export function fieldsSet(patch: Patch): string[] {
  return patch.set ? Object.keys(patch.set).filter((field) => !isFixed(patch.kind, field)) : [];
}
