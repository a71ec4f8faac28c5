import { ruleSetSchema, type Rule, type RuleSet } from "./rules";

const NOTED = "noted 2026-11-01 from the public text; check with your regulator";

/** Fills in what most rules leave open. */
function rule(
  bandMHz: [number, number],
  use: Rule["use"],
  source: string,
  eirp: Rule["eirp"],
  rest: Partial<Rule> = {},
): Rule {
  return {
    bandMHz,
    use,
    source,
    eirp,
    conductedDbm: null,
    conductedByWidthDbm: null,
    conductedDensity: null,
    eirpDensity: null,
    above30DegDbm: null,
    widthsMHz: [],
    rasterMHz: null,
    licence: "exempt",
    flags: [],
    ...rest,
  };
}
const fixed = (dbm: number): Rule["eirp"] => ({ kind: "fixed", dbm });
const gainForPower = (freeGainDbi: number, dbPerDbi: number): Rule["eirp"] => ({
  kind: "gainForPower",
  conductedDbm: 30,
  freeGainDbi,
  dbPerDbi,
});
/** A density that falls with gain over 6 dBi, as power does; null for a fixed one. */
const density = (dbm: number, perMHz: number, freeGainDbi: number | null = null) => ({ dbm, perMHz, freeGainDbi });
const density8Per3kHz = density(8, 0.003);
const DFS: Rule["flags"] = ["DFS", "TPC"];
/** Channels of the 5 and 6 GHz bands, and of 60 and 80 GHz. */
const SIX: Pick<Rule, "widthsMHz" | "rasterMHz"> = { widthsMHz: [5, 10, 20, 40, 80, 160], rasterMHz: 5 };
const WIDE: Pick<Rule, "widthsMHz" | "rasterMHz"> = { widthsMHz: [250, 500, 1000, 2000], rasterMHz: null };
const EIGHTY: Pick<Rule, "widthsMHz" | "rasterMHz"> = { widthsMHz: [250, 500, 1000, 2000], rasterMHz: 125 };

const part15: RuleSet = {
  id: "cfr47",
  name: "47 CFR style",
  noted: NOTED,
  rules: [
    rule([902, 928], "any", "47 CFR 15.247", gainForPower(6, 1), {
      conductedDbm: 30,
      conductedDensity: density8Per3kHz,
    }),
    rule([2400, 2483.5], "ptmp", "47 CFR 15.247", fixed(36), { conductedDbm: 30, conductedDensity: density8Per3kHz }),
    rule([2400, 2483.5], "ptp", "47 CFR 15.247", gainForPower(6, 1 / 3), {
      conductedDbm: 30,
      conductedDensity: density8Per3kHz,
    }),
    rule(
      [3550, 3700],
      "any",
      "47 CFR part 96, category B",
      { kind: "byDensity" },
      {
        eirpDensity: density(47, 10),
        licence: "coordinated",
      },
    ),
    rule([5150, 5250], "ptmp", "47 CFR 15.407", fixed(36), {
      conductedDbm: 30,
      conductedDensity: density(17, 1, 6),
      above30DegDbm: 21,
      ...SIX,
    }),
    rule([5150, 5250], "ptp", "47 CFR 15.407", gainForPower(23, 1), {
      conductedDbm: 30,
      conductedDensity: density(17, 1, 23),
      above30DegDbm: 21,
      ...SIX,
    }),
    rule([5250, 5350], "any", "47 CFR 15.407", fixed(30), {
      conductedDbm: 24,
      conductedByWidthDbm: 11,
      conductedDensity: density(11, 1, 6),
      flags: DFS,
      ...SIX,
    }),
    rule([5470, 5725], "any", "47 CFR 15.407", fixed(30), {
      conductedDbm: 24,
      conductedByWidthDbm: 11,
      conductedDensity: density(11, 1, 6),
      flags: DFS,
      ...SIX,
    }),
    rule([5725, 5850], "ptmp", "47 CFR 15.407", fixed(36), {
      conductedDbm: 30,
      conductedDensity: density(30, 0.5, 6),
      ...SIX,
    }),
    rule([5725, 5850], "ptp", "47 CFR 15.407", gainForPower(200, 1), {
      conductedDbm: 30,
      conductedDensity: density(30, 0.5),
      ...SIX,
    }),
    rule([5925, 6425], "any", "47 CFR 15.407, standard power", fixed(36), {
      eirpDensity: density(23, 1),
      above30DegDbm: 21,
      licence: "coordinated",
      ...SIX,
    }),
    rule([6525, 6875], "any", "47 CFR 15.407, standard power", fixed(36), {
      eirpDensity: density(23, 1),
      above30DegDbm: 21,
      licence: "coordinated",
      ...SIX,
    }),
    rule([24050, 24250], "ptp", "47 CFR 15.249", {
      kind: "lessUnderGain",
      dbm: 33,
      fullGainDbi: 33,
      dbPerDbi: 0,
      leastGainDbi: 33,
      otherwiseDbm: 13,
    }),
    rule([57000, 71000], "ptmp", "47 CFR 15.255", fixed(40), WIDE),
    rule(
      [57000, 71000],
      "ptp",
      "47 CFR 15.255, outdoors",
      {
        kind: "lessUnderGain",
        dbm: 82,
        fullGainDbi: 51,
        dbPerDbi: 2,
        leastGainDbi: 30,
        otherwiseDbm: 40,
      },
      WIDE,
    ),
    ...(
      [
        [71000, 76000],
        [81000, 86000],
      ] as [number, number][]
    ).map((band) =>
      rule(
        band,
        "ptp",
        "47 CFR part 101",
        { kind: "lessUnderGain", dbm: 85, fullGainDbi: 50, dbPerDbi: 2, leastGainDbi: 43, otherwiseDbm: null },
        { conductedDbm: 35, licence: "byLink", ...EIGHTY },
      ),
    ),
  ],
};

const etsi: RuleSet = {
  id: "en",
  name: "EN style",
  noted: NOTED,
  rules: [
    rule([2400, 2483.5], "any", "EN 300 328", fixed(20), { eirpDensity: density(10, 1) }),
    rule([5150, 5250], "any", "EN 301 893", fixed(23), {
      eirpDensity: density(10, 1),
      flags: ["indoorOnly"],
      ...SIX,
    }),
    rule([5250, 5350], "any", "EN 301 893", fixed(23), {
      eirpDensity: density(10, 1),
      flags: ["indoorOnly", ...DFS],
      ...SIX,
    }),
    rule([5470, 5725], "any", "EN 301 893", fixed(30), { eirpDensity: density(17, 1), flags: DFS, ...SIX }),
    rule([5725, 5875], "any", "EN 302 502", fixed(36), { eirpDensity: density(23, 1), flags: DFS, ...SIX }),
    rule(
      [57000, 71000],
      "any",
      "EN 303 722",
      { kind: "lessUnderGain", dbm: 55, fullGainDbi: 30, dbPerDbi: 0, leastGainDbi: 30, otherwiseDbm: 40 },
      { eirpDensity: density(38, 1), ...WIDE },
    ),
    ...(
      [
        [71000, 76000],
        [81000, 86000],
      ] as [number, number][]
    ).map((band) => rule(band, "ptp", "EN 302 217", { kind: "national" }, { licence: "byLink", ...EIGHTY })),
  ],
};

/** The rule sets that ship with Tejado, as data. */
export const RULE_SETS: readonly RuleSet[] = [part15, etsi].map((set) => ruleSetSchema.parse(set));

/** Under this id a plan goes by rules of its own. */
export const OWN_RULES = "own";
/** Every rule set that a plan can name. */
export const RULE_SET_IDS: readonly string[] = [...RULE_SETS.map((set) => set.id), OWN_RULES];

/** A shipped rule set by id; refuses an unknown one. */
export function ruleSetById(id: string): RuleSet {
  const found = RULE_SETS.find((set) => set.id === id);
  if (!found) throw new RangeError(`rule set is ${id}; it must be one of ${RULE_SET_IDS.join(", ")}`);
  return found;
}

/** The rule set that a plan goes by: a shipped one, or its own. */
export function ruleSetOf({ ruleSetId, ownRules }: { ruleSetId: string; ownRules: readonly Rule[] }): RuleSet {
  if (ruleSetId !== OWN_RULES) return ruleSetById(ruleSetId);
  return {
    id: OWN_RULES,
    name: "Own rules",
    noted: "written by this plan's users; check with your regulator",
    rules: ownRules,
  };
}
