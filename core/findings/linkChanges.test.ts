import { expect, test } from "@jest/globals";
import { answerOf } from "#core/outcome";
import { faultsOf, simpleChanges } from "#core/findings";
import { linkEnds, withPatches, type Patch, type Radio, type World } from "#core/plan";
import { onBridge, radioIn, valley, type ValleyRows } from "#core/testing";
import { checkOf } from "./checks";

/** Every change that is tried for one fault of the valley. */
function tried(kind: string, change: (rows: ValleyRows) => void, { ridgeM = 0, linkId = "bridge" } = {}) {
  const { world, between: profileBetween } = valley(ridgeM, change);
  const link = world.links.get(linkId)!;
  const answer = answerOf(world, link, profileBetween);
  const fault = faultsOf(world, link, answer, null).find((one) => one.check === kind);
  expect([kind, fault !== undefined]).toEqual([kind, true]);
  const given = { world, link, ...linkEnds(world, link), answer, profileBetween };
  return [...(checkOf(kind).candidates?.(given, fault!) ?? [])];
}
const labels = (...ask: Parameters<typeof tried>) => tried(...ask).map(({ label }) => label);
/** What patches set of a radio, the channel of its carrier included. */
const changed = (patches: Patch[], id: string) => {
  const mine = patches.filter((patch) => patch.id === id || (patch.kind === "carriers" && patch.id === CARRIER_OF[id]));
  return mine.length > 0 ? (Object.assign({}, ...mine.map(({ set }) => set)) as Partial<Radio>) : undefined;
};
const CARRIER_OF: Record<string, string> = { "east-west": "west-east", "farm-radio": "sector" };

test("an intruded zone: either end raised to half metres, as far as its structure goes", () => {
  const [west, east, ...others] = tried("tight", () => undefined, { ridgeM: 13 });
  expect([west!.label, east!.label]).toEqual([
    "Raise the west end from 20 to 25.5 m",
    "Raise the east end from 20 to 25.5 m",
  ]);
  expect(others).toEqual([]);
  expect(west!.patches).toHaveLength(1);
  expect(changed(west!.patches, "west-east")!.heightM).toBe(25.5);
  // Where one mast alone is too low, it goes to its top and the other to what is then needed.
  const low = labels("tight", (rows) => rows.sites.forEach((site) => (site.structureHeightM = 24)), { ridgeM: 13 });
  expect(low).toHaveLength(2);
  expect(low[0]).toMatch(/^Raise west to 24 m and east to 2[0-4](\.5)? m$/);
  expect(low[1]).toMatch(/^Raise east to 24 m and west to 2[0-4](\.5)? m$/);
  expect(labels("blocked", () => undefined, { ridgeM: 90 })).toEqual([]);
});

test("ends that do not match: one set like the other, either way", () => {
  expect(labels("mismatch", (rows) => void (radioIn(rows, "east-west").widthMHz = 40))).toEqual([
    "Set east-west to 5800 MHz, 20 MHz wide, like west-east",
    "Set west-east to 5800 MHz, 40 MHz wide, like east-west",
  ]);
});

test("an overloaded receiver: less power at one end or both, or smaller antennas turned down as well", () => {
  const found = tried("overload", (rows) => void (rows.sites[1]!.lonDeg = 20.0006));
  expect(found.slice(0, 3).map(({ label }) => label)).toEqual([
    "Turn west-east down to −5 dBm",
    "Turn both ends down, to −5 and −5 dBm",
    "Brisote Losa 5-16 (16 dBi) at west and east, turned down",
  ]);
  expect(found[1]!.patches.map(({ id }) => id)).toEqual(["west-east", "east-west"]);
  expect(changed(found[2]!.patches, "east-west")).toMatchObject({
    antennaModelId: "brisote-losa-5-16",
    txPowerDbm: -5,
  });
});

test("noise: two best channels for all that share it, then more level", () => {
  const found = labels("noise", (rows) => void (radioIn(rows, "west-east").interferenceDb = 40));
  expect(
    found.slice(0, 2).every((label) => /^Move both ends of west-east from 5800 to \d{4} MHz: \d+ dB/.test(label)),
  ).toBe(true);
  expect(found.slice(2)).toEqual([
    "Use the power that the cap leaves: west-east 27 dBm, east-west 27 dBm",
    "Brisote Plato 5-34 (34 dBi) at east and west",
    "Narrow the channel from 20 to 10 MHz",
  ]);
});

test("a weak link: power, every larger antenna at both ends, narrower channels", () => {
  const found = tried("weak", onBridge({ txPowerDbm: -5, antennaModelId: "brisote-losa-5-16" }));
  expect(found.map(({ label }) => label)).toEqual([
    "Use the power that the cap leaves: west-east 27 dBm, east-west 27 dBm",
    ...[
      "Losa 5-23 (23 dBi)",
      "Reja 5-27 (27 dBi)",
      "Plato 5-25 (25 dBi)",
      "Plato 5-30 (30 dBi)",
      "Plato 5-34 (34 dBi)",
    ].map((antenna) => `Brisote ${antenna} at east and west`),
    "Narrow the channel from 20 to 10 MHz",
  ]);
  // A larger antenna stays within its own caps: here the radio's greatest power.
  expect(changed(found[5]!.patches, "west-east")).toMatchObject({
    antennaModelId: "brisote-plato-5-34",
    txPowerDbm: 27,
  });
  expect(changed(found.at(-1)!.patches, "east-west")!.widthMHz).toBe(10);
});

test("too little for what is asked: wider channels for the sector and all its customers too", () => {
  const found = tried("demand", (rows) => void (rows.subscribers[0]!.demandMbps = 200), { linkId: "access" });
  const wider = found.filter(({ label }) => label.startsWith("A channel of"));
  expect(wider.map(({ label }) => label)).toEqual([
    "A channel of 40 instead of 20 MHz for sector and its 1 customer, at 5210 MHz",
    "A channel of 80 instead of 20 MHz for sector and its 1 customer, at 5190 MHz",
  ]);
  expect(wider[0]!.patches).toEqual([{ kind: "carriers", id: "sector", set: { frequencyMHz: 5210, widthMHz: 40 } }]);
});

test("over a cap: turned down to it, and what the far end may carry instead", () => {
  const found = tried("overEirp", (rows) => void (radioIn(rows, "sector").txPowerDbm = 27), { linkId: "access" });
  expect(found[0]!.label).toBe("Turn sector down from 27 to 19 dBm");
  expect(found[0]!.patches).toEqual([{ kind: "radios", id: "sector", set: { txPowerDbm: 19 } }]);
  expect(found[1]!.label).toBe("Turn sector down from 27 to 19 dBm, with Brisote Reja 5-27 (26 dBi) at farm");
  expect(changed(found[1]!.patches, "farm-radio")!.antennaModelId).toBe("brisote-reja-5-27");
  // Both ends over theirs are turned down together as well.
  expect(labels("overEirp", (rows) => void (rows.plan.ruleSetId = "en"))[1]).toBe(
    "Turn both ends down, to 6 and 6 dBm",
  );
});

test("outside a band, above a structure, unequal, beyond the bracket, outside the beam: the one change that mends each", () => {
  expect(labels("outOfBand", onBridge({ frequencyMHz: 6000 }))).toEqual([
    "Move the link to 5835 MHz",
    "Move the link to 5735 MHz",
  ]);
  const lowered = tried("tooHigh", (rows) => void (radioIn(rows, "east-west").heightM = 55));
  expect(lowered.map(({ label }) => label)).toEqual(["Lower east-west to the structure's 40 m"]);
  expect(changed(lowered[0]!.patches, "east-west")!.heightM).toBe(40);
  const onFarm = { linkId: "access" };
  const unequal = tried("polarization", (rows) => void (radioIn(rows, "farm-radio").polarization = "V"), onFarm);
  expect(unequal.map(({ label }) => label)).toEqual(["Set farm-radio to HV", "Set sector to V"]);
  expect(changed(unequal[0]!.patches, "farm-radio")!.polarization).toBe("HV");
  const steep = tried(
    "bracket",
    (rows) => {
      Object.assign(rows.subscribers[0]!, { latDeg: -1.0003, lonDeg: 20.0004, antennaHeightM: 4 });
      Object.assign(radioIn(rows, "farm-radio"), { heightM: 4, txPowerDbm: 0 });
      radioIn(rows, "sector").heightM = 34;
    },
    onFarm,
  );
  expect(steep[0]!.label).toBe("Mount the bracket of farm-radio turned over");
  expect(changed(steep[0]!.patches, "farm-radio")!.bracketTurned).toBe(true);
  expect(steep[2]!.label).toBe("Brisote Reja 5-27, whose bracket reaches 30° down and 30° up");
  const missed = tried("misaimed", (rows) => void (radioIn(rows, "sector").azimuthDeg = 230), onFarm);
  expect(missed.map(({ label }) => label)).toEqual(["Turn sector to 95°"]);
  expect(changed(missed[0]!.patches, "sector")!.azimuthDeg).toBe(95);
});

test("a customer can be served from another sector, with other kit where its band asks for it", () => {
  const offered = (rest: Partial<Radio>): { label: string; world: World } => {
    const { world, between } = valley(0, (rows) =>
      rows.radios.push({ ...radioIn(rows, "sector"), id: "other", name: "East sector", siteId: "east", ...rest }),
    );
    const link = world.links.get("access")!;
    const found = [...simpleChanges(world, link, answerOf(world, link, between), between)].filter(
      ({ kind }) => kind === "elsewhere",
    );
    expect(found).toHaveLength(1);
    return { label: found[0]!.label, world: withPatches(world, found[0]!.patches) };
  };
  const same = offered({ azimuthDeg: 270, frequencyMHz: 5240 });
  expect(same.label).toBe("Serve from east, East sector");
  expect(same.world.links.get("access")).toMatchObject({ aRadioId: "other", state: "planned" });
  expect(same.world.radios.get("farm-radio")).toMatchObject({ frequencyMHz: 5240, azimuthDeg: null });
  const nine = offered({
    radioModelId: "halvorn-duna-9",
    antennaModelId: "halvorn-losa-9-11",
    frequencyMHz: 915,
    widthMHz: 10,
  });
  expect(nine.label).toMatch(/^Serve from east, East sector with Duna 9/);
  expect(nine.world.radios.get("farm-radio")!.radioModelId).not.toBe("brisote-vela-5c");
});
