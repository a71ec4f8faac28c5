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
const density8Per3kHz = { dbm: 8, perMHz: 0.003 };
const DFS = ["DFS", "TPC"];
const LICENSED = ["licence by link"];

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
    rule([3550, 3700], "any", "47 CFR part 96, category B", fixed(47), {
      eirpDensity: { dbm: 47, perMHz: 10 },
      flags: ["access system"],
    }),
    rule([5150, 5250], "ptmp", "47 CFR 15.407", fixed(36), {
      conductedDbm: 30,
      conductedDensity: { dbm: 17, perMHz: 1 },
      above30DegDbm: 21,
    }),
    rule([5150, 5250], "ptp", "47 CFR 15.407", gainForPower(23, 1), {
      conductedDbm: 30,
      conductedDensity: { dbm: 17, perMHz: 1 },
      above30DegDbm: 21,
    }),
    rule([5250, 5350], "any", "47 CFR 15.407", fixed(30), {
      conductedDbm: 24,
      conductedByWidthDbm: 11,
      conductedDensity: { dbm: 11, perMHz: 1 },
      flags: DFS,
    }),
    rule([5470, 5725], "any", "47 CFR 15.407", fixed(30), {
      conductedDbm: 24,
      conductedByWidthDbm: 11,
      conductedDensity: { dbm: 11, perMHz: 1 },
      flags: DFS,
    }),
    rule([5725, 5850], "ptmp", "47 CFR 15.407", fixed(36), {
      conductedDbm: 30,
      conductedDensity: { dbm: 30, perMHz: 0.5 },
    }),
    rule([5725, 5850], "ptp", "47 CFR 15.407", gainForPower(200, 1), {
      conductedDbm: 30,
      conductedDensity: { dbm: 30, perMHz: 0.5 },
    }),
    rule([5925, 6425], "any", "47 CFR 15.407, standard power", fixed(36), {
      eirpDensity: { dbm: 23, perMHz: 1 },
      above30DegDbm: 21,
      flags: ["coordination"],
    }),
    rule([6525, 6875], "any", "47 CFR 15.407, standard power", fixed(36), {
      eirpDensity: { dbm: 23, perMHz: 1 },
      above30DegDbm: 21,
      flags: ["coordination"],
    }),
    rule([24050, 24250], "ptp", "47 CFR 15.249", {
      kind: "lessUnderGain",
      dbm: 33,
      fullGainDbi: 33,
      dbPerDbi: 0,
      leastGainDbi: 33,
      otherwiseDbm: 13,
    }),
    rule([57000, 71000], "ptmp", "47 CFR 15.255", fixed(40)),
    rule([57000, 71000], "ptp", "47 CFR 15.255, outdoors", {
      kind: "lessUnderGain",
      dbm: 82,
      fullGainDbi: 51,
      dbPerDbi: 2,
      leastGainDbi: 30,
      otherwiseDbm: 40,
    }),
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
        { conductedDbm: 35, flags: LICENSED },
      ),
    ),
  ],
};

const etsi: RuleSet = {
  id: "en",
  name: "EN style",
  noted: NOTED,
  rules: [
    rule([2400, 2483.5], "any", "EN 300 328", fixed(20), { eirpDensity: { dbm: 10, perMHz: 1 } }),
    rule([5150, 5250], "any", "EN 301 893", fixed(23), {
      eirpDensity: { dbm: 10, perMHz: 1 },
      flags: ["indoor or restricted"],
    }),
    rule([5250, 5350], "any", "EN 301 893", fixed(23), {
      eirpDensity: { dbm: 10, perMHz: 1 },
      flags: ["indoor or restricted", ...DFS],
    }),
    rule([5470, 5725], "any", "EN 301 893", fixed(30), { eirpDensity: { dbm: 17, perMHz: 1 }, flags: DFS }),
    rule([5725, 5875], "any", "EN 302 502", fixed(36), { eirpDensity: { dbm: 23, perMHz: 1 }, flags: DFS }),
    rule(
      [57000, 71000],
      "any",
      "EN 303 722",
      { kind: "lessUnderGain", dbm: 55, fullGainDbi: 30, dbPerDbi: 0, leastGainDbi: 30, otherwiseDbm: 40 },
      { eirpDensity: { dbm: 38, perMHz: 1 } },
    ),
    ...(
      [
        [71000, 76000],
        [81000, 86000],
      ] as [number, number][]
    ).map((band) => rule(band, "ptp", "EN 302 217", { kind: "national" }, { flags: LICENSED })),
  ],
};

/** The rule sets that ship with Tejado, as data. */
export const RULE_SETS: readonly RuleSet[] = [part15, etsi].map((set) => ruleSetSchema.parse(set));

/** A shipped rule set by id; refuses an unknown one. */
export function ruleSetById(id: string): RuleSet {
  const found = RULE_SETS.find((set) => set.id === id);
  if (!found) throw new RangeError(`rule set is ${id}; it must be one of ${RULE_SETS.map((set) => set.id).join(", ")}`);
  return found;
}
