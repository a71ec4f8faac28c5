import { z } from "zod";

/** What of a path a correction can hang on. */
export interface LearnedCase {
  frequencyGHz: number;
  /** What trees are reckoned to take where the ray passes through them, and what the ground takes, dB. */
  treesDb: number;
  diffractionDb: number;
  /** Place of the far end: the customer's, or a bridge's second. */
  latDeg: number;
  lonDeg: number;
  /** Whether an end stands behind a wall or glass. */
  isIndoors: boolean;
}

/** One term of a correction: what was found for it, how sure that is, and of how many readings. */
export const learnedTermSchema = z.object({
  key: z.string().min(1).max(60),
  value: z.number().min(-60).max(60),
  sd: z.number().min(0).max(60),
  readings: z.number().int().min(0),
});
const taughtSchema = z.object({
  /** What a reading strays by beyond all terms, dB. */
  strayDb: z.number().min(0.1).max(30),
  readings: z.number().int().min(0),
  terms: z.array(learnedTermSchema).max(2000),
});
/** What readings of one kind taught. */
export type Taught = z.infer<typeof taughtSchema>;

/**
 * What readings taught about a plan's predictions, of levels and of the noise that comes from outside it. The tape shows each as a line
 * of its own, apart from the physics, and it can be switched off.
 */
export const learnedSchema = taughtSchema.extend({
  isOn: z.boolean(),
  /** Left out in what was kept before noise was read. */
  noise: taughtSchema.optional(),
});
export type Learned = z.infer<typeof learnedSchema>;

/** Bands in which trees take differently. */
const BANDS = [
  [3, "under 3 GHz"],
  [10, "3 to 10 GHz"],
  [Infinity, "over 10 GHz"],
] as const;
/** An area of this many parts of a degree each way is taken to be alike: about a kilometre. */
const AREAS_A_DEG = 100;
/** More than this of the ground's loss is not scaled: beyond it other paths carry, dB. */
export const MOST_SCALED_DB = 30;

/** The area in which a place lies, by its numbers north and east. */
export function areaAt(latDeg: number, lonDeg: number): [north: number, east: number] {
  return [Math.floor(latDeg * AREAS_A_DEG), Math.floor(lonDeg * stripsADeg(latDeg))];
}
/** Areas in a degree of longitude: as many as keep them square. */
const stripsADeg = (latDeg: number): number => AREAS_A_DEG * Math.max(0.05, Math.cos((latDeg * Math.PI) / 180));

const areaTerm = (latDeg: number, lonDeg: number): string => `area ${areaAt(latDeg, lonDeg).join(" ")}`;

/** What of a receiver a correction of its noise can hang on. */
export interface NoiseCase {
  frequencyGHz: number;
  latDeg: number;
  lonDeg: number;
}

/** The noise of a whole plan on a frequency: neighbours crowd one band and leave the next alone. */
export const noiseTerm = (frequencyGHz: number): string => `noise at ${Math.floor(frequencyGHz)} GHz`;

/** Terms that a receiver's noise has, each counting once. */
export function noiseTermsOf({ frequencyGHz, latDeg, lonDeg }: NoiseCase): [key: string, amount: number][] {
  const band = noiseTerm(frequencyGHz);
  return [
    [band, 1],
    [`${band}, ${areaTerm(latDeg, lonDeg)}`, 1],
  ];
}

/** The area that a term is of, of levels or of noise; null for any other. */
export function areaOfTerm(key: string): [north: number, east: number] | null {
  const [, north, east] = /(?:^|, )area (-?\d+) (-?\d+)$/.exec(key) ?? [];
  return east === undefined ? null : [Number(north), Number(east)];
}

/** The term of trees on a frequency. */
export const treesTerm = (frequencyGHz: number): string =>
  `trees ${BANDS.find(([belowGHz]) => frequencyGHz < belowGHz)![1]}`;

/** Terms that a path has, with how much of each: a term's value times that is its part of the correction, dB. */
export function termsOf(one: LearnedCase): [key: string, amount: number][] {
  const terms: [string, number][] = [
    ["everywhere", 1],
    [areaTerm(one.latDeg, one.lonDeg), 1],
  ];
  if (one.treesDb > 0) terms.push([treesTerm(one.frequencyGHz), one.treesDb]);
  if (one.diffractionDb > 0) terms.push(["ground", Math.min(MOST_SCALED_DB, one.diffractionDb)]);
  if (one.isIndoors) terms.push(["indoors", 1]);
  return terms;
}

/** Noise of a town on a shared band stands some 10 dB over that of a valley: each of both may be that far off, dB. */
const NOISE_OF_BAND_DB = 4;
const NOISE_OF_AREA_DB = 5;

/** What is thought of a term before anything was read: 0, give or take this, dB or dB for each dB. */
export function priorSd(key: string): number {
  if (key.startsWith("noise")) return areaOfTerm(key) ? NOISE_OF_AREA_DB : NOISE_OF_BAND_DB;
  if (key === "everywhere") return 2;
  if (key === "ground") return 0.25;
  if (key === "indoors") return 5;
  return key.startsWith("trees") ? 0.4 : 3;
}

/** The middle of an area, in words. */
function placeOfArea([north, east]: [north: number, east: number]): string {
  const latDeg = (north + 0.5) / AREAS_A_DEG;
  const lonDeg = (east + 0.5) / stripsADeg(latDeg);
  return `${Math.abs(latDeg).toFixed(3)}° ${latDeg < 0 ? "S" : "N"} ${Math.abs(lonDeg).toFixed(3)}° ${lonDeg < 0 ? "W" : "E"}`;
}

/** A term as people read it. */
export function termName(key: string): string {
  if (key === "everywhere") return "Everywhere";
  if (key === "ground") return "For each dB that the ground takes";
  if (key === "indoors") return "Behind a wall or glass";
  if (key.startsWith("trees")) return `For each dB that trees take, ${key.slice(6)}`;
  const area = areaOfTerm(key);
  const [, band] = /^noise at (\d+) GHz/.exec(key) ?? [];
  if (band === undefined) return `Around ${placeOfArea(area ?? [0, 0])}`;
  return `Noise ${band === "0" ? "under 1" : `at ${band}`} GHz, ${area ? `around ${placeOfArea(area)}` : "everywhere"}`;
}
