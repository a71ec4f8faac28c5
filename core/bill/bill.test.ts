import { describe, expect, test } from "@jest/globals";
import {
  billOf,
  deliveryOf,
  growthStages,
  kitOfStage,
  leaveOut,
  noStock,
  stockedLines,
  stockProblem,
  type Bill,
  type Stock,
} from "#core/bill";
import { setPatch, withPatches, worldOf } from "#core/plan";
import { radioIn, town, valley } from "#core/testing";
import { demoPlan, islandSurface } from "#demo";

const lineIn = (bill: ReturnType<typeof billOf>, name: RegExp) => bill.lines.find((line) => name.test(line.name))!;

test("the demo's quantities are what a count by hand gives", () => {
  const world = worldOf(demoPlan(islandSurface()));
  const bill = billOf(world);
  const radios = [...world.radios.values()];
  const ofModel = (id: string) => radios.filter(({ radioModelId }) => radioModelId === id).length;
  expect(lineIn(bill, /Vela 5$/)).toMatchObject({ needed: 7, spare: 0, packs: 7, priceEur: 7 * 230 });
  const clients = ofModel("brisote-vela-5c");
  expect(lineIn(bill, /Vela 5C/)).toMatchObject({ needed: clients, spare: Math.ceil(clients / 10) });
  expect(lineIn(bill, /Tramo 5/)).toMatchObject({ needed: 6, spare: 0 });
  // 20 m each but the tower's 114: a tenth more, two loops of a metre, whole metres.
  const runs = radios.map(({ ethernetM, indoorM }) => Math.ceil((ethernetM + indoorM) * 1.1 + 2));
  const metres = runs.reduce((sum, one) => sum + one, 0);
  // The two ends at 80 GHz hang on fibre.
  const glass = radios.filter(({ cableKind }) => cableKind === "fibre").length;
  expect([runs.filter((one) => one === 24).length, glass]).toEqual([radios.length - 1, 2]);
  expect(lineIn(bill, /Cuerda 5e/)).toMatchObject({
    needed: metres - glass * 24,
    packs: Math.ceil((metres - glass * 24) / 305),
  });
  expect(lineIn(bill, /Clavija RJ45/).needed).toBe(4 * (radios.length - glass));
  expect(lineIn(bill, /Guarda/)).toMatchObject({
    needed: 2 * (radios.length - glass),
    spare: Math.ceil((2 * (radios.length - glass)) / 10),
  });
  // The ridge's 700 W in panels of 200; 600 Ah at 24 V in batteries of 12 V and 100 Ah.
  expect(lineIn(bill, /Placa 200/).needed).toBe(4);
  expect(lineIn(bill, /Pila 12-100/).needed).toBe(12);
  expect(bill.missing).toEqual([]);
  const sum = bill.lines.reduce((all, { priceEur }) => all + priceEur, 0);
  expect(bill.priceEur).toBeCloseTo(sum, 6);
});

test("a bill of one radio holds what that radio takes, its bracket and fibre with it; a library without a part says which", () => {
  const made = valley(0, (rows) => {
    Object.assign(radioIn(rows, "sector"), { cableKind: "fibre", ethernetM: 150, bracketId: "tornel-garra-40-120" });
  });
  const sector = made.world.radios.get("sector")!;
  const bill = billOf(made.world, [sector], []);
  expect(lineIn(bill, /Garra 40/).needed).toBe(1);
  expect(lineIn(bill, /Hilo 2F/)).toMatchObject({ needed: Math.ceil(152 * 1.1 + 2), packs: 1, unit: "m" });
  expect(lineIn(bill, /Salto de luz/)).toMatchObject({ needed: 2, packOf: 2, packs: 1 });
  expect(bill.lines.some(({ kind }) => kind === "arrester" || kind === "earth")).toBe(false);
  const bare = valley(0, (rows) => (rows.equipment = rows.equipment.filter(({ kind }) => kind !== "part")));
  expect(billOf(bare.world).missing).toEqual(
    expect.arrayContaining(["cable of kind cat5e", "surge arresters", "injector of kind 802.3at", "earth kit"]),
  );
});

test("of an adaptive antenna one lies on the shelf", () => {
  const made = valley(0, (rows) => (radioIn(rows, "sector").antennaModelId = "brisote-abanico-5-16-90"));
  expect(lineIn(billOf(made.world), /Abanico/)).toMatchObject({ needed: 1, spare: 1, packs: 2 });
});

describe("chains", () => {
  const billWith = (change: (rows: Parameters<NonNullable<Parameters<typeof valley>[1]>>[0]) => void) =>
    billOf(valley(0, change).world);

  test("a switch takes the place of the injectors of what it feeds, a box that holds one spares it, by region", () => {
    const injectors = (bill: Bill) =>
      bill.lines.filter(({ kind }) => kind === "injector").reduce((sum, { needed }) => sum + needed, 0);
    const plain = billWith(() => undefined);
    const fed = billWith((rows) => (rows.sites[0]!.switchPartId = "tornel-nudo-8-at"));
    expect(injectors(plain) - injectors(fed)).toBe(2);
    expect(lineIn(fed, /Nudo 8 AT/)).toMatchObject({ needed: 1, deliveryDays: 4 });
    // The customer's radio of passive power has one in its box under both rule sets that name it, and under no other.
    const lines = (ruleSetId: string) =>
      billWith((rows) => (rows.plan.ruleSetId = ruleSetId)).lines.filter(({ name }) => name.includes("Foco 24"));
    expect(lines("cfr47")).toEqual([]);
    // Another injector than its own is not in its box.
    const other = billWith((rows) => (radioIn(rows, "farm-radio").injector = "802.3af"));
    expect(lineIn(other, /Foco AF/).needed).toBe(1);
    const bare = billWith((rows) => {
      for (const one of rows.equipment) if (one.kind === "radio") one.body.box = [];
    });
    expect(lineIn(bare, /Foco 24/).needed).toBe(1);
  });

  test("the earth lead is as thick as the kit asks; jumpers go by chain, arresters as planned", () => {
    const all = billWith((rows) => Object.assign(radioIn(rows, "sector"), { jumperM: 0.6, arresters: 1 }));
    expect(all.lines.filter(({ name }) => name.includes("Tierra")).map(({ name }) => name)).toEqual([
      "Tornel Tierra 16 mm²",
    ]);
    expect(lineIn(all, /Puente/)).toMatchObject({ needed: 2, packs: 1 });
    // Four radios with a joint each, and both ends of two jumpers: eight joints, six of which a roll does.
    expect(lineIn(all, /Butyl/).needed).toBe(2);
    const plain = billWith(() => undefined);
    expect(lineIn(plain, /Guarda/).needed - lineIn(all, /Guarda/).needed).toBe(1);
    const none = billWith((rows) => {
      for (const one of rows.equipment) if (one.kind === "radio") one.body.earthMm2 = 25;
    });
    expect(none.missing).toEqual(["an earth lead of 25 mm²"]);
    // A lead of which nobody told how thick it is serves where none is known to be thick enough.
    const untold = billWith((rows) => {
      for (const one of rows.equipment)
        if (one.id.startsWith("tornel-tierra-16")) Object.assign(one.body, { crossSectionMm2: null });
    });
    expect(untold.lines.some(({ name }) => name === "Tornel Tierra 16 mm²")).toBe(true);
  });

  test("a change waits for the slowest thing that it needs more of, and says of how many nobody knows", () => {
    const { world } = valley();
    const change = [setPatch("radios", "sector", { antennaModelId: "kestrane-bocina-5-16-30" })];
    expect(deliveryOf(world, withPatches(world, change), change)).toEqual({
      ...{ days: 35, name: "Kestrane Bocina 5-16/30", unknown: 0 },
    });
    const turn = [setPatch("radios", "sector", { azimuthDeg: 10 })];
    expect(deliveryOf(world, withPatches(world, turn), turn)).toBeNull();
    const { world: vague } = valley(0, (rows) => {
      for (const one of rows.equipment)
        if (one.id === "kestrane-bocina-5-16-30") Object.assign(one.body, { deliveryDays: null });
    });
    expect(deliveryOf(vague, withPatches(vague, change), change)).toMatchObject({ days: 0, unknown: 1 });
  });
});

describe("by stage of growth", () => {
  const { world } = valley(0, (rows) => {
    rows.links.find(({ bRadioId }) => bRadioId === "farm-radio")!.growthStage = 2;
  });

  test("a radio comes with its first link, a site with its first radio, and the stages make the whole", () => {
    const stages = growthStages(world);
    expect(stages).toEqual([1, 2]);
    const [first, second] = stages.map((stage) => kitOfStage(world, stage));
    expect(second!.radios.map(({ id }) => id)).toContain("farm-radio");
    expect(first!.radios.map(({ id }) => id)).not.toContain("farm-radio");
    expect(first!.radios.length + second!.radios.length).toBe(world.radios.size);
    const needed = (bill: Bill) =>
      bill.lines.filter(({ kind }) => kind === "radio").reduce((n, one) => n + one.needed, 0);
    const bills = [first!, second!].map(({ radios, sites }) => billOf(world, radios, sites));
    expect(needed(bills[0]!) + needed(bills[1]!)).toBe(needed(billOf(world)));
    // The customer comes to a site that stands already.
    expect(second!.sites).toEqual([]);
    expect(bills[1]!.lines.some(({ kind }) => kind === "enclosure")).toBe(false);
  });
});

describe("what is carried", () => {
  test("the kit of the mast goes up with half of its arresters; batteries and panels stay at the foot", () => {
    const { world } = valley();
    const bill = billOf(world);
    const byHand = bill.lines.map(({ kind, weightKg }) => {
      if (kind === "arrester") return weightKg / 2;
      return ["injector", "earth", "enclosure", "switch", "battery", "panel", "charger", "converter"].includes(kind)
        ? 0
        : weightKg;
    });
    expect(bill.climbKg).toBeCloseTo(
      byHand.reduce((sum, kg) => sum + kg, 0),
      9,
    );
    expect(bill.climbKg).toBeGreaterThan(0);
    expect(bill.climbKg).toBeLessThan(bill.weightKg);
  });

  test("a radio on a site's switch takes no injector when its bill stands alone", () => {
    const { world } = valley(0, (rows) => (rows.sites[0]!.switchPartId = "tornel-nudo-8-at"));
    const bill = billOf(world, [world.radios.get("sector")!], []);
    expect(bill.lines.filter(({ kind }) => kind === "injector")).toEqual([]);
  });
});

describe("what was bought", () => {
  const { world } = valley(0, town);
  const bill = billOf(world);
  const line = bill.lines.find(({ packOf, spare }) => packOf > 1 && spare === 0)!;
  const stock = (some: Partial<Stock>): Stock => ({ ...noStock(line.itemId), ...some });
  const withStock = (some: Partial<Stock>) =>
    stockedLines(bill, new Map([[line.itemId, stock(some)]])).find(({ itemId }) => itemId === line.itemId)!;

  test("lines say what is left to order in packs, on its way, and to be packed", () => {
    for (const one of stockedLines(bill, new Map())) {
      expect([one.leftToOrder, one.packsLeft, one.onItsWay]).toEqual([one.needed + one.spare, one.packs, 0]);
      expect(one.leftEur).toBeCloseTo(one.priceEur, 9);
    }
    const all = withStock({});
    // One short of the whole: still a pack, at the price of one.
    const short = withStock({ inStore: 3, ordered: line.needed - 4, arrived: 2, packed: 5 });
    expect([short.leftToOrder, short.packsLeft]).toEqual([1, 1]);
    expect(short.leftEur).toBeCloseTo(all.priceEur / all.packs, 9);
    expect([short.onItsWay, short.leftToPack]).toEqual([line.needed - 6, line.needed - 5]);
    const over = withStock({ inStore: line.needed + 50, packed: line.needed + 9 });
    expect([over.leftToOrder, over.packsLeft, over.leftEur, over.leftToPack]).toEqual([0, 0, 0, 0]);
  });

  test("more cannot arrive than was ordered, nor be packed than is there", () => {
    expect(stockProblem(stock({ inStore: 2, ordered: 3, arrived: 3, packed: 5 }))).toBeNull();
    expect(stockProblem(stock({ ordered: 3, arrived: 4 }))).toBe("4 arrived, but only 3 were ordered");
    expect(stockProblem(stock({ inStore: 2, ordered: 3, arrived: 2, packed: 5 }))).toBe(
      "5 packed, but only 4 are there",
    );
  });

  test("what can wait begins with whom the plan does not serve, then spares, then the dearest for what is asked", () => {
    const served = (linkId: string) => linkId !== "l1";
    const all = leaveOut(world, bill, served, 1e9);
    expect(all.map(({ kind }) => kind)).toEqual(["unserved", "spares", "customer", "customer", "customer"]);
    expect(all[0]).toMatchObject({ linkId: "l1", name: "house-1" });
    const customers = all.slice(2);
    const perMbps = customers.map(({ savesEur, demandMbps }) => savesEur / demandMbps);
    expect(perMbps).toEqual([...perMbps].sort((x, y) => y - x));
    // Its own kit by the piece: radio and antenna at their prices, and the rest of its run.
    const radio = world.radios.get("r1")!;
    const kitEur =
      world.radioModels.get(radio.radioModelId)!.priceEur + world.antennaModels.get(radio.antennaModelId)!.priceEur;
    expect(all[0]!.savesEur).toBeGreaterThan(kitEur + 20);
    expect(all[0]!.savesEur).toBeLessThan(kitEur + 150);
    const withoutSpares = bill.lines.reduce(
      (sum, { needed, packOf, packs, priceEur }) => sum + (priceEur / packs) * Math.ceil(needed / packOf),
      0,
    );
    expect(all[1]!.savesEur).toBeCloseTo(bill.priceEur - withoutSpares, 6);
    // It ends where enough is saved.
    expect(leaveOut(world, bill, served, all[0]!.savesEur - 1)).toHaveLength(1);
    expect(leaveOut(world, bill, served, all[0]!.savesEur + 1)).toHaveLength(2);
    expect(leaveOut(world, bill, served, 0)).toEqual([]);
  });
});
