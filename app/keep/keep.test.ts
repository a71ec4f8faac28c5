import { expect, test } from "@jest/globals";
import { valley } from "#core/testing";
import { MOST_PATCHES, parseDraft, parsePatches } from "./patches.server";

const site = valley().rows.sites[0]!;
const parse = (patches: unknown) => parsePatches(patches, "valley");

test("patches that set, put and remove are taken, as their schemas make them", async () => {
  expect(
    await parse([
      { kind: "sites", id: "west", base: 3, set: { name: "  Peak ", structureHeightM: 12 } },
      { kind: "sites", id: "new", put: { ...site, id: "new" } },
      { kind: "links", id: "access", remove: true },
      { kind: "plans", id: "valley", set: { kFactor: 1.2 } },
    ]),
  ).toEqual({
    patches: [
      { kind: "sites", id: "west", base: 3, set: { name: "Peak", structureHeightM: 12 } },
      { kind: "sites", id: "new", put: { ...site, id: "new" } },
      { kind: "links", id: "access", remove: true },
      { kind: "plans", id: "valley", set: { kFactor: 1.2 } },
    ],
  });
});

test("patches that cannot be taken are refused by kind, row, field and bound", async () => {
  const refused: [unknown, RegExp][] = [
    ["[", /holds no list/],
    [[], /the change is empty/],
    [Array.from({ length: MOST_PATCHES + 1 }, () => ({})), /more than 25000 rows/],
    [[{ kind: "sites", id: "west", set: { latDeg: 95 } }], /sites west, latDeg: must be at most 90/],
    [[{ kind: "sites", id: "west", put: { ...site, latDeg: 95 } }], /sites west, latDeg: must be at most 90/],
    [[{ kind: "sites", id: "west", set: { height: 3 } }], /sites west, height: there is no such field/],
    [[{ kind: "sites", id: "west", set: { id: "east" } }], /sites west, id: there is no such field/],
    [[{ kind: "sites", id: "west", set: {} }], /it sets no field/],
    [[{ kind: "sites", id: "west" }], /it must set fields, put a row or remove one/],
    [[{ kind: "sites", id: "west", remove: true, set: { name: "x" } }], /it must set fields, put a row or remove one/],
    [[{ kind: "towers", id: "west", remove: true }], /towers west, kind: there is no such kind/],
    [[{ kind: "sites", id: "west", base: -1, remove: true }], /sites west, base/],
    [[{ kind: "plans", id: "valley", remove: true }], /of the plan itself only settings/],
    [[{ kind: "plans", id: "other", set: { kFactor: 1 } }], /of the plan itself only settings/],
    [[{ kind: "sites", id: "other", put: site }], /sites other: it carries the row of west/],
    [[{ kind: "sites", id: "west", put: { ...site, planId: "else" } }], /in plan else/],
    [[null], /undefined undefined/],
  ];
  for (const [patches, message] of refused)
    expect(((await parse(patches)) as { error: string }).error).toMatch(message);
});

test("a change in hand that comes with a question may be empty; one that cannot be read is refused as such", async () => {
  expect(await parseDraft([], "valley")).toEqual([]);
  expect(await parseDraft([{ kind: "sites", id: "west", set: { notes: "x" } }], "valley")).toHaveLength(1);
  let thrown: unknown = null;
  try {
    await parseDraft([{ kind: "sites", id: "west", set: { latDeg: 95 } }], "valley");
  } catch (refused) {
    thrown = refused;
  }
  expect(thrown).toMatchObject({
    data: expect.stringMatching(/^The change in hand cannot be read: sites west, latDeg/),
    init: { status: 400 },
  });
});
