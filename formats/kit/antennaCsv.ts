import Papa from "papaparse";
import { ANTENNA_SHAPES, antennaModelSchema, JOINS, type AntennaModel, type Cut } from "#core/antenna";
import { decodeText, guessDelimiter, parseNumber, usesDecimalComma, withoutGuard, writeCsv } from "../text";
import { MOST_ERRORS, type KitError, type ReadKit } from "./error";

/**
 * An antenna as a table of four columns: row, polarization, at, value. Rows named after a fact (maker, gain across the band
 * and so on) hold it in `value`; `gain` rows a gain (dBi) at a frequency (MHz), `azimuth` and `elevation` rows a loss below the
 * peak (dB ≥ 0) at an angle (−180 to 180°), each on a polarization: H, V, or HV for both. See docs/formats.md.
 */
export const ANTENNA_CSV_COLUMNS = ["row", "polarization", "at", "value"] as const;

const NUMBERS = {
  bandLowMHz: [1, 300_000],
  bandHighMHz: [1, 300_000],
  frontToBackDb: [0, 80],
  electricalTiltDownDeg: [-20, 20],
  bracketUpDeg: [0, 90],
  bracketDownDeg: [0, 90],
  crossPolarDb: [0, 60],
  weightKg: [0.01, 1000],
  priceEur: [0, 1_000_000],
  deliveryDays: [0, 730],
  beamWidthDeg: [1, 120],
  beamGainDb: [0, 20],
  beamSteersDeg: [0, 90],
  beamSideLobesDb: [0, 60],
} as const;
type NumberFact = keyof typeof NUMBERS;
/** An adaptive antenna has all of these, any other none. */
const BEAM = ["beamWidthDeg", "beamGainDb", "beamSteersDeg", "beamSideLobesDb"] as const;
/** Facts that a sheet need not tell, and that nothing is taken for then. */
const OPEN: ReadonlySet<string> = new Set(["deliveryDays"]);
const isBeam = (name: string) => (BEAM as readonly string[]).includes(name);
const WORDS = ["maker", "model", "shape", "join"] as const;
type WordFact = (typeof WORDS)[number];
/** What a sheet that says nothing is taken to mean. */
const DEFAULTS: Partial<Record<NumberFact, number>> = {
  electricalTiltDownDeg: 0,
  bracketUpDeg: 15,
  bracketDownDeg: 15,
  crossPolarDb: 20,
  weightKg: 1,
  priceEur: 0,
};
const SERIES = { gain: [1, 300_000, -10, 60], azimuth: [-180, 180, 0, 100], elevation: [-180, 180, 0, 100] } as const;
type Series = keyof typeof SERIES;
type Polar = "H" | "V";
const MOST_ROWS = 20_000;

/** The table of an antenna; `readAntennaCsv` reads it back the same. */
export function writeAntennaCsv(antenna: AntennaModel): string {
  const beam = antenna.receiveBeam;
  const facts: Partial<Record<WordFact | NumberFact, string | number>> = {
    maker: antenna.maker,
    model: antenna.model,
    shape: antenna.shape,
    bandLowMHz: antenna.bandMHz[0],
    bandHighMHz: antenna.bandMHz[1],
    frontToBackDb: antenna.frontToBackDb,
    electricalTiltDownDeg: antenna.electricalTiltDownDeg,
    bracketUpDeg: antenna.bracketUpDeg,
    bracketDownDeg: antenna.bracketDownDeg,
    crossPolarDb: antenna.crossPolarDb,
    weightKg: antenna.weightKg,
    priceEur: antenna.priceEur,
    ...(antenna.join !== null && { join: antenna.join }),
    ...(antenna.deliveryDays !== null && { deliveryDays: antenna.deliveryDays }),
    ...(beam && {
      beamWidthDeg: beam.widthDeg,
      beamGainDb: beam.gainDb,
      beamSteersDeg: beam.steersDeg,
      beamSideLobesDb: beam.sideLobesDb,
    }),
  };
  const rows: (string | number)[][] = Object.entries(facts).map(([name, value]) => [name, "", "", value]);
  for (const { frequencyMHz, hDbi, vDbi } of antenna.gainAcrossBand)
    rows.push(["gain", "H", frequencyMHz, hDbi], ["gain", "V", frequencyMHz, vDbi]);
  for (const [name, cuts] of [
    ["azimuth", antenna.azimuthCuts],
    ["elevation", antenna.elevationCuts],
  ] as const)
    for (const polar of ["H", "V"] as const)
      cuts[polar].anglesDeg.forEach((angle, i) => rows.push([name, polar, angle, cuts[polar].lossDb[i]!]));
  return writeCsv(ANTENNA_CSV_COLUMNS, rows);
}

type Points = Map<number, number>;

/** A cut from its points: closed at ±180° with what the other side says there, peak at the least loss as it stands. */
function cutOf(points: Points): Cut {
  const angles = [...points.keys()].sort((x, y) => x - y);
  const [first, last] = [angles[0]!, angles.at(-1)!];
  if (first > -180) angles.unshift(-180);
  if (last < 180) angles.push(180);
  const at = (angle: number) => points.get(angle) ?? points.get(-angle) ?? points.get(angle < 0 ? first : last)!;
  return { anglesDeg: angles, lossDb: angles.map(at) };
}

/** Reads an antenna's table, or names every row that cannot be read and every fact that is missing. */
export function readAntennaCsv(bytes: Uint8Array, makeId: () => string): ReadKit<AntennaModel> {
  const text = decodeText(bytes).text.replace(/^\uFEFF/, "");
  const { data } = Papa.parse<string[]>(text, { skipEmptyLines: "greedy", delimiter: guessDelimiter(text) ?? "," });
  const errors: KitError[] = [];
  const fault = (row: number, field: string, value: string, reason: string) => {
    if (errors.length < MOST_ERRORS) errors.push({ row, field, value: value.slice(0, 80), reason });
  };
  const header = (data[0] ?? []).map((cell) => cell.trim().toLowerCase());
  if (ANTENNA_CSV_COLUMNS.some((name) => !header.includes(name))) {
    fault(1, "header", header.join(","), `must name the columns ${ANTENNA_CSV_COLUMNS.join(", ")}`);
    return { item: null, errors };
  }
  if (data.length > MOST_ROWS) {
    fault(0, "file", `${data.length} rows`, `more than ${MOST_ROWS} rows`);
    return { item: null, errors };
  }
  const column = Object.fromEntries(ANTENNA_CSV_COLUMNS.map((name) => [name, header.indexOf(name)])) as Record<
    (typeof ANTENNA_CSV_COLUMNS)[number],
    number
  >;
  const decimalComma = usesDecimalComma(data.slice(1).flat());
  const numbers = new Map<NumberFact, number>();
  const words = new Map<WordFact, string>();
  const series: Record<Series, Record<Polar, Points>> = {
    gain: { H: new Map(), V: new Map() },
    azimuth: { H: new Map(), V: new Map() },
    elevation: { H: new Map(), V: new Map() },
  };
  const bounded = (row: number, field: string, cell: string, low: number, high: number): number | null => {
    const value = parseNumber(cell, decimalComma);
    if (!Number.isNaN(value) && value >= low && value <= high) return value;
    fault(row, field, cell, Number.isNaN(value) ? "is not a number" : `must lie between ${low} and ${high}`);
    return null;
  };
  for (let i = 1; i < data.length; i++) {
    const row = i + 1;
    const cell = (name: keyof typeof column) => withoutGuard((data[i]![column[name]] ?? "").trim());
    const name = cell("row");
    if ((WORDS as readonly string[]).includes(name)) words.set(name as WordFact, cell("value"));
    else if (name in NUMBERS) {
      const [low, high] = NUMBERS[name as NumberFact];
      const value = bounded(row, name, cell("value"), low, high);
      if (value !== null) numbers.set(name as NumberFact, value);
    } else if (name in SERIES) {
      const polar = cell("polarization").toUpperCase();
      if (!["H", "V", "HV"].includes(polar)) {
        fault(row, "polarization", polar, "must be H, V or HV");
        continue;
      }
      const [atLow, atHigh, low, high] = SERIES[name as Series];
      const at = bounded(row, "at", cell("at"), atLow, atHigh);
      const value = bounded(row, "value", cell("value"), low, high);
      if (at === null || value === null) continue;
      for (const one of polar as Iterable<Polar>) series[name as Series][one].set(at, value);
    } else fault(row, "row", name, "is no row that an antenna's table has");
  }
  for (const [name, points] of Object.entries(series)) {
    // A sheet of one polarization stands for both.
    if (points.H.size === 0) points.H = points.V;
    if (points.V.size === 0) points.V = points.H;
    const least = name === "gain" ? 1 : 3;
    if (points.H.size < least) fault(0, name, `${points.H.size} rows`, `needs ${least} or more`);
  }
  for (const name of ["maker", "model"] as const) if (!words.get(name)) fault(0, name, "", "is missing");
  const shape = words.get("shape") ?? "";
  if (!(ANTENNA_SHAPES as readonly string[]).includes(shape))
    fault(0, "shape", shape, `must be one of ${ANTENNA_SHAPES.join(", ")}`);
  const join = words.get("join") ?? "";
  if (join !== "" && !(JOINS as readonly string[]).includes(join))
    fault(0, "join", join, `must be one of ${JOINS.join(", ")}, or left out`);
  const hasBeam = BEAM.some((name) => numbers.has(name));
  for (const name of Object.keys(NUMBERS) as NumberFact[])
    if (
      !numbers.has(name) &&
      DEFAULTS[name] === undefined &&
      !OPEN.has(name) &&
      (hasBeam || !isBeam(name)) &&
      !errors.some(({ field }) => field === name)
    )
      fault(0, name, "", hasBeam && isBeam(name) ? "is missing: a receive beam needs all four" : "is missing");
  if (errors.length > 0) return { item: null, errors };
  const number = (name: NumberFact) => numbers.get(name) ?? DEFAULTS[name]!;
  const frequencies = [...new Set([...series.gain.H.keys(), ...series.gain.V.keys()])].sort((x, y) => x - y);
  const parsed = antennaModelSchema.safeParse({
    id: makeId(),
    maker: words.get("maker"),
    model: words.get("model"),
    shape,
    bandMHz: [number("bandLowMHz"), number("bandHighMHz")],
    gainAcrossBand: frequencies.map((frequencyMHz) => {
      const [hDbi, vDbi] = [series.gain.H.get(frequencyMHz), series.gain.V.get(frequencyMHz)];
      return { frequencyMHz, hDbi: hDbi ?? vDbi!, vDbi: vDbi ?? hDbi! };
    }),
    azimuthCuts: { H: cutOf(series.azimuth.H), V: cutOf(series.azimuth.V) },
    elevationCuts: { H: cutOf(series.elevation.H), V: cutOf(series.elevation.V) },
    frontToBackDb: number("frontToBackDb"),
    electricalTiltDownDeg: number("electricalTiltDownDeg"),
    bracketUpDeg: number("bracketUpDeg"),
    bracketDownDeg: number("bracketDownDeg"),
    deliveryDays: numbers.get("deliveryDays") ?? null,
    crossPolarDb: number("crossPolarDb"),
    join: join === "" ? null : join,
    weightKg: number("weightKg"),
    priceEur: number("priceEur"),
    receiveBeam: hasBeam
      ? {
          widthDeg: number("beamWidthDeg"),
          gainDb: number("beamGainDb"),
          steersDeg: number("beamSteersDeg"),
          sideLobesDb: number("beamSideLobesDb"),
        }
      : null,
  });
  if (parsed.success) return { item: parsed.data, errors: [] };
  for (const { path, message } of parsed.error.issues) fault(0, path.join("."), "", message);
  return { item: null, errors };
}
