import { expect, test } from "@jest/globals";
import { FINDING_KINDS, type Finding } from "#core/findings";
import { withPatches, type Patch, type PlanRows } from "#core/plan";
import { radioIn, valley } from "#core/testing";
import { describePatches } from "./describe";
import { channelPatches, radioPatch } from "./patches";
import { parseSelection, selectionText } from "./selection";
import { isStage, stageOf, STAGE_KEYS, STAGES } from "./stages";

const told = (patches: Patch[], change: (rows: PlanRows) => void = () => undefined) => {
  const { world } = valley(0, change);
  return describePatches(world, withPatches(world, patches), patches);
};
const { world } = valley();
const radio = (id: string) => world.radios.get(id)!;

test("a change is told by name, field and both values", () => {
  expect(told([radioPatch({ ...radio("west-east"), heightM: 13.5 })])).toBe("west-east: height 20 → 13.5");
  expect(told([radioPatch({ ...radio("west-east"), txPowerDbm: 12, frequencyMHz: 5745, address: "10.0.0.2" })])).toBe(
    "west-east: frequency 5800 → 5745, power 20 → 12, address none → 10.0.0.2",
  );
  const east = world.sites.get("east")!;
  expect(told([{ kind: "sites", id: "east", row: { ...east, name: "East hill" } }])).toBe(
    "East hill: name east → East hill",
  );
});

test("values are told as people say them: kit by its model, ends by name, nothing as none", () => {
  const { antennaModelId } = radio("farm-radio");
  const other = [...world.antennaModels.values()].find(({ id, shape }) => shape === "dish" && id !== antennaModelId)!;
  expect(
    told([radioPatch({ ...radio("farm-radio"), antennaModelId: other.id, tiltDownDeg: -3.5, bracketTurned: true })]),
  ).toBe(
    `farm-radio: antenna ${world.antennaModels.get(antennaModelId)!.model} → ${other.model}, tilt none → −3.5, bracket turned over no → yes`,
  );
  const link = world.links.get("access")!;
  expect(told([{ kind: "links", id: "access", row: { ...link, aRadioId: "west-east" } }])).toBe(
    "link farm-radio: from sector → west-east",
  );
});

test("what comes and goes is told as added and removed, a link by its far radio", () => {
  expect(told([{ kind: "subscribers", id: "farm", row: null }])).toBe("removed farm");
  const house = { ...world.subscribers.get("farm")!, id: "house", name: "House" };
  expect(told([{ kind: "subscribers", id: "house", row: house }])).toBe("added House");
  expect(told([{ kind: "links", id: "access", row: null }])).toBe("removed link farm-radio");
  const link = world.links.get("access")!;
  expect(told([{ kind: "links", id: "access", row: { ...link, foliageDepthM: 12 } }])).toBe(
    "link farm-radio: trees 0 → 12",
  );
  expect(told([{ kind: "links", id: "more", row: { ...link, id: "more" } }])).toBe("added link farm-radio");
  expect(told([{ kind: "plans", id: "valley", row: world.plan }])).toBe("changed the plan's settings");
  expect(told([{ kind: "measurements", id: "m", row: null }])).toBe("removed a reading");
});

test("of many changes three are named and the others counted", () => {
  const raised = ["west-east", "east-west", "sector", "farm-radio"].map((id) =>
    radioPatch({ ...radio(id), heightM: 3 }),
  );
  expect(told(raised)).toBe(
    `west-east: height 20 → 3; east-west: height 20 → 3; sector: height ${radio("sector").heightM} → 3; and 1 more`,
  );
  expect(told(raised.slice(0, 3))).not.toContain("more");
});

test("a channel is changed for all that share it, and for nobody else", () => {
  const changed = (linkId: string) =>
    channelPatches(world, world.links.get(linkId)!, { frequencyMHz: 5745 }).map(({ id, row }) => [
      id,
      (row as { frequencyMHz: number }).frequencyMHz,
    ]);
  expect(changed("bridge")).toEqual([
    ["west-east", 5745],
    ["east-west", 5745],
  ]);
  const shared = valley(0, (rows) => {
    rows.radios.push({ ...radioIn(rows, "farm-radio"), id: "barn-radio" });
    rows.links.push({ ...rows.links.find(({ id }) => id === "access")!, id: "access-2", bRadioId: "barn-radio" });
  }).world;
  expect(
    channelPatches(shared, shared.links.get("access-2")!, { widthMHz: 40 })
      .map(({ id }) => id)
      .sort(),
  ).toEqual(["barn-radio", "farm-radio", "sector"]);
});

test("a selection stands in the address and is read back; what is none is none", () => {
  for (const kind of ["link", "site", "subscriber", "area"] as const)
    expect(parseSelection(selectionText({ kind, id: "x:1" }))).toEqual({ kind, id: "x:1" });
  for (const text of [null, "", "link:", "radio:1", "nothing"]) expect(parseSelection(text)).toBeNull();
});

test("every finding belongs to the stage in whose work it is mended", () => {
  const stage = (kind: Finding["kind"]) => stageOf({ kind } as Finding);
  expect(FINDING_KINDS.filter((kind) => stage(kind) !== "paths").sort()).toEqual(["bracket", "doubtful", "failed"]);
  expect([stage("bracket"), stage("failed"), stage("doubtful")]).toEqual(["install", "proof", "proof"]);
  expect(Object.values(STAGE_KEYS).sort()).toEqual([...STAGES].sort());
  expect([isStage("paths"), isStage("library"), isStage(undefined)]).toEqual([true, false, false]);
});
