import { expect, test } from "@jest/globals";
import { CHECKS, countsByStage } from "#core/findings";
import { putPatch, radioPatches, removePatch, setPatch, withPatches, type Patch, type Radio } from "#core/plan";
import { radioIn, valley, type ValleyRows } from "#core/testing";
import { describePatches } from "./describe";
import { channelPatches } from "./patches";
import { parseSelection, selectionText } from "./selection";

const told = (patches: Patch[], change: (rows: ValleyRows) => void = () => undefined) => {
  const { world } = valley(0, change);
  return describePatches(world, withPatches(world, patches), patches);
};
const { world } = valley();
const radio = (id: string) => world.radios.get(id)!;
const changed = (row: Radio) => radioPatches(world, row);

test("a change is told by name, field and both values", () => {
  expect(told(changed({ ...radio("west-east"), heightM: 13.5 }))).toBe("west-east: height 20 → 13.5");
  expect(told(changed({ ...radio("west-east"), txPowerDbm: 12, frequencyMHz: 5745, address: "10.0.0.2" }))).toBe(
    "channel of west-east: frequency 5800 → 5745; west-east: transmit power 20 → 12, address none → 10.0.0.2",
  );
  expect(told([setPatch("sites", "east", { name: "East hill" })])).toBe("East hill: name east → East hill");
});

test("values are told as people say them: kit by its model, ends by name, nothing as none", () => {
  const { antennaModelId } = radio("farm-radio");
  const other = [...world.antennaModels.values()].find(({ id, shape }) => shape === "dish" && id !== antennaModelId)!;
  expect(
    told(changed({ ...radio("farm-radio"), antennaModelId: other.id, tiltDownDeg: -3.5, bracketTurned: true })),
  ).toBe(
    `farm-radio: antenna ${world.antennaModels.get(antennaModelId)!.model} → ${other.model}, downtilt none → −3.5, bracket turned over no → yes`,
  );
  const link = world.links.get("access")!;
  expect(told([setPatch("links", link.id, { aRadioId: "west-east" })])).toBe(
    "link farm-radio: from sector → west-east",
  );
});

test("what comes and goes is told as added and removed, a link by its far radio", () => {
  expect(told([removePatch("subscribers", "farm")])).toBe("removed farm");
  const house = { ...world.subscribers.get("farm")!, id: "house", name: "House" };
  expect(told([putPatch("subscribers", house)])).toBe("added House");
  expect(told([removePatch("links", "access")])).toBe("removed link farm-radio");
  const link = world.links.get("access")!;
  expect(told([setPatch("links", "access", { foliageDepthM: 12 })])).toBe("link farm-radio: trees 0 → 12");
  expect(told([putPatch("links", { ...link, id: "more" })])).toBe("added link farm-radio");
  expect(told([setPatch("plans", "valley", { kFactor: 1 })])).toBe("changed the plan's settings");
  expect(told([removePatch("measurements", "m")])).toBe("removed a reading");
});

test("of many changes three are named and the others counted", () => {
  const raised = ["west-east", "east-west", "sector", "farm-radio"].flatMap((id) =>
    changed({ ...radio(id), heightM: 3 }),
  );
  expect(told(raised)).toBe(
    `west-east: height 20 → 3; east-west: height 20 → 3; sector: height ${radio("sector").heightM} → 3; and 1 more`,
  );
  expect(told(raised.slice(0, 3))).not.toContain("more");
});

test("a channel is changed where it stands, and a far end that stood on another one joins", () => {
  expect(channelPatches(world, world.links.get("bridge")!, { frequencyMHz: 5745 })).toEqual([
    setPatch("carriers", "west-east", { frequencyMHz: 5745 }),
  ]);
  const shared = valley(0, (rows) => {
    rows.radios.push({ ...radioIn(rows, "farm-radio"), id: "barn-radio", frequencyMHz: 5745 });
    rows.links.push({ ...rows.links.find(({ id }) => id === "access")!, id: "access-2", bRadioId: "barn-radio" });
  }).world;
  const patches = channelPatches(shared, shared.links.get("access")!, { widthMHz: 40 });
  expect(patches).toEqual([
    setPatch("carriers", "sector", { widthMHz: 40 }),
    setPatch("radios", "barn-radio", { carrierId: "sector" }),
  ]);
  const after = withPatches(shared, patches);
  for (const id of ["sector", "farm-radio", "barn-radio"])
    expect(after.radios.get(id)).toMatchObject({ frequencyMHz: 5200, widthMHz: 40 });
});

test("a selection stands in the address and is read back; what is none is none", () => {
  for (const kind of ["link", "site", "subscriber", "radio", "area"] as const)
    expect(parseSelection(selectionText({ kind, id: "x:1" }))).toEqual({ kind, id: "x:1" });
  for (const text of [null, "", "link:", "tower:1", "nothing"]) expect(parseSelection(text)).toBeNull();
});

test("every check belongs to the stage in whose work it is mended", () => {
  const at = (stage: string) => CHECKS.filter((check) => check.stage === stage).map(({ id }) => id);
  expect([at("channels"), at("install"), at("acceptance")]).toEqual([
    expect.arrayContaining(["noise", "ownNoise"]),
    ["mounts", "bracket"],
    ["failed", "doubtful"],
  ]);
  const counts = countsByStage([{ stage: "acceptance" }, { stage: "paths" }, { stage: "paths" }] as const);
  expect(counts).toEqual({
    survey: 0,
    paths: 2,
    sectors: 0,
    channels: 0,
    capacity: 0,
    kit: 0,
    staging: 0,
    install: 0,
    acceptance: 1,
    monitoring: 0,
  });
});
