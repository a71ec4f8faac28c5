import { beamCut, roundCut, smoothCut, type AntennaModel, type Cut, type Join } from "../antenna";

/** Data sheets of invented makers, noted 2026-11-01. Cuts are synthesized from the sheet's widths and side lobes. */

type Sheet = Pick<AntennaModel, "maker" | "model" | "bandMHz" | "frontToBackDb" | "weightKg" | "priceEur"> &
  Partial<Pick<AntennaModel, "receiveBeam">> & {
    gainDbi: number;
    /** How far the horizontal polarization stays under the vertical one, dB. */
    hDropDb?: number;
    /** How far the gain falls at the edges of the band, dB. */
    edgeDropDb: number;
    bracketUpDeg: number;
    bracketDownDeg: number;
    crossPolarDb: number;
    electricalTiltDownDeg?: number;
  };

/** How what these makers sell is joined to its radio: an adaptive one by a pair of jacks for each beam, millimetre waves by a guide. */
function joinOf({ bandMHz: [lowMHz], receiveBeam }: Sheet): Join {
  if (lowMHz >= 70_000) return "threaded waveguide";
  if (lowMHz >= 40_000) return "in one piece";
  if (lowMHz >= 10_000) return "smooth waveguide";
  return receiveBeam ? "four jacks" : "two jacks";
}

/** Days from the order to the door. */
const DELIVERY_DAYS: Record<string, number> = { Brisote: 9, Halvorn: 16, Kestrane: 35 };

function antenna(
  shape: AntennaModel["shape"],
  sheet: Sheet,
  azimuth: [h: Cut, v: Cut],
  elevation: [h: Cut, v: Cut],
): AntennaModel {
  const [low, high] = sheet.bandMHz;
  const { gainDbi, edgeDropDb, hDropDb = 0, electricalTiltDownDeg = 0, ...rest } = sheet;
  const point = (frequencyMHz: number, dropDb: number) => ({
    frequencyMHz,
    hDbi: gainDbi - dropDb - hDropDb,
    vDbi: gainDbi - dropDb,
  });
  return {
    receiveBeam: null,
    deliveryDays: DELIVERY_DAYS[sheet.maker]!,
    join: joinOf(sheet),
    ...rest,
    id: `${sheet.maker} ${sheet.model}`.toLowerCase().replace(/[^a-z0-9]+/g, "-"),
    shape,
    electricalTiltDownDeg,
    gainAcrossBand: [point(low, edgeDropDb), point((low + high) / 2, 0), point(high, edgeDropDb / 2)],
    azimuthCuts: { H: azimuth[0], V: azimuth[1] },
    elevationCuts: { H: elevation[0], V: elevation[1] },
  };
}

/** A directional antenna, alike in both planes. The two polarizations differ a little, as they do on real sheets. */
function beam(shape: AntennaModel["shape"], widthDeg: number, sideLobeDb: number, sheet: Sheet): AntennaModel {
  const cuts: [Cut, Cut] = [
    beamCut(widthDeg * 1.04, sideLobeDb - 1, sheet.frontToBackDb),
    beamCut(widthDeg, sideLobeDb, sheet.frontToBackDb),
  ];
  return antenna(shape, sheet, cuts, cuts);
}

function sector(azimuthDeg: number, elevationDeg: number, sheet: Sheet): AntennaModel {
  return antenna(
    "sector",
    sheet,
    [smoothCut(azimuthDeg * 0.94, sheet.frontToBackDb), smoothCut(azimuthDeg, sheet.frontToBackDb)],
    [beamCut(elevationDeg, 14, sheet.frontToBackDb), beamCut(elevationDeg, 15, sheet.frontToBackDb)],
  );
}

function horn(widthDeg: number, sheet: Sheet): AntennaModel {
  const cut = smoothCut(widthDeg, sheet.frontToBackDb);
  return antenna("horn", sheet, [cut, cut], [cut, cut]);
}

function omni(elevationDeg: number, sheet: Sheet): AntennaModel {
  const round = roundCut(1.5);
  const up: [Cut, Cut] = [beamCut(elevationDeg, 12, 25), beamCut(elevationDeg, 13, 25)];
  return antenna("omni", { ...sheet, frontToBackDb: 25 }, [round, round], up);
}

const usual = { bracketUpDeg: 15, bracketDownDeg: 15, crossPolarDb: 22, edgeDropDb: 0.8 };
const brisote = { ...usual, maker: "Brisote" };
const halvorn = { ...usual, maker: "Halvorn" };
const kestrane = { ...usual, maker: "Kestrane", crossPolarDb: 27 };
const five: [number, number] = [5150, 5850];
const six: [number, number] = [5925, 6875];
const three: [number, number] = [3550, 3700];

export const ANTENNAS: readonly AntennaModel[] = [
  omni(21, {
    ...halvorn,
    model: "Ronda 2-8",
    bandMHz: [2400, 2500],
    gainDbi: 8,
    frontToBackDb: 25,
    weightKg: 0.6,
    priceEur: 48,
  }),
  omni(6.2, {
    ...brisote,
    model: "Ronda 5-13",
    bandMHz: five,
    gainDbi: 13,
    frontToBackDb: 25,
    weightKg: 0.9,
    priceEur: 95,
  }),
  sector(90, 20, {
    ...halvorn,
    model: "Arco 9-13",
    bandMHz: [902, 928],
    gainDbi: 13,
    frontToBackDb: 25,
    weightKg: 7.2,
    priceEur: 240,
  }),
  sector(120, 9.8, {
    ...halvorn,
    model: "Arco 2-15",
    bandMHz: [2400, 2500],
    gainDbi: 15,
    frontToBackDb: 26,
    weightKg: 4.1,
    priceEur: 130,
  }),
  sector(90, 7, {
    ...brisote,
    model: "Arco 5-17/90",
    bandMHz: five,
    gainDbi: 17,
    frontToBackDb: 30,
    electricalTiltDownDeg: 2,
    weightKg: 4,
    priceEur: 145,
  }),
  sector(90, 7, {
    ...brisote,
    model: "Abanico 5-16/90",
    bandMHz: five,
    gainDbi: 16,
    frontToBackDb: 28,
    electricalTiltDownDeg: 2,
    receiveBeam: { widthDeg: 14, gainDb: 6, steersDeg: 45, sideLobesDb: 14 },
    weightKg: 10.5,
    priceEur: 690,
  }),
  sector(60, 7, {
    ...brisote,
    model: "Arco 5-19/60",
    bandMHz: five,
    gainDbi: 19,
    frontToBackDb: 32,
    electricalTiltDownDeg: 2,
    weightKg: 4.6,
    priceEur: 175,
  }),
  sector(120, 7, {
    ...brisote,
    model: "Arco 5-16/120",
    bandMHz: five,
    gainDbi: 16,
    frontToBackDb: 28,
    electricalTiltDownDeg: 2,
    weightKg: 4.2,
    priceEur: 150,
  }),
  sector(90, 8, {
    ...brisote,
    model: "Arco 6-17/90",
    bandMHz: six,
    gainDbi: 17,
    frontToBackDb: 30,
    weightKg: 4,
    priceEur: 190,
  }),
  sector(60, 5.9, {
    ...kestrane,
    model: "Arco 60-20",
    bandMHz: [57000, 71000],
    gainDbi: 20,
    frontToBackDb: 30,
    weightKg: 1.1,
    priceEur: 60,
  }),
  horn(30, {
    ...kestrane,
    model: "Bocina 5-16/30",
    bandMHz: five,
    gainDbi: 16,
    frontToBackDb: 35,
    bracketUpDeg: 25,
    bracketDownDeg: 25,
    weightKg: 2.2,
    priceEur: 160,
  }),
  horn(45, {
    ...kestrane,
    model: "Bocina 5-13/45",
    bandMHz: five,
    gainDbi: 13,
    frontToBackDb: 34,
    bracketUpDeg: 25,
    bracketDownDeg: 25,
    weightKg: 1.7,
    priceEur: 155,
  }),
  horn(60, {
    ...kestrane,
    model: "Bocina 5-11/60",
    bandMHz: five,
    gainDbi: 10.9,
    frontToBackDb: 32,
    bracketUpDeg: 25,
    bracketDownDeg: 25,
    weightKg: 1.3,
    priceEur: 148,
  }),
  beam("panel", 40, 14, {
    ...halvorn,
    model: "Losa 9-11",
    bandMHz: [902, 928],
    gainDbi: 11,
    frontToBackDb: 18,
    bracketUpDeg: 30,
    bracketDownDeg: 30,
    weightKg: 1.6,
    priceEur: 75,
  }),
  beam("panel", 30, 14, {
    ...halvorn,
    model: "Losa 2-14",
    bandMHz: [2400, 2500],
    gainDbi: 14,
    frontToBackDb: 20,
    bracketUpDeg: 20,
    bracketDownDeg: 20,
    weightKg: 0.6,
    priceEur: 38,
  }),
  beam("panel", 24, 15, {
    ...brisote,
    model: "Losa 5-16",
    bandMHz: five,
    gainDbi: 16,
    frontToBackDb: 22,
    bracketUpDeg: 20,
    bracketDownDeg: 10,
    weightKg: 0.5,
    priceEur: 32,
  }),
  beam("panel", 9, 15, {
    ...brisote,
    model: "Losa 5-23",
    bandMHz: five,
    gainDbi: 23,
    frontToBackDb: 27,
    bracketUpDeg: 10,
    bracketDownDeg: 10,
    weightKg: 0.9,
    priceEur: 54,
  }),
  beam("grid", 6.4, 16, {
    ...brisote,
    model: "Reja 5-27",
    bandMHz: five,
    gainDbi: 27,
    frontToBackDb: 30,
    bracketUpDeg: 30,
    bracketDownDeg: 30,
    weightKg: 2.3,
    priceEur: 79,
  }),
  beam("dish", 9, 17, {
    ...brisote,
    model: "Plato 5-25",
    bandMHz: five,
    gainDbi: 25,
    frontToBackDb: 34,
    weightKg: 2.4,
    priceEur: 98,
  }),
  beam("dish", 4.6, 12, {
    ...brisote,
    model: "Plato 5-30",
    bandMHz: five,
    gainDbi: 30,
    frontToBackDb: 38,
    bracketUpDeg: 20,
    bracketDownDeg: 10,
    weightKg: 9.8,
    priceEur: 190,
  }),
  beam("dish", 3.1, 18, {
    ...brisote,
    model: "Plato 5-34",
    bandMHz: five,
    gainDbi: 34,
    frontToBackDb: 44,
    weightKg: 21,
    priceEur: 420,
  }),
  beam("panel", 20, 15, {
    ...brisote,
    model: "Losa 6-18",
    bandMHz: six,
    gainDbi: 18,
    frontToBackDb: 24,
    weightKg: 0.7,
    priceEur: 62,
  }),
  beam("dish", 4.2, 18, {
    ...brisote,
    model: "Plato 6-31",
    bandMHz: six,
    gainDbi: 31,
    frontToBackDb: 40,
    weightKg: 9.9,
    priceEur: 260,
  }),
  beam("dish", 2.1, 17, {
    ...kestrane,
    model: "Plato 60-38",
    bandMHz: [57000, 71000],
    gainDbi: 38,
    frontToBackDb: 45,
    bracketUpDeg: 30,
    bracketDownDeg: 30,
    weightKg: 2,
    priceEur: 90,
  }),
  beam("dish", 0.9, 18, {
    ...kestrane,
    model: "Plato 80-44",
    bandMHz: [71000, 86000],
    gainDbi: 44,
    frontToBackDb: 55,
    bracketUpDeg: 25,
    bracketDownDeg: 25,
    weightKg: 4,
    priceEur: 340,
  }),
  beam("dish", 0.45, 19, {
    ...kestrane,
    model: "Plato 80-50",
    bandMHz: [71000, 86000],
    gainDbi: 50,
    frontToBackDb: 60,
    bracketUpDeg: 25,
    bracketDownDeg: 25,
    weightKg: 9,
    priceEur: 720,
  }),
  sector(90, 9, {
    ...halvorn,
    model: "Arco 3-16",
    bandMHz: three,
    gainDbi: 16,
    hDropDb: 0.4,
    frontToBackDb: 28,
    electricalTiltDownDeg: 2,
    weightKg: 5.2,
    priceEur: 210,
  }),
  beam("panel", 17, 15, {
    ...halvorn,
    model: "Losa 3-19",
    bandMHz: three,
    gainDbi: 19,
    hDropDb: 0.3,
    frontToBackDb: 28,
    weightKg: 1.4,
    priceEur: 72,
  }),
  beam("dish", 1.7, 20, {
    ...kestrane,
    model: "Plato 11-39",
    bandMHz: [10700, 11700],
    gainDbi: 39,
    frontToBackDb: 58,
    crossPolarDb: 30,
    weightKg: 14,
    priceEur: 640,
  }),
  beam("dish", 1.2, 20, {
    ...kestrane,
    model: "Plato 24-43",
    bandMHz: [24000, 24500],
    gainDbi: 43,
    frontToBackDb: 60,
    crossPolarDb: 30,
    weightKg: 9,
    priceEur: 520,
  }),
];
