import { z } from "zod";

/** What of a path a correction can hang on. */
export interface LearnedCase {
  frequencyGHz: number;
  /** What trees are reckoned to take where the ray passes through them, and what the ground takes, dB. */
  treesDb: number;
  diffractionDb: number;
  /** Share of those trees, by their depth, that stands in leaf: 1 in summer, 0 where all are bare; evergreens keep theirs. */
  inLeafShare: number;
  /** The wood that the ray passes through for the longest stretch; null without trees, or where they were set by hand. */
  wood: { latDeg: number; lonDeg: number } | null;
  /** Place of the far end: the customer's, or a bridge's second. */
  latDeg: number;
  lonDeg: number;
  /** Whether an end stands behind a wall or glass. */
  isIndoors: boolean;
}

/** One term of a correction: what was found for it, how sure that is, and of how many readings. */
const learnedTermSchema = z.object({
  key: z.string().min(1).max(60),
  value: z.number().min(-60).max(60),
  sd: z.number().min(0).max(60),
  readings: z.number().int().min(0),
  /** How it varies together with each of the general terms; left out in what was kept before that was. */
  with: z.array(z.number()).max(60).optional(),
});
const taughtSchema = z.object({
  /** What a reading strays by beyond all terms, dB. */
  strayDb: z.number().min(0.1).max(30),
  readings: z.number().int().min(0),
  terms: z.array(learnedTermSchema).max(2000),
  /** Keys of the general terms: those of no one area. */
  general: z.array(z.string().max(60)).max(60).optional(),
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

/** The area that a term is of, of levels, of woods or of noise; null for any other. */
export function areaOfTerm(key: string): [north: number, east: number] | null {
  const [, north, east] = /(?:^|, )area (-?\d+) (-?\d+)$/.exec(key) ?? [];
  return east === undefined ? null : [Number(north), Number(east)];
}

/** Terms of trees on a frequency: of all, of those in leaf and of bare ones, and of the wood at a place. */
export function treesTerms(frequencyGHz: number): { all: string; inLeaf: string; bare: string } {
  const all = `trees ${BANDS.find(([belowGHz]) => frequencyGHz < belowGHz)![1]}`;
  return { all, inLeaf: `${all}, in leaf`, bare: `${all}, bare` };
}
const woodTerm = (allTrees: string, { latDeg, lonDeg }: { latDeg: number; lonDeg: number }): string =>
  `${allTrees}, ${areaTerm(latDeg, lonDeg)}`;

/** Terms that a path has, with how much of each: a term's value times that is its part of the correction, dB. */
export function termsOf(one: LearnedCase): [key: string, amount: number][] {
  const terms: [string, number][] = [
    ["everywhere", 1],
    [areaTerm(one.latDeg, one.lonDeg), 1],
  ];
  if (one.treesDb > 0) {
    const { all, inLeaf, bare } = treesTerms(one.frequencyGHz);
    terms.push([all, one.treesDb]);
    if (one.inLeafShare > 0) terms.push([inLeaf, one.treesDb * one.inLeafShare]);
    if (one.inLeafShare < 1) terms.push([bare, one.treesDb * (1 - one.inLeafShare)]);
    if (one.wood) terms.push([woodTerm(all, one.wood), one.treesDb]);
  }
  if (one.diffractionDb > 0) terms.push(["ground", Math.min(MOST_SCALED_DB, one.diffractionDb)]);
  if (one.isIndoors) terms.push(["indoors", 1]);
  return terms;
}

/** Noise of a town on a shared band stands some 10 dB over that of a valley: each of both may be that far off, dB. */
const NOISE_OF_BAND_DB = 4;
const NOISE_OF_AREA_DB = 5;

/** One formula for all woods of a band: so far off may be the band, a season in it, and a single wood, dB for each dB. */
const TREES_OF_BAND = 0.3;
const TREES_OF_SEASON = 0.15;
const TREES_OF_WOOD = 0.25;

/** What is thought of a term before anything was read: 0, give or take this, dB or dB for each dB. */
export function priorSd(key: string): number {
  if (key.startsWith("noise")) return areaOfTerm(key) ? NOISE_OF_AREA_DB : NOISE_OF_BAND_DB;
  if (key === "everywhere") return 2;
  if (key === "ground") return 0.25;
  if (key === "indoors") return 5;
  if (!key.startsWith("trees")) return 3;
  if (areaOfTerm(key)) return TREES_OF_WOOD;
  return key.includes(",") ? TREES_OF_SEASON : TREES_OF_BAND;
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
  const area = areaOfTerm(key);
  if (key.startsWith("trees")) {
    const [band, part] = key.slice(6).split(", ");
    const ofPart = area ? `, the wood around ${placeOfArea(area)}` : part ? `, ${part}` : "";
    return `For each dB that trees take, ${band}${ofPart}`;
  }
  const [, band] = /^noise at (\d+) GHz/.exec(key) ?? [];
  if (band === undefined) return `Around ${placeOfArea(area ?? [0, 0])}`;
  return `Noise ${band === "0" ? "under 1" : `at ${band}`} GHz, ${area ? `around ${placeOfArea(area)}` : "everywhere"}`;
}
