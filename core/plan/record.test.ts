import { expect, test } from "@jest/globals";
import {
  againOf,
  conflictsOf,
  inverseOf,
  keptPatch,
  overConflicts,
  putPatch,
  removePatch,
  setPatch,
  withoutConflicts,
  type KeptChange,
  type Patch,
  type RowKind,
} from "#core/plan";
import { valley } from "#core/testing";

const west = valley().rows.sites.find(({ id }) => id === "west")!;
const row = (now: object | null) => (kind: RowKind, id: string) => (kind === "sites" && id === "west" ? now : null);
const change = (revision: number, set: object, was: object, more: Partial<KeptChange> = {}): KeptChange => ({
  revision,
  window: "ana",
  who: "Ana",
  at: new Date(0),
  patches: [{ kind: "sites", id: "west", set: { ...set }, was: { ...was } }],
  ...more,
});
const at = (base: number, patch: Patch): Patch => ({ ...patch, base });
const rename = (base: number, name = "mine") => at(base, setPatch("sites", "west", { name }));

test("only a field that another window changed after the base, to another value than mine, is a conflict", () => {
  const since = [change(5, { name: "theirs" }, { name: "west" })];
  const now = row({ ...west, name: "theirs" });
  expect(conflictsOf([rename(4)], now, since, "ben")).toMatchObject([
    { field: "name", theirs: "theirs", mine: "mine", who: "Ana", revision: 5 },
  ]);
  expect(conflictsOf([rename(5)], now, since, "ben")).toEqual([]);
  expect(conflictsOf([rename(4)], now, since, "ana")).toEqual([]);
  expect(conflictsOf([rename(4, "theirs")], now, since, "ben")).toEqual([]);
  expect(conflictsOf([at(4, setPatch("sites", "west", { notes: "n" }))], now, since, "ben")).toEqual([]);
});

test("what was changed and changed back is as its author saw it", () => {
  const since = [change(5, { name: "theirs" }, { name: "west" }), change(6, { name: "west" }, { name: "theirs" })];
  expect(conflictsOf([rename(4)], row(west), since, "ben")).toEqual([]);
  // Seen in between it is not.
  expect(conflictsOf([rename(5)], row(west), since, "ben")).toHaveLength(1);
});

test("gone, taken and worked upon: conflicts about the thing as a whole", () => {
  const gone: KeptChange = {
    ...change(5, {}, {}),
    patches: [{ kind: "sites", id: "west", remove: true, was: { ...west } }],
  };
  expect(conflictsOf([rename(4)], row(null), [gone], "ben")).toMatchObject([{ field: "", theirs: null, who: "Ana" }]);
  const taken = { ...west, name: "other" };
  expect(conflictsOf([at(4, putPatch("sites", west))], row(taken), [], "ben")).toMatchObject([
    { field: "", theirs: taken },
  ]);
  expect(conflictsOf([at(4, putPatch("sites", west))], row(west), [], "ben")).toEqual([]);
  const worked = [change(5, { notes: "n" }, { notes: "" })];
  expect(conflictsOf([at(4, removePatch("sites", "west"))], row(west), worked, "ben")).toMatchObject([
    { field: "", mine: null },
  ]);
  expect(conflictsOf([at(5, removePatch("sites", "west"))], row(west), worked, "ben")).toEqual([]);
});

test("a conflict is settled field by field: theirs is left out, mine begins anew on what stood against it", () => {
  const patch = at(4, setPatch("sites", "west", { name: "mine", notes: "n" }));
  const conflicts = conflictsOf(
    [patch],
    row({ ...west, name: "theirs" }),
    [change(5, { name: "theirs" }, { name: "west" })],
    "ben",
  );
  expect(withoutConflicts([patch], conflicts)).toEqual([at(4, setPatch("sites", "west", { notes: "n" }))]);
  expect(withoutConflicts([rename(4)], conflicts)).toEqual([]);
  expect(overConflicts([patch], conflicts)).toEqual([{ ...patch, base: 5 }]);
});

test("what is kept holds what stood there before, takes itself back and makes itself again", () => {
  const kept = keptPatch(west, setPatch("sites", "west", { name: "Peak", notes: west.notes }))!;
  expect(kept).toEqual({ kind: "sites", id: "west", set: { name: "Peak" }, was: { name: "west" } });
  expect(keptPatch(west, setPatch("sites", "west", { name: "west" }))).toBeNull();
  expect(keptPatch(null, removePatch("sites", "west"))).toBeNull();
  const [put, removed] = [keptPatch(null, putPatch("sites", west))!, keptPatch(west, removePatch("sites", "west"))!];
  expect(inverseOf([put, kept], 9)).toEqual([rename(9, "west"), at(9, removePatch("sites", "west"))]);
  expect(inverseOf([removed], 9)).toEqual([at(9, putPatch("sites", west))]);
  expect(againOf([put, kept, removed], 9)).toEqual([
    at(9, putPatch("sites", west)),
    rename(9, "Peak"),
    at(9, removePatch("sites", "west")),
  ]);
});
