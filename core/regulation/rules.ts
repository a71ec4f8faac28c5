import { z } from "zod";
import { figure } from "../words";

/** What a rule says of EIRP. Every number that bites is data; the four shapes are the forms in which texts put it. */
const eirpSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("fixed"), dbm: z.number() }),
  /** Conducted power falls by `dbPerDbi` for each dBi over `freeGainDbi`. */
  z.object({
    kind: z.literal("gainForPower"),
    conductedDbm: z.number(),
    freeGainDbi: z.number(),
    dbPerDbi: z.number(),
  }),
  /** The cap falls by `dbPerDbi` for each dBi under `fullGainDbi`; under `leastGainDbi` nothing is allowed. */
  z.object({
    kind: z.literal("lessUnderGain"),
    dbm: z.number(),
    fullGainDbi: z.number(),
    dbPerDbi: z.number(),
    leastGainDbi: z.number(),
    otherwiseDbm: z.number().nullable(),
  }),
  z.object({ kind: z.literal("national") }),
  /** No cap of its own: the density alone limits, so that a wider channel may radiate more. */
  z.object({ kind: z.literal("byDensity") }),
]);

/** Who may use a band: anyone, anyone whom a database or registration lets, or the holder of a licence for the link. */
export const LICENCES = ["exempt", "coordinated", "byLink"] as const;
/** What a rule asks beyond its caps. */
export const RULE_FLAGS = ["DFS", "TPC", "indoorOnly"] as const;
export type RuleFlag = (typeof RULE_FLAGS)[number];

/** The terms as they are said to a reader. */
export const FLAG_WORDS: Record<RuleFlag, string> = {
  DFS: "radar avoidance (DFS)",
  TPC: "power control (TPC)",
  indoorOnly: "indoor or restricted use only",
};
export const LICENCE_WORDS: Record<(typeof LICENCES)[number], string> = {
  exempt: "no licence",
  coordinated: "access through a coordination system",
  byLink: "licence by link",
};

const dbm = z.number().min(-100).max(150);
const densitySchema = z.object({
  dbm,
  perMHz: z.number().positive().max(1000),
  /** Gain from which each dBi more takes a decibel of the density, dBi; null where the text asks for nothing. */
  freeGainDbi: z.number().min(0).max(60).nullable().default(null),
});
type Density = z.infer<typeof densitySchema>;

export const ruleSchema = z
  .object({
    bandMHz: z.tuple([z.number().positive(), z.number().positive()]),
    use: z.enum(["any", "ptp", "ptmp"]),
    source: z.string().max(200),
    conductedDbm: dbm.nullable(),
    /** Conducted cap of this many dBm + 10 log10(bandwidth in MHz), where lower. */
    conductedByWidthDbm: dbm.nullable(),
    conductedDensity: densitySchema.nullable(),
    eirpDensity: densitySchema.nullable(),
    eirp: eirpSchema,
    /** EIRP allowed above 30° elevation, dBm. */
    above30DegDbm: dbm.nullable(),
    /** Widths that the text names, MHz; empty where it leaves them to the radio. */
    widthsMHz: z.array(z.number().positive()),
    /** Centres stand at whole steps from the band's lower edge, MHz; null where the text leaves them free. */
    rasterMHz: z.number().positive().nullable(),
    licence: z.enum(LICENCES),
    flags: z.array(z.enum(RULE_FLAGS)),
  })
  .refine(({ bandMHz }) => bandMHz[0] < bandMHz[1], "the band's lower edge must lie under its upper one");
export type Rule = z.infer<typeof ruleSchema>;

export const ruleSetSchema = z.object({
  id: z.string(),
  name: z.string(),
  noted: z.string(),
  rules: z.array(ruleSchema).readonly(),
});
export type RuleSet = z.infer<typeof ruleSetSchema>;

/** What a cap comes from: no rule at all, or a part of one. */
type Because =
  | { kind: "bar"; words: string }
  | { kind: "eirp"; eirp: Rule["eirp"]; gainDbi: number }
  | { kind: "density"; density: Density; widthMHz: number }
  | { kind: "elevation"; dbm: number; belowPeakDb: number };

/** Why a limit is what it is, in words with the figures that led to it. */
export function limitReason({ because }: EirpLimit): string {
  switch (because.kind) {
    case "bar":
      return because.words;
    case "eirp":
      return eirpWords(because.eirp, because.gainDbi);
    case "density":
      return `${because.density.dbm} dBm per ${because.density.perMHz} MHz over ${because.widthMHz} MHz`;
    case "elevation":
      return `at most ${because.dbm} dBm above 30° elevation, where the antenna radiates ${because.belowPeakDb.toFixed(1)} dB under its peak`;
  }
}

export interface EirpLimit {
  /** Null where the rule set knows no cap here. */
  eirpCapDbm: number | null;
  conductedCapDbm: number | null;
  /** What the cap comes from; `limitReason` puts it into words when somebody reads it: a search asks for thousands. */
  because: Because;
  source: string;
  flags: readonly RuleFlag[];
  licence: Rule["licence"];
  /** False where no rule of the set covers the whole channel for this use. */
  covered: boolean;
}

interface LimitQuestion {
  ruleSet: RuleSet;
  frequencyMHz: number;
  widthMHz: number;
  use: "ptp" | "ptmp";
  antennaGainDbi: number;
  /** Loss below its peak of the strongest direction above 30° elevation, dB; asked only where a rule has a mask. */
  lossAbove30Db?: () => number;
}

/**
 * The caps that a rule set puts on one transmitter. `use` is "ptp" for a fixed bridge, "ptmp" for anything else;
 * `lossAbove30Db` is what the antenna radiates into the sky. A channel that straddles two rules gets the lower cap of each and what
 * both ask for.
 */
export function eirpLimit(question: LimitQuestion): EirpLimit {
  const { ruleSet, frequencyMHz, widthMHz, antennaGainDbi, lossAbove30Db = () => Infinity } = question;
  const low = frequencyMHz - widthMHz / 2;
  const high = frequencyMHz + widthMHz / 2;
  const { fitting, bar: channelBar } = rulesFor(question, low, high);
  const bar = channelBar ?? antennaBar(fitting, antennaGainDbi);
  if (bar) {
    return {
      eirpCapDbm: null,
      conductedCapDbm: null,
      because: { kind: "bar", words: `${ruleSet.name} ${bar}` },
      source: ruleSet.name,
      flags: [],
      licence: "exempt",
      covered: false,
    };
  }
  let worst = limitOf(fitting[0]!, widthMHz, antennaGainDbi, lossAbove30Db);
  for (let i = 1; i < fitting.length; i++) {
    const limit = limitOf(fitting[i]!, widthMHz, antennaGainDbi, lossAbove30Db);
    const tighter = (limit.eirpCapDbm ?? Infinity) < (worst.eirpCapDbm ?? Infinity) ? limit : worst;
    const conducted = Math.min(limit.conductedCapDbm ?? Infinity, worst.conductedCapDbm ?? Infinity);
    worst = {
      ...tighter,
      conductedCapDbm: conducted === Infinity ? null : conducted,
      flags: [...new Set([...worst.flags, ...limit.flags])],
      licence: LICENCES.indexOf(limit.licence) > LICENCES.indexOf(worst.licence) ? limit.licence : worst.licence,
    };
  }
  return worst;
}

/** The rules that bear on a channel. Both ends of a link ask for the same ones, one after the other. */
function rulesFor(question: LimitQuestion, low: number, high: number): { fitting: Rule[]; bar: string | null } {
  const { rules } = question.ruleSet;
  const { use } = question;
  if (askedLast.rules === rules && askedLast.low === low && askedLast.high === high && askedLast.use === use)
    return askedLast;
  const fitting = rules.filter(
    (rule) => rule.bandMHz[0] < high && rule.bandMHz[1] > low && (rule.use === "any" || rule.use === use),
  );
  askedLast = { rules, low, high, use, fitting, bar: barTo(fitting, question, low, high) };
  return askedLast;
}
let askedLast: {
  rules: readonly Rule[];
  low: number;
  high: number;
  use: string;
  fitting: Rule[];
  bar: string | null;
} = { rules: [], low: NaN, high: NaN, use: "", fitting: [], bar: null };

/** Why a channel cannot be had at all, or null. */
function barTo(fitting: Rule[], { frequencyMHz, widthMHz }: LimitQuestion, low: number, high: number): string | null {
  if (!coversChannel(fitting, low, high)) return `has no rule for ${low}–${high} MHz`;
  for (const { widthsMHz, rasterMHz, bandMHz } of fitting) {
    if (widthsMHz.length > 0 && !widthsMHz.includes(widthMHz))
      return `has no channels of ${widthMHz} MHz at ${frequencyMHz} MHz, only of ${widthsMHz.join(", ")} MHz`;
    if (rasterMHz === null) continue;
    const steps = (frequencyMHz - bandMHz[0]) / rasterMHz;
    if (Math.abs(steps - Math.round(steps)) > 1e-6)
      return `has its channels ${rasterMHz} MHz apart from ${bandMHz[0]} MHz; ${frequencyMHz} MHz lies between two`;
  }
  return null;
}

/** Why an antenna cannot be had on a channel: some rules ask for a least gain and allow nothing below it. */
function antennaBar(fitting: readonly Rule[], gainDbi: number): string | null {
  for (const { eirp } of fitting)
    if (eirp.kind === "lessUnderGain" && eirp.otherwiseDbm === null && gainDbi < eirp.leastGainDbi)
      return `asks for an antenna of at least ${eirp.leastGainDbi} dBi here`;
  return null;
}

function coversChannel(rules: Rule[], low: number, high: number): boolean {
  if (rules.length === 1) return rules[0]!.bandMHz[0] <= low && rules[0]!.bandMHz[1] >= high;
  let reached = low;
  for (const rule of [...rules].sort((a, b) => a.bandMHz[0] - b.bandMHz[0])) {
    if (rule.bandMHz[0] <= reached) reached = Math.max(reached, rule.bandMHz[1]);
  }
  return reached >= high;
}

function limitOf(rule: Rule, widthMHz: number, gainDbi: number, lossAbove30Db: () => number): EirpLimit {
  let conducted = rule.conductedDbm ?? Infinity;
  if (rule.conductedByWidthDbm !== null)
    conducted = Math.min(conducted, rule.conductedByWidthDbm + 10 * Math.log10(widthMHz));
  if (rule.conductedDensity) conducted = Math.min(conducted, overWidth(rule.conductedDensity, widthMHz, gainDbi));
  let eirpCapDbm = eirpCap(rule.eirp, gainDbi);
  let because: Because = { kind: "eirp", eirp: rule.eirp, gainDbi };
  if (rule.eirp.kind === "gainForPower") conducted = Math.min(conducted, eirpCapDbm! - gainDbi);
  if (rule.eirpDensity) {
    const cap = overWidth(rule.eirpDensity, widthMHz, gainDbi);
    if (cap < (eirpCapDbm ?? Infinity)) {
      eirpCapDbm = cap;
      because = { kind: "density", density: rule.eirpDensity, widthMHz };
    }
  }
  if (rule.above30DegDbm !== null) {
    const belowPeakDb = lossAbove30Db();
    if (rule.above30DegDbm + belowPeakDb < (eirpCapDbm ?? Infinity)) {
      eirpCapDbm = rule.above30DegDbm + belowPeakDb;
      because = { kind: "elevation", dbm: rule.above30DegDbm, belowPeakDb };
    }
  }
  return {
    eirpCapDbm,
    conductedCapDbm: conducted === Infinity ? null : conducted,
    because,
    source: rule.source,
    flags: rule.flags,
    licence: rule.licence,
    covered: true,
  };
}

const overWidth = ({ dbm, perMHz, freeGainDbi }: Density, widthMHz: number, gainDbi: number) =>
  dbm + 10 * Math.log10(widthMHz / perMHz) - (freeGainDbi === null ? 0 : Math.max(0, gainDbi - freeGainDbi));

function eirpCap(eirp: Rule["eirp"], gainDbi: number): number | null {
  switch (eirp.kind) {
    case "fixed":
      return eirp.dbm;
    case "gainForPower":
      return eirp.conductedDbm + gainDbi - Math.max(0, gainDbi - eirp.freeGainDbi) * eirp.dbPerDbi;
    case "lessUnderGain":
      return gainDbi < eirp.leastGainDbi
        ? eirp.otherwiseDbm
        : eirp.dbm - Math.max(0, eirp.fullGainDbi - gainDbi) * eirp.dbPerDbi;
    case "national":
    case "byDensity":
      return null;
  }
}

/** How a rule puts its EIRP, in words. */
export function eirpWords(eirp: Rule["eirp"], gainDbi: number): string {
  switch (eirp.kind) {
    case "fixed":
      return `${eirp.dbm} dBm EIRP`;
    case "gainForPower":
      return `${eirp.conductedDbm} dBm conducted; ${eirp.dbPerDbi.toFixed(2)} dB less per dBi over ${eirp.freeGainDbi} dBi`;
    case "lessUnderGain":
      return gainDbi < eirp.leastGainDbi
        ? `under ${eirp.leastGainDbi} dBi of antenna gain`
        : eirp.dbPerDbi === 0
          ? `${eirp.dbm} dBm with ${eirp.leastGainDbi} dBi or more${eirp.otherwiseDbm === null ? "" : `, else ${eirp.otherwiseDbm} dBm`}`
          : `${eirp.dbm} dBm less ${eirp.dbPerDbi} dB per dBi under ${eirp.fullGainDbi} dBi`;
    case "national":
      return "set by the national licence";
    case "byDensity":
      return "no cap but the density";
  }
}

/** The cap that a transmitter is measured against, in words. */
export function capWords({ eirpCapDbm, conductedCapDbm, covered }: EirpLimit): string {
  if (eirpCapDbm !== null) return `${figure(eirpCapDbm)} dBm EIRP`;
  if (conductedCapDbm !== null) return `${figure(conductedCapDbm)} dBm conducted`;
  return covered ? "none in the rule set" : "no rule covers this channel";
}
