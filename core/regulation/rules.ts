import { z } from "zod";

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
]);

export const ruleSchema = z.object({
  bandMHz: z.tuple([z.number(), z.number()]),
  use: z.enum(["any", "ptp", "ptmp"]),
  source: z.string(),
  conductedDbm: z.number().nullable(),
  /** Conducted cap of `atOneMHzDbm` + 10 log10(bandwidth in MHz), where lower. */
  conductedByWidthDbm: z.number().nullable(),
  conductedDensity: z.object({ dbm: z.number(), perMHz: z.number() }).nullable(),
  eirpDensity: z.object({ dbm: z.number(), perMHz: z.number() }).nullable(),
  eirp: eirpSchema,
  /** EIRP allowed above 30° elevation, dBm. */
  above30DegDbm: z.number().nullable(),
  flags: z.array(z.string()),
});
export type Rule = z.infer<typeof ruleSchema>;

export const ruleSetSchema = z.object({
  id: z.string(),
  name: z.string(),
  noted: z.string(),
  rules: z.array(ruleSchema),
});
export type RuleSet = z.infer<typeof ruleSetSchema>;

export interface EirpLimit {
  /** Null where the rule set knows no cap here. */
  eirpCapDbm: number | null;
  conductedCapDbm: number | null;
  /** Why, in words with the figures that led to it. */
  reason: string;
  source: string;
  flags: string[];
  /** False where no rule of the set covers the whole channel for this use. */
  covered: boolean;
}

/**
 * The caps that a rule set puts on one transmitter. `use` is "ptp" for a fixed bridge, "ptmp" for anything else;
 * `elevationDeg` is the direction of the main beam. A channel that straddles two rules gets the lower cap of each.
 */
export function eirpLimit({
  ruleSet,
  frequencyMHz,
  widthMHz,
  use,
  antennaGainDbi,
  elevationDeg = 0,
}: {
  ruleSet: RuleSet;
  frequencyMHz: number;
  widthMHz: number;
  use: "ptp" | "ptmp";
  antennaGainDbi: number;
  elevationDeg?: number;
}): EirpLimit {
  const low = frequencyMHz - widthMHz / 2;
  const high = frequencyMHz + widthMHz / 2;
  const fitting = ruleSet.rules.filter(
    (rule) => rule.bandMHz[0] < high && rule.bandMHz[1] > low && (rule.use === "any" || rule.use === use),
  );
  const covers = coversChannel(fitting, low, high);
  if (!covers) {
    return {
      eirpCapDbm: null,
      conductedCapDbm: null,
      reason: `${ruleSet.name} has no rule for ${low}–${high} MHz`,
      source: ruleSet.name,
      flags: [],
      covered: false,
    };
  }
  const limits = fitting.map((rule) => limitOf(rule, widthMHz, antennaGainDbi, elevationDeg));
  return limits.reduce((worst, limit) =>
    (limit.eirpCapDbm ?? Infinity) < (worst.eirpCapDbm ?? Infinity) ? limit : worst,
  );
}

function coversChannel(rules: Rule[], low: number, high: number): boolean {
  let reached = low;
  for (const rule of [...rules].sort((a, b) => a.bandMHz[0] - b.bandMHz[0])) {
    if (rule.bandMHz[0] <= reached) reached = Math.max(reached, rule.bandMHz[1]);
  }
  return reached >= high;
}

function limitOf(rule: Rule, widthMHz: number, gainDbi: number, elevationDeg: number): EirpLimit {
  const conducted = [
    rule.conductedDbm,
    rule.conductedByWidthDbm === null ? null : rule.conductedByWidthDbm + 10 * Math.log10(widthMHz),
    rule.conductedDensity && rule.conductedDensity.dbm + 10 * Math.log10(widthMHz / rule.conductedDensity.perMHz),
  ].filter((cap) => cap !== null);
  let conductedCapDbm = conducted.length > 0 ? Math.min(...conducted) : null;
  let [eirpCapDbm, reason] = eirpOf(rule.eirp, gainDbi);
  if (rule.eirp.kind === "gainForPower") {
    conductedCapDbm = Math.min(conductedCapDbm ?? Infinity, eirpCapDbm! - gainDbi);
  }
  if (rule.eirpDensity) {
    const cap = rule.eirpDensity.dbm + 10 * Math.log10(widthMHz / rule.eirpDensity.perMHz);
    if (cap < (eirpCapDbm ?? Infinity)) {
      eirpCapDbm = cap;
      reason = `${rule.eirpDensity.dbm} dBm per ${rule.eirpDensity.perMHz} MHz over ${widthMHz} MHz`;
    }
  }
  if (rule.above30DegDbm !== null && elevationDeg > 30 && rule.above30DegDbm < (eirpCapDbm ?? Infinity)) {
    eirpCapDbm = rule.above30DegDbm;
    reason = `at most ${rule.above30DegDbm} dBm above 30° elevation`;
  }
  return { eirpCapDbm, conductedCapDbm, reason, source: rule.source, flags: rule.flags, covered: true };
}

function eirpOf(eirp: Rule["eirp"], gainDbi: number): [capDbm: number | null, reason: string] {
  switch (eirp.kind) {
    case "fixed":
      return [eirp.dbm, `${eirp.dbm} dBm EIRP`];
    case "gainForPower": {
      const excess = Math.max(0, gainDbi - eirp.freeGainDbi);
      const cap = eirp.conductedDbm + gainDbi - excess * eirp.dbPerDbi;
      return [
        cap,
        `${eirp.conductedDbm} dBm conducted; ${eirp.dbPerDbi.toFixed(2)} dB less per dBi over ${eirp.freeGainDbi} dBi`,
      ];
    }
    case "lessUnderGain": {
      if (gainDbi < eirp.leastGainDbi) {
        return [eirp.otherwiseDbm, `under ${eirp.leastGainDbi} dBi of antenna gain`];
      }
      const cap = eirp.dbm - Math.max(0, eirp.fullGainDbi - gainDbi) * eirp.dbPerDbi;
      return [cap, `${eirp.dbm} dBm less ${eirp.dbPerDbi} dB per dBi under ${eirp.fullGainDbi} dBi`];
    }
    case "national":
      return [null, "set by the national licence"];
  }
}
