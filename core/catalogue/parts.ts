import { partSchema, type Part, type PartKind } from "../plan";

/** Parts of invented makers, noted 2026-11-26: price of a pack, weight of a piece or metre. */

type Sheet = [model: string, priceEur: number, weightKg: number, rest?: Partial<Part>];
const MAKER: Partial<Record<PartKind, string>> = { battery: "Halvorn", panel: "Halvorn", charger: "Halvorn" };

/** Days from the order to the door. */
const DELIVERY_DAYS: Record<string, number> = { Tornel: 4, Halvorn: 16 };

function parts(kind: PartKind, sheets: readonly Sheet[]): Part[] {
  const maker = MAKER[kind] ?? "Tornel";
  return sheets.map(([model, priceEur, weightKg, rest]) =>
    partSchema.parse({
      id: `${maker} ${model}`.toLowerCase().replace(/[^a-z0-9]+/g, "-"),
      ...{ maker, model, kind, priceEur, weightKg, deliveryDays: DELIVERY_DAYS[maker] },
      ...rest,
    }),
  );
}

export const PARTS: readonly Part[] = [
  ...parts("bracket", [
    ["Garra 40–120", 24, 1.6, { poleMm: [40, 120] }],
    ["Garra 100–220", 58, 3.4, { poleMm: [100, 220] }],
    ["Garra 15–45", 14, 0.7, { poleMm: [15, 45] }],
  ]),
  ...parts("pole", [
    ["Mástil 48 × 2000", 38, 6.4, { notes: "hot-dip galvanized steel" }],
    ["Mástil 60 × 3000", 67, 12.5, { notes: "hot-dip galvanized steel" }],
  ]),
  ...parts("cable", [
    ["Cuerda 5e outdoor, shielded", 165, 0.055, { unit: "m", packOf: 305, standard: "cat5e" }],
    ["Cuerda 6A outdoor, shielded", 310, 0.078, { unit: "m", packOf: 305, standard: "cat6a" }],
    ["Hilo 2F outdoor fibre", 240, 0.03, { unit: "m", packOf: 500, standard: "fibre" }],
    ["Tierra 6 mm²", 44, 0.07, { unit: "m", packOf: 50, standard: "earth", crossSectionMm2: 6 }],
    ["Tierra 16 mm²", 96, 0.17, { unit: "m", packOf: 50, standard: "earth", crossSectionMm2: 16 }],
    ["Cuerda 5e indoor", 80, 0.035, { unit: "m", packOf: 305, standard: "cat5eIndoor" }],
  ]),
  ...parts("connector", [
    ["Clavija RJ45, metal", 42, 0.006, { packOf: 50 }],
    ["Clavija LC duplex", 30, 0.004, { packOf: 10, standard: "fibre" }],
  ]),
  ...parts("jumper", [["Puente 0.6 m", 18, 0.12, { packOf: 2 }]]),
  ...parts("injector", [
    ["Foco 24 P", 12, 0.2, { standard: "passive24", volts: 24, watts: 24 }],
    ["Foco AF", 16, 0.2, { standard: "802.3af", volts: 48, watts: 15.4 }],
    ["Foco AT", 27, 0.3, { standard: "802.3at", volts: 54, watts: 30 }],
    ["Foco BT", 54, 0.5, { standard: "802.3bt", volts: 54, watts: 90 }],
    ["Foco DC 48", 88, 1.1, { standard: "dc48", volts: 48, watts: 150 }],
  ]),
  ...parts("converter", [
    ["Salto de luz 1G", 34, 0.15, { packOf: 2, standard: "1G" }],
    ["Salto de luz 10G", 190, 0.2, { packOf: 2, standard: "10G" }],
  ]),
  ...parts("switch", [
    ["Nudo 8 AT", 140, 1.2, { standard: "802.3at", watts: 120, ports: 8, notes: "8 ports of 1 Gbit/s, 2 SFP+" }],
    ["Nudo 16 AT", 310, 2.9, { standard: "802.3at", watts: 370, ports: 16, notes: "16 ports of 1 Gbit/s, 2 SFP+" }],
    [
      "Nudo 6 DC",
      190,
      0.9,
      {
        standard: "dc48",
        volts: 48,
        watts: 150,
        ports: 6,
        notes: "6 ports, DC in, each set to 24 V or 48 V, for solar sites",
      },
    ],
  ]),
  ...parts("arrester", [["Guarda GbE", 21, 0.14]]),
  ...parts("earth", [["Toma: bar, clamps and lugs", 26, 1.3]]),
  ...parts("battery", [
    ["Pila 12-100 lead", 180, 30, { volts: 12, ampereHours: 100, standard: "lead" }],
    ["Pila 24-100 lithium", 690, 23, { volts: 24, ampereHours: 100, standard: "lithium" }],
  ]),
  ...parts("panel", [["Placa 200", 150, 11.5, { watts: 200 }]]),
  ...parts("charger", [["Regla 40 A", 130, 1.4, { volts: 48 }]]),
  ...parts("tape", [
    ["Butyl tape 3 m", 9, 0.15],
    ["Outdoor tape 20 m", 5, 0.12],
  ]),
  ...parts("enclosure", [["Caja 40 × 30, IP66", 74, 4.2]]),
  ...parts("tool", [
    ["Torque wrench 2–25 N·m", 85, 0.9],
    ["Spanners 8–19 mm", 32, 1.2],
    ["RJ45 crimping tool and tester", 58, 0.9],
    ["Level and inclinometer", 24, 0.3],
    ["Voltmeter", 39, 0.3],
  ]),
];
