import { expect, test } from "@jest/globals";
import { channelRows, fedSites, outcomeOf, peopleBehind, reviewPlan } from "#core/findings";
import {
  checkEdits,
  endOf,
  LIST_KINDS,
  mergeEdits,
  newPlan,
  planSchema,
  ROW_SCHEMAS,
  withEdits,
  worldOf,
  type Edit,
} from "#core/plan";
import { radio, radioIn, valley } from "#core/testing";

const { rows, world } = valley();

test("every row of the test plan satisfies its kind's schema, and a new plan's settings do", () => {
  for (const kind of LIST_KINDS) for (const row of rows[kind]) expect(ROW_SCHEMAS[kind].parse(row)).toEqual(row);
  const plan = newPlan({ id: "p", name: "P", createdAt: "2026-01-01" });
  expect(planSchema.parse(plan)).toEqual(plan);
  expect(() => worldOf({ ...rows, plan: { ...plan, ruleSetId: "none" } })).toThrow("none");
});

test("edits make another world and leave the given one alone", () => {
  const site = { ...rows.sites[0]!, name: "Renamed" };
  const edits: Edit[] = [
    { kind: "sites", id: "west", row: site },
    { kind: "links", id: "access", row: null },
    { kind: "equipment", id: rows.equipment[0]!.id, row: null },
  ];
  const next = withEdits(world, edits);
  expect([world.sites.get("west")!.name, next.sites.get("west")!.name]).toEqual(["west", "Renamed"]);
  expect([world.links.size, next.links.size]).toEqual([2, 1]);
  expect(next.subscribers).toBe(world.subscribers);
  expect(withEdits(world, [])).toBe(world);
  expect(next.radioModels.size + next.antennaModels.size).toBe(rows.equipment.length - 1);
});

test("the later edit of a row replaces the earlier; edits of other rows stay", () => {
  const put = (id: string, heightM: number): Edit => ({
    kind: "radios",
    id,
    row: radio(id, { siteId: "west", heightM }),
  });
  const merged = mergeEdits([put("a", 1), put("b", 2)], [put("a", 3)]);
  expect(merged.map(({ id, row }) => [id, (row as { heightM: number }).heightM])).toEqual([
    ["a", 3],
    ["b", 2],
  ]);
});

test("what cannot be built is refused by the radio, the value and its bound", () => {
  const bad = { ...radioIn(rows, "west-east"), heightM: 60, frequencyMHz: 7000, txPowerDbm: 99, widthMHz: 3 };
  const problems = checkEdits(world, [
    { kind: "radios", id: bad.id, row: bad },
    { kind: "links", id: "bridge", row: { ...rows.links[0]!, bRadioId: "nobody" } },
  ]);
  expect(problems.map(({ field, message }) => `${field}: ${message}`)).toEqual([
    "heightM: west-east: 60 m is above the 40 m that west offers",
    expect.stringMatching(/^frequencyMHz: west-east: 7000 MHz is outside the radio's/),
    expect.stringMatching(/^frequencyMHz: west-east: 7000 MHz is outside the antenna's/),
    expect.stringMatching(/^txPowerDbm: west-east: 99 dBm is outside/),
    expect.stringMatching(/^widthMHz: west-east: 3 MHz is not one of/),
    "bRadioId: the link ends at radio nobody, which is not in the plan",
  ]);
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
