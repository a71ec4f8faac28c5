import type { Join } from "../antenna";
import type { Modulation, RadioModel } from "../radio";

/** Data sheets of invented makers, noted 2026-11-01. */

/** Modulations by least SNR (dB), bit/s/Hz and back-off (dB), from the most robust up. */
function ladder(rows: [name: string, snrDb: number, bitsPerHz: number, backoffDb: number][]): Modulation[] {
  return rows.map(([name, snrDb, bitsPerHz, backoffDb]) => ({ name, snrDb, bitsPerHz, backoffDb }));
}
const wideband = ladder([
  ["BPSK ½", 5, 0.43, 0],
  ["QPSK ½", 8, 0.86, 0],
  ["QPSK ¾", 11, 1.29, 0],
  ["16-QAM ½", 14, 1.72, 1],
  ["16-QAM ¾", 18, 2.58, 1],
  ["64-QAM ⅔", 22, 3.44, 2],
  ["64-QAM ⅚", 25, 4.3, 3],
  ["256-QAM ¾", 29, 5.16, 4],
  ["256-QAM ⅚", 31, 5.73, 5],
]);
const longRange = wideband.slice(0, 7);
const sixty = ladder([
  ["BPSK ½", 2, 0.44, 0],
  ["QPSK ½", 5, 0.88, 0],
  ["QPSK ¾", 8, 1.32, 0],
  ["16-QAM ½", 11, 1.75, 1],
  ["16-QAM ¾", 15, 2.63, 2],
]);
const eighty = ladder([
  ["QPSK ½", 5, 0.8, 0],
  ["QPSK", 9, 1.6, 0],
  ["16-QAM", 15, 3.2, 2],
  ["64-QAM", 21, 4.8, 4],
  ["256-QAM", 27, 6.4, 6],
]);

const licensed = ladder([
  ["QPSK", 8, 1.6, 0],
  ["16-QAM", 15, 3.2, 1],
  ["64-QAM", 21, 4.8, 2],
  ["256-QAM", 27, 6.4, 4],
  ["512-QAM", 30, 7.2, 5],
  ["1024-QAM", 33, 8, 6],
]);

type Usual =
  "powerSetting" | "steersBeam" | "joins" | "loadW" | "startW" | "earthMm2" | "box" | "deliveryDays" | "boxAddress";
type Sheet = Omit<RadioModel, "id" | Usual> & Partial<Pick<RadioModel, Usual>>;
/** Where what a maker sells answers as it leaves its box. */
const BOX_ADDRESSES: Record<string, string> = {
  Brisote: "192.168.1.20/24",
  Halvorn: "192.168.50.10/24",
  Kestrane: "172.20.20.20/24",
};
/** What a radio draws that says no more than how it is powered, W. */
const LOAD_W: Record<RadioModel["powerInput"], number> = {
  ...{ passive24: 7, "802.3af": 10, "802.3at": 18, "802.3bt": 45, dc48: 38 },
};
/** Days from the order to the door. */
const DELIVERY_DAYS: Record<string, number> = { Brisote: 9, Halvorn: 16, Kestrane: 35 };
/** The thinnest earth lead that is asked for, mm²: what stands at the top of a mast asks for more. */
const EARTH_MM2: Record<RadioModel["use"], number> = { subscriber: 6, sector: 10, bridge: 16 };
/** For a moment as it starts a radio draws so much more than at its greatest load. */
const START_FACTOR = 1.5;
/** What lies in a box beside the radio: plugs differ by region, and one region's sectors come with their timing antenna. */
const boxOf = ({ use, powerInput }: Sheet): RadioModel["box"] => [
  ...(powerInput === "passive24"
    ? [
        { what: "its injector, plug of two flat pins", kind: "injector", count: 1, ruleSetIds: ["cfr47"] },
        { what: "its injector, plug of two round pins", kind: "injector", count: 1, ruleSetIds: ["en", "own"] },
      ]
    : []),
  ...(use === "sector"
    ? [{ what: "timing antenna with its bracket", kind: null, count: 1, ruleSetIds: ["cfr47"] }]
    : []),
];
/** The ways in which antennas are joined to what these makers sell. */
function joinsOf({ bandMHz: [lowMHz], steersBeam = false }: Sheet): Join[] {
  if (lowMHz >= 70_000) return ["threaded waveguide"];
  if (lowMHz >= 40_000) return ["in one piece"];
  if (lowMHz >= 10_000) return ["smooth waveguide"];
  return steersBeam ? ["two jacks", "four jacks"] : ["two jacks"];
}
const make = (sheet: Sheet): RadioModel => ({
  id: `${sheet.maker} ${sheet.model}`.toLowerCase().replace(/[^a-z0-9]+/g, "-"),
  powerSetting: sheet.maker === "Halvorn" ? "perChain" : "total",
  steersBeam: false,
  joins: joinsOf(sheet),
  loadW: LOAD_W[sheet.powerInput],
  boxAddress: BOX_ADDRESSES[sheet.maker]!,
  startW: (sheet.loadW ?? LOAD_W[sheet.powerInput]) * START_FACTOR,
  earthMm2: EARTH_MM2[sheet.use],
  box: boxOf(sheet),
  deliveryDays: DELIVERY_DAYS[sheet.maker]!,
  ...sheet,
});

const common = {
  powerStepDb: 1,
  noiseFigureDb: 6,
  chains: 2,
  duplex: "TDD",
  duplexSpacingMHz: null,
  portMbps: 1000,
  downShare: 0.67,
  efficiency: 0.72,
  overloadDbm: -30,
  meterVoltsPerDbm: null,
  rasterMHz: 5,
  weightKg: 0.8,
  rangeLimitKm: 30,
  adjacentRejectionDb: 18,
  ports: ["RJ45 gigabit, powered"] as string[],
  poleMm: [25, 76] as [number, number],
  alignmentAid: "page",
} as const;
const five = {
  ...common,
  maker: "Brisote",
  bandMHz: [5150, 5850] as [number, number],
  widthsMHz: [10, 20, 40, 80],
  modulations: wideband,
};
const six = { ...five, bandMHz: [5925, 6875] as [number, number], widthsMHz: [20, 40, 80, 160] };
const two = {
  ...common,
  maker: "Halvorn",
  bandMHz: [2400, 2483.5] as [number, number],
  widthsMHz: [5, 10, 20, 40],
  modulations: longRange,
};
const three = {
  ...two,
  bandMHz: [3550, 3700] as [number, number],
  widthsMHz: [10, 20, 40],
  modulations: wideband,
  noiseFigureDb: 5,
};
const nine = {
  ...two,
  bandMHz: [902, 928] as [number, number],
  widthsMHz: [5, 10, 20],
  rasterMHz: 1,
  rangeLimitKm: 40,
};
const v60 = {
  ...common,
  maker: "Kestrane",
  bandMHz: [57000, 66000] as [number, number],
  widthsMHz: [1000, 2000] as number[],
  rasterMHz: 540,
  modulations: sixty,
  noiseFigureDb: 9,
  chains: 1,
  efficiency: 0.6,
  rangeLimitKm: 3,
  alignmentAid: "leds",
} as const;
/** Bridges that are aimed with a meter on their jack and stand far apart. */
const bridge = {
  use: "bridge",
  clientLimit: 1,
  meterVoltsPerDbm: -0.01,
  alignmentAid: "meter",
  rangeLimitKm: 100,
  adjacentRejectionDb: 24,
  ports: ["RJ45 gigabit, powered", "SFP+"] as string[],
  portMbps: 10_000,
  poleMm: [38, 115] as [number, number],
} as const;

export const RADIOS: readonly RadioModel[] = [
  make({
    ...five,
    model: "Vela 5",
    use: "sector",
    steersBeam: true,
    powerMinDbm: 0,
    powerMaxDbm: 27,
    clientLimit: 80,
    powerInput: "802.3at",
    priceEur: 230,
  }),
  make({
    ...five,
    model: "Vela 5C",
    use: "subscriber",
    powerMinDbm: 0,
    powerMaxDbm: 25,
    clientLimit: 1,
    powerInput: "passive24",
    priceEur: 62,
  }),
  make({
    ...six,
    model: "Vela 6",
    use: "sector",
    powerMinDbm: 0,
    powerMaxDbm: 26,
    clientLimit: 100,
    powerInput: "802.3at",
    priceEur: 390,
  }),
  make({
    ...six,
    model: "Vela 6C",
    use: "subscriber",
    powerMinDbm: 0,
    powerMaxDbm: 24,
    clientLimit: 1,
    powerInput: "802.3af",
    priceEur: 110,
  }),
  make({
    ...two,
    model: "Duna 2",
    use: "sector",
    powerMinDbm: 4,
    powerMaxDbm: 28,
    clientLimit: 40,
    powerInput: "passive24",
    priceEur: 120,
  }),
  make({
    ...two,
    model: "Duna 2C",
    use: "subscriber",
    powerMinDbm: 4,
    powerMaxDbm: 26,
    clientLimit: 1,
    powerInput: "passive24",
    priceEur: 55,
  }),
  make({
    ...nine,
    model: "Duna 9",
    use: "sector",
    powerMinDbm: 4,
    powerMaxDbm: 28,
    clientLimit: 40,
    powerInput: "passive24",
    priceEur: 210,
  }),
  make({
    ...nine,
    model: "Duna 9C",
    use: "subscriber",
    powerMinDbm: 4,
    powerMaxDbm: 28,
    clientLimit: 1,
    powerInput: "passive24",
    priceEur: 130,
  }),
  make({
    ...v60,
    model: "Faro 60",
    use: "sector",
    powerMinDbm: 0,
    powerMaxDbm: 18,
    clientLimit: 30,
    powerInput: "802.3at",
    priceEur: 320,
  }),
  make({
    ...v60,
    model: "Faro 60C",
    use: "subscriber",
    powerMinDbm: 0,
    powerMaxDbm: 16,
    clientLimit: 1,
    powerInput: "802.3af",
    priceEur: 180,
  }),
  make({
    ...five,
    model: "Tramo 5",
    ...bridge,
    powerMinDbm: -5,
    powerMaxDbm: 27,
    downShare: 0.5,
    efficiency: 0.8,
    noiseFigureDb: 5,
    powerInput: "802.3at",
    priceEur: 420,
  }),
  make({
    ...six,
    model: "Tramo 6",
    ...bridge,
    powerMinDbm: -5,
    powerMaxDbm: 26,
    downShare: 0.5,
    efficiency: 0.8,
    noiseFigureDb: 5,
    powerInput: "802.3at",
    priceEur: 520,
  }),
  make({
    ...v60,
    model: "Salto 60",
    ...bridge,
    meterVoltsPerDbm: null,
    alignmentAid: "leds",
    rangeLimitKm: 3,
    powerMinDbm: -5,
    powerMaxDbm: 16,
    downShare: 0.5,
    powerInput: "802.3at",
    priceEur: 450,
  }),
  make({
    ...common,
    maker: "Kestrane",
    model: "Salto 80",
    ...bridge,
    rangeLimitKm: 20,
    ports: ["SFP+", "RJ45 gigabit, management", "DC terminal"],
    bandMHz: [71000, 86000],
    widthsMHz: [250, 500, 1000, 2000],
    rasterMHz: 250,
    modulations: eighty,
    noiseFigureDb: 9,
    chains: 1,
    duplex: "FDD",
    duplexSpacingMHz: 10_000,
    downShare: 1,
    efficiency: 0.9,
    powerMinDbm: -10,
    powerMaxDbm: 18,
    powerInput: "dc48",
    weightKg: 4.5,
    priceEur: 2600,
  }),
  make({
    ...three,
    model: "Duna 3",
    use: "sector",
    powerMinDbm: 0,
    powerMaxDbm: 28,
    clientLimit: 60,
    powerInput: "802.3at",
    priceEur: 340,
  }),
  make({
    ...three,
    model: "Duna 3C",
    use: "subscriber",
    powerMinDbm: 0,
    powerMaxDbm: 24,
    clientLimit: 1,
    powerInput: "802.3af",
    priceEur: 120,
  }),
  make({
    ...common,
    ...bridge,
    maker: "Kestrane",
    model: "Salto 11",
    bandMHz: [10700, 11700],
    widthsMHz: [20, 40, 80],
    rasterMHz: 5,
    modulations: licensed,
    noiseFigureDb: 5,
    duplex: "FDD",
    duplexSpacingMHz: 490,
    downShare: 1,
    efficiency: 0.9,
    powerMinDbm: 0,
    powerMaxDbm: 27,
    powerInput: "dc48",
    weightKg: 4.2,
    priceEur: 2200,
  }),
  make({
    ...common,
    ...bridge,
    maker: "Kestrane",
    model: "Salto 24",
    bandMHz: [24050, 24250],
    widthsMHz: [50, 100],
    rasterMHz: 5,
    modulations: licensed.slice(0, 5),
    noiseFigureDb: 7,
    downShare: 0.5,
    efficiency: 0.85,
    powerMinDbm: -20,
    powerMaxDbm: 0,
    rangeLimitKm: 20,
    powerInput: "802.3at",
    weightKg: 5,
    priceEur: 1300,
  }),
];
