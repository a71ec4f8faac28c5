import { expect, test } from "@jest/globals";
import {
  fieldsSet,
  freeName,
  mergePatches,
  mountsLeft,
  newSite,
  newSubscriber,
  patchBetween,
  patched,
  plainIssue,
  putPatch,
  radioPatches,
  radiosTouched,
  removePatch,
  rowIn,
  rowsOfBefore,
  setPatch,
  siteSchema,
  subscriberSchema,
  withPatches,
  type Patch,
} from "#core/plan";
import { radioIn, valley } from "#core/testing";

const { rows, world } = valley();
const west = rows.sites.find(({ id }) => id === "west")!;

test("a patch between two rows sets what differs, puts what was not there, and is none where nothing differs", () => {
  expect(patchBetween("sites", west, { ...west, name: "Peak", notes: "n" })).toEqual(
    setPatch("sites", "west", { name: "Peak", notes: "n" }),
  );
  expect(patchBetween("sites", west, { ...west })).toBeNull();
  expect(patchBetween("sites", undefined, west)).toEqual(putPatch("sites", west));
  expect(patchBetween("plans", rows.plan, { ...rows.plan, ownRules: [] })).toBeNull();
});

test("a row is set, put and taken out; what is gone stays gone", () => {
  expect(patched(west, setPatch("sites", "west", { name: "Peak" }))).toEqual({ ...west, name: "Peak" });
  expect(patched(null, setPatch("sites", "west", { name: "Peak" }))).toBeNull();
  expect(patched(null, putPatch("sites", west))).toBe(west);
  expect(patched(west, removePatch("sites", "west"))).toBeNull();
});

test("patches of one row are one patch: fields of both, the later value, the older base", () => {
  const first = { ...setPatch("sites", "west", { name: "a", notes: "x" }), base: 7 };
  const second = { ...setPatch("sites", "west", { name: "b", access: "y" }), base: 9 };
  expect(mergePatches([first], [second, setPatch("sites", "east", { name: "c" })])).toEqual([
    { kind: "sites", id: "west", base: 7, set: { name: "b", notes: "x", access: "y" } },
    setPatch("sites", "east", { name: "c" }),
  ]);
  expect(mergePatches([putPatch("sites", west)], [setPatch("sites", "west", { name: "b" })])).toEqual([
    putPatch("sites", { ...west, name: "b" }),
  ]);
  // What was only put in hand and is taken out again leaves nothing; what was set and goes, goes.
  expect(mergePatches([putPatch("sites", west)], [removePatch("sites", "west")])).toEqual([]);
  expect(mergePatches([first], [removePatch("sites", "west")])).toEqual([{ ...removePatch("sites", "west"), base: 7 }]);
});

test("a radio's channel belongs to its carrier: all on it move, and a new carrier is put", () => {
  const sector = world.radios.get("sector")!;
  const moved = withPatches(world, radioPatches(world, { ...sector, frequencyMHz: 5300, heightM: 22 }));
  expect(moved.radios.get("sector")).toMatchObject({ frequencyMHz: 5300, heightM: 22 });
  expect(moved.radios.get("farm-radio")).toMatchObject({ frequencyMHz: 5300, heightM: 8 });
  expect(world.radios.get("farm-radio")!.frequencyMHz).toBe(5200);
  expect(radioPatches(world, sector)).toEqual([]);
  const fresh = radioPatches(world, { ...sector, id: "new", carrierId: "new" });
  expect(fresh.map(({ kind, put }) => [kind, put !== undefined])).toEqual([
    ["carriers", true],
    ["radios", true],
  ]);
  expect(rowIn(withPatches(world, fresh), "radios", "new")).not.toHaveProperty("frequencyMHz");
  expect([...radiosTouched([world], [setPatch("carriers", "sector", { widthMHz: 40 })])].sort()).toEqual([
    "farm-radio",
    "sector",
  ]);
});

test("rows of before get carriers, and mounts are counted with the radios on them", () => {
  const radios = [...world.radios.values()];
  const before = rowsOfBefore({ ...rows, radios });
  expect(before.radios).toEqual(rows.radios);
  expect(before.carriers).toEqual(rows.carriers);
  expect(before.sites.map(({ freeMounts }) => freeMounts)).toEqual([5, 4]);
});

test("mounts count down with every radio planned at a site, and fall short below nothing", () => {
  expect(mountsLeft(world, west)).toBe(west.freeMounts - 2);
  const crowded = valley(0, (all) => {
    for (const id of ["s2", "s3"]) all.radios.push({ ...radioIn(all, "sector"), id });
  });
  expect(mountsLeft(crowded.world, crowded.world.sites.get("west")!)).toBe(-1);
});

test("new places pass their schemas, stand where they were put to a tenth of a metre, and have names of their own", () => {
  const own = { id: "x", planId: "valley", name: "X", latDeg: -1.23456789, lonDeg: 20.1 };
  expect(siteSchema.parse(newSite(own))).toMatchObject({ latDeg: -1.234568, lonDeg: 20.1, name: "X" });
  const customer = subscriberSchema.parse(newSubscriber(own));
  expect(customer.maxHeightM).toBeGreaterThan(customer.antennaHeightM);
  expect(freeName([{ name: "Site 1" }, { name: "site 2" }], "Site")).toBe("Site 3");
  const long = "x".repeat(120);
  expect(freeName([{ name: `${"x".repeat(118)} 1` }], long)).toBe(`${"x".repeat(118)} 2`);
});

test("what is wrong with a value is told as a person says it", () => {
  const told = (change: object) => {
    const parsed = siteSchema.safeParse({ ...west, ...change });
    return parsed.success ? "" : plainIssue(parsed.error.issues[0]!);
  };
  expect(told({ latDeg: 91 })).toBe("must be at most 90");
  expect(told({ structureHeightM: -1 })).toBe("must be at least 0");
  expect(told({ structureHeightM: NaN })).toBe("is not a number");
  expect(told({ name: " " })).toBe("needs a name");
  expect(told({ access: "x".repeat(1001) })).toBe("must be at most 1000 characters");
  expect(told({ power: "wind" })).toBe("must be one of mains, solar, none");
  expect(told({ name: 3 })).toBe("is no string");
});

test("what an outline stands for, or which kind a link is, is set like any field; what a sheet of the library is, never", () => {
  expect(fieldsSet(setPatch("areas", "wood", { kind: "building", heightM: 4 }))).toEqual(["kind", "heightM"]);
  expect(fieldsSet({ kind: "equipment", id: "x", set: { kind: "part", id: "y" } } as unknown as Patch)).toEqual([]);
});
