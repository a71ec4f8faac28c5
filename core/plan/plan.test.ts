import { expect, test } from "@jest/globals";
import { reviewPlan } from "#core/evaluate";
import { channelRows } from "#core/interference";
import { fedSites, outcomeOf, peopleBehind } from "#core/outcome";
import {
  radioPatches,
  removePatch,
  setPatch,
  checkPatches,
  endOf,
  LIST_KINDS,
  nestingOf,
  newPlan,
  planSchema,
  ROW_SCHEMAS,
  withPatches,
  worldOf,
} from "#core/plan";
import { radioIn, valley } from "#core/testing";

const { rows, world } = valley();

test("every row of the test plan satisfies its kind's schema, and a new plan's settings do", () => {
  for (const kind of LIST_KINDS) for (const row of rows[kind]) expect(ROW_SCHEMAS[kind].parse(row)).toEqual(row);
  const plan = newPlan({ id: "p", name: "P", createdAt: "2026-01-01" });
  expect(planSchema.parse(plan)).toEqual(plan);
  expect(() => worldOf({ ...rows, plan: { ...plan, ruleSetId: "none" } })).toThrow("none");
});

test("patches make another world and leave the given one alone", () => {
  const patches = [
    setPatch("sites", "west", { name: "Renamed" }),
    removePatch("links", "access"),
    removePatch("equipment", rows.equipment[0]!.id),
  ];
  const next = withPatches(world, patches);
  expect([world.sites.get("west")!.name, next.sites.get("west")!.name]).toEqual(["west", "Renamed"]);
  expect([world.links.size, next.links.size]).toEqual([2, 1]);
  expect(next.subscribers).toBe(world.subscribers);
  expect(withPatches(world, [])).toBe(world);
  expect(next.radioModels.size + next.antennaModels.size + next.parts.size).toBe(rows.equipment.length - 1);
});

test("what cannot be built is refused by the radio, the value and its bound", () => {
  const bad = { ...world.radios.get("west-east")!, heightM: 60, frequencyMHz: 7000, txPowerDbm: 99, widthMHz: 3 };
  const problems = checkPatches(world, [
    ...radioPatches(world, bad),
    setPatch("links", "bridge", { bRadioId: "nobody" }),
  ]);
  const of = (name: string) =>
    problems.filter(({ id }) => id === name).map(({ field, message }) => `${field}: ${message}`);
  expect(of("west-east")).toEqual([
    "heightM: west-east: 60 m is above the 40 m that west offers",
    expect.stringMatching(/^frequencyMHz: west-east: 7000 MHz is outside the radio's/),
    expect.stringMatching(/^frequencyMHz: west-east: 7000 MHz is outside the antenna's/),
    expect.stringMatching(/^txPowerDbm: west-east: 99 dBm is outside/),
    expect.stringMatching(/^widthMHz: west-east: 3 MHz is not one of/),
  ]);
  // The far end has the same carrier: the channel moves for it too.
  expect(of("east-west").map((text) => text.split(":")[0])).toEqual(["frequencyMHz", "frequencyMHz", "widthMHz"]);
  expect(of("bridge")).toEqual(['bRadioId: this link: there is no radio "nobody" in the plan']);
});

test("an end knows its place, its dangers and how high it can go", () => {
  const made = valley(0, (all) => void (all.sites[0]!.hazards = "wasps"));
  expect(endOf(made.world, "sector")).toMatchObject({
    placeName: "west",
    maxHeightM: 40,
    hazards: "wasps",
    behind: "none",
  });
  expect(endOf(made.world, "farm-radio")).toMatchObject({ placeName: "farm", maxHeightM: 12, hazards: "" });
  expect(() => endOf(made.world, "nobody")).toThrow("radio nobody is not in the plan");
});

test("a site behind a bridge that does not work is not fed, and its customers are not served", () => {
  expect([...fedSites(world, () => true)].sort()).toEqual(["east", "west"]);
  expect([...fedSites(world, () => false)]).toEqual(["west"]);
  const moved = valley(0, (all) => {
    // The farm hangs on the far site now: the bridge carries it.
    radioIn(all, "sector").siteId = "east";
    radioIn(all, "sector").azimuthDeg = 275;
  });
  expect(peopleBehind(moved.world, moved.world.links.get("bridge")!)).toBe(3);
  expect(peopleBehind(world, world.links.get("bridge")!)).toBe(0);
  const blocked = valley(400, (all) => void (radioIn(all, "sector").siteId = "east"));
  const { outcome, summaries } = reviewPlan(blocked.world, blocked.between);
  expect(outcome.customersServed).toBe(0);
  expect(outcomeOf(blocked.world, summaries)).toEqual(outcome);
  expect(outcome.weakestLinkId).toBe("bridge");
  const open = reviewPlan(world, valley().between).outcome;
  expect(open).toMatchObject({ customersServed: 1, peopleServed: 3 });
  expect(open.costEur).toBeGreaterThan(0);
});

test("radios on sites are listed with what their scans heard, the noisiest first", () => {
  const made = valley(
    0,
    (all) =>
      void all.scans.push({
        id: "s",
        planId: "valley",
        siteId: "east",
        headingDeg: 270,
        beamwidthDeg: 60,
        gainDbi: 12,
        polarization: "V",
        scannedAt: "2026-01-01T00:00:00.000Z",
        source: "",
        binKHz: 1000,
        frequenciesMHz: Array.from({ length: 101 }, (_, i) => 5750 + i),
        levelsDbm: Array.from({ length: 101 }, (_, i) => (i > 40 && i < 60 ? -88 : -106)),
      }),
  );
  const { answers } = reviewPlan(made.world, made.between);
  const list = channelRows(made.world, answers);
  expect(list.map(({ radio: name, scanId }) => [name, scanId])).toEqual([
    ["east-west", "s"],
    ["west-east", null],
    ["sector", null],
  ]);
  expect(list[0]!.headingDeg).toBeCloseTo(270, 0);
  expect(list[0]!.floorDbm).toBeGreaterThan(list[1]!.floorDbm!);
});

test("brackets are counted where they nest, not where a text holds them, and an overlay is held against a bound", () => {
  expect(nestingOf("7")).toBe(0);
  expect(nestingOf('{"a":[1,{"b":2}],"c":[]}')).toBe(3);
  expect(nestingOf('{"a":"[[[[\\"[[","b":1}')).toBe(1);
  const overlay = { id: "o", planId: "p", name: "Lines", shown: true };
  const told = (geojson: string) => ROW_SCHEMAS.overlays.safeParse({ ...overlay, geojson }).error?.issues[0]?.message;
  const nested = (deep: number) =>
    `{"type":"FeatureCollection","features":[${"[".repeat(deep - 2)}${"]".repeat(deep - 2)}]}`;
  expect(told('{"type":"FeatureCollection","features":[]}')).toBeUndefined();
  expect(told(nested(32))).toBeUndefined();
  expect(told(nested(33))).toBe("nests 33 brackets, at most 32 are read");
  expect(told("[1]")).toBe("is no GeoJSON FeatureCollection");
  expect(told("{")).toBe("is no JSON");
});
