import { expect, test } from "@jest/globals";
import { billOf } from "#core/bill";
import { worldOf } from "#core/plan";
import { radioIn, valley } from "#core/testing";
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
  expect(runs.filter((one) => one === 24).length).toBe(radios.length - 1);
  expect(lineIn(bill, /Cuerda 5e/)).toMatchObject({ needed: metres, packs: Math.ceil(metres / 305) });
  expect(lineIn(bill, /Clavija RJ45/).needed).toBe(4 * radios.length);
  expect(lineIn(bill, /Guarda/)).toMatchObject({
    needed: 2 * radios.length,
    spare: Math.ceil((2 * radios.length) / 10),
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
