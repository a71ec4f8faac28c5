import { expect, test } from "@jest/globals";
import { planFaults } from "#core/evaluate";
import { checkOf } from "#core/findings";
import { withPatches, type World } from "#core/plan";
import { radioIn, town, valley, type ValleyRows } from "#core/testing";

const kitFaults = (world: World) =>
  planFaults(world, new Map()).filter(({ finding }) => finding.stage === "kit" || finding.stage === "staging");
const tools = {
  profileBetween: () => {
    throw new Error("no ground is asked for");
  },
  checksOf: () => [],
};

/** Every kit finding of a plan: its check, what it is about, and whether its first remedy mends it and breaks nothing else. */
function mended(change: (rows: ValleyRows) => void): [check: string, about: string, remedy: string | null][] {
  const { world } = valley(0, change);
  return kitFaults(world).map(({ finding, fault }) => {
    const [first] = checkOf(fault.check).remedies?.(world, fault, tools) ?? [];
    if (first) {
      const left = kitFaults(withPatches(world, first.patches)).map((one) => one.finding.id);
      expect(left).not.toContain(finding.id);
      expect(left.length).toBe(kitFaults(world).length - 1);
    }
    return [finding.check, finding.about[0]!.id, first?.label ?? null];
  });
}

test("a plan whose kit fits has nothing to tell", () => {
  expect(mended(() => undefined)).toEqual([]);
});

test("another kind of power destroys the radio; none, or an earlier standard, does not feed it; a later one does", () => {
  expect(mended((rows) => (radioIn(rows, "sector").injector = "passive24"))).toEqual([
    ["wrongInjector", "sector", "Plan an 802.3at injector"],
  ]);
  for (const injector of ["none", "802.3af"] as const)
    expect(mended((rows) => (radioIn(rows, "sector").injector = injector))).toEqual([
      ["notFed", "sector", "Plan an 802.3at injector"],
    ]);
  expect(mended((rows) => (radioIn(rows, "farm-radio").injector = "802.3at"))[0]![0]).toBe("wrongInjector");
  expect(mended((rows) => (radioIn(rows, "sector").injector = "802.3bt"))).toEqual([]);
});

test("copper over a hundred metres is told, fibre mends it; where the near side is short the switch may move", () => {
  expect(mended((rows) => (radioIn(rows, "sector").ethernetM = 112))).toEqual([
    ["longCable", "sector", "Lay fibre instead of copper"],
  ]);
  const { world } = valley(0, (rows) => {
    Object.assign(radioIn(rows, "sector"), { ethernetM: 96, indoorM: 9 });
  });
  const { fault } = kitFaults(world).find(({ finding }) => finding.check === "longCable")!;
  expect(checkOf("longCable").remedies!(world, fault, tools).map(({ label }) => label)).toEqual([
    "Lay fibre instead of copper",
    "Put the switch beside the injector",
  ]);
});

test("too few volts at the end of a run are told before the run is too long", () => {
  const found = mended((rows) => {
    Object.assign(radioIn(rows, "farm-radio"), { ethernetM: 95 });
    for (const one of rows.equipment) if (one.kind === "radio" && one.id === "brisote-vela-5c") one.body.loadW = 12.5;
  });
  expect(found).toEqual([["lowVoltage", "farm-radio", expect.stringMatching(/6A|fibre/)]]);
});

test("a pole that the clamp does not close around, or not grip, takes another bracket", () => {
  expect(mended((rows) => (rows.sites[0]!.poleDiameterMm = 90))).toEqual([
    ["pole", "sector", "Hold it with Tornel Garra 40–120"],
  ]);
  expect(mended((rows) => (rows.sites[0]!.poleDiameterMm = 20)).map(([check]) => check)).toEqual(["pole", "pole"]);
  expect(mended((rows) => (rows.sites[0]!.poleDiameterMm = 500))).toEqual([
    ["pole", "west-east", null],
    ["pole", "sector", null],
  ]);
});

test("one address twice, and a gateway outside its network, get the next free one", () => {
  expect(
    mended((rows) => {
      for (const site of rows.sites) site.subnet = "10.1.0.0/24";
      for (const id of ["west-east", "east-west"]) radioIn(rows, id).address = "10.1.0.5";
    }),
  ).toEqual([["address", "east-west", "Give it 10.1.0.1"]]);
  expect(mended((rows) => Object.assign(rows.sites[0]!, { subnet: "10.1.0.0/24", gateway: "10.2.0.1" }))).toEqual([
    ["gateway", "west", "Make 10.1.0.1 its gateway"],
  ]);
});

test("a customer's other firmware is told against his access point's, not where nobody looked", () => {
  expect(
    mended((rows) => {
      town(rows);
      radioIn(rows, "sector-2").firmware = "4.2.1";
      Object.assign(radioIn(rows, "r0"), { firmware: "4.1.0" });
      Object.assign(radioIn(rows, "r1"), { firmware: "4.2.1" });
    }),
  ).toEqual([["firmware", "r0", "Update it to 4.2.1 on the bench"]]);
});

test("a solar site is judged by its panels, its dullest month, days without sun, and by whether its radios ask for mains", () => {
  const west = (rest: object) => (rows: ValleyRows) => Object.assign(rows.sites[0]!, { power: "solar", ...rest });
  const onDc = (rest: object) => west({ switchPartId: "tornel-nudo-6-dc", ...rest });
  // Without a switch on direct current its injectors ask for mains, and without panels it has no source at all.
  expect(mended(west({}))).toEqual([
    [
      "solar",
      "west",
      expect.stringMatching(/^Plan panels of \d+ W instead of 0 and a battery of \d+ Ah instead of 0$/),
    ],
    ["mainsAtSolar", "west", "Plan Tornel Nudo 6 DC"],
  ]);
  expect(mended(onDc({})).map(([check]) => check)).toEqual(["solar"]);
  expect(mended(onDc({ panelW: 50, batteryAh: 2000 }))).toEqual([
    ["solar", "west", expect.stringMatching(/^Plan panels of \d+ W instead of 50$/)],
  ]);
  expect(mended(onDc({ panelW: 5000, batteryAh: 50 }))).toEqual([
    ["solar", "west", expect.stringMatching(/^Plan a battery of \d+ Ah instead of 50$/)],
  ]);
});

test("antennas that turn the mast by more than its owner allows are told", () => {
  expect(mended((rows) => (rows.sites[0]!.mastMomentNm = 100))).toEqual([["mastLoad", "west", null]]);
});

test("an adaptive antenna on a radio that cannot turn its beam takes one that can; a plain antenna asks for none", () => {
  const withModels = (steers: readonly boolean[]) => (rows: ValleyRows) => {
    const vela = rows.equipment.find(({ id }) => id === "brisote-vela-5")!;
    if (vela.kind !== "radio") throw new Error("the radio of the sector is no radio");
    const { body } = vela;
    rows.equipment = rows.equipment.flatMap((one) => {
      if (one.kind !== "radio" || !one.body.steersBeam) return [one];
      return one.id === vela.id ? [{ ...vela, body: { ...body, steersBeam: false } }] : [];
    });
    steers.forEach((steersBeam, i) => {
      const own = { id: `own-${i}`, model: `Own ${i}` };
      rows.equipment.push({ ...vela, id: own.id, body: { ...body, ...own, steersBeam } });
    });
    radioIn(rows, "sector").antennaModelId = "brisote-abanico-5-16-90";
  };
  expect(mended(withModels([false, true]))).toEqual([["idleBeam", "sector", "Use Own 1, which turns it"]]);
  expect(mended(withModels([false]))).toEqual([["idleBeam", "sector", null]]);
  expect(mended((rows) => (radioIn(rows, "sector").antennaModelId = "brisote-abanico-5-16-90"))).toEqual([]);
});

test("a crossed lead to a radio of passive power destroys it; a straight one mends it", () => {
  expect(mended((rows) => (radioIn(rows, "farm-radio").wiring = "crossed"))).toEqual([
    ["polarity", "farm-radio", "Plan a straight lead"],
  ]);
  expect(mended((rows) => (radioIn(rows, "sector").wiring = "crossed"))).toEqual([]);
});

test("indoor cable, missing arresters and jumpers that the budget lacks are told, each mended by its own field", () => {
  expect(mended((rows) => (radioIn(rows, "sector").cableKind = "cat5eIndoor"))).toEqual([
    ["indoorCable", "sector", "Lay shielded outdoor cable of category 5e"],
  ]);
  expect(mended((rows) => (radioIn(rows, "sector").arresters = 1))).toEqual([
    ["arrester", "sector", "Plan one at either end"],
  ]);
  expect(mended((rows) => Object.assign(radioIn(rows, "sector"), { jumperM: 3, cableLossDb: 0.5 }))).toEqual([
    ["jumpers", "sector", expect.stringMatching(/^Set its cable loss to 1\.\d dB$/)],
  ]);
  expect(mended((rows) => Object.assign(radioIn(rows, "sector"), { jumperM: 3, cableLossDb: 1.2 }))).toEqual([]);
});

test("a switch that gives too little or has too few sockets takes a larger one; one that only starts in turn is told too", () => {
  const fed = (part: object) => (rows: ValleyRows) => {
    rows.sites[0]!.switchPartId = "tornel-nudo-8-at";
    for (const one of rows.equipment)
      if (one.kind === "part" && one.id === "tornel-nudo-8-at") Object.assign(one.body, part);
  };
  expect(mended(fed({}))).toEqual([]);
  for (const part of [{ watts: 30 }, { ports: 1 }, { watts: 40 }])
    expect(mended(fed(part))).toEqual([["switchBudget", "west", "Plan Tornel Nudo 16 AT"]]);
});
