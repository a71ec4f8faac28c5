import { expect, test } from "@jest/globals";
import { limitReason, eirpLimit, RULE_SETS, ruleSetById, type RuleFlag } from "#core/regulation";

/** Both caps of one transmitter, dBm: EIRP and power at the port. */
function caps(
  set: "cfr47" | "en",
  frequencyMHz: number,
  widthMHz: number,
  use: "ptp" | "ptmp",
  antennaGainDbi: number,
  skyLossDb = Infinity,
) {
  const limit = eirpLimit({
    ruleSet: ruleSetById(set),
    frequencyMHz,
    widthMHz,
    use,
    antennaGainDbi,
    lossAbove30Db: () => skyLossDb,
  });
  expect([frequencyMHz, limit.covered, limitReason(limit)]).toEqual([frequencyMHz, true, expect.any(String)]);
  return [limit.eirpCapDbm, limit.conductedCapDbm];
}
const near = (dbm: number) => expect.closeTo(dbm, 2);

/** Each stretch of the two shipped sets, reckoned from its text. */
const CAPS: [text: string, ask: Parameters<typeof caps>, eirp: number | null, conducted: number | null][] = [
  // 30 dBm and 6 dBi, a decibel less for each more.
  ["15.247 at 915 MHz, 6 dBi", ["cfr47", 915, 10, "ptmp", 6], 36, 30],
  ["15.247 at 915 MHz, 11 dBi", ["cfr47", 915, 10, "ptp", 11], 36, 25],
  ["15.247 at 2.4 GHz for many", ["cfr47", 2440, 20, "ptmp", 14], 36, 30],
  // A decibel less for every three over 6 dBi: 24 dBi cost 6.
  ["15.247 at 2.4 GHz between fixed points", ["cfr47", 2440, 20, "ptp", 24], 48, 24],
  // 8 dBm in 3 kHz over 100 kHz are 23.2 dBm.
  ["15.247, so narrow that density binds", ["cfr47", 2440, 0.1, "ptmp", 6], 36, 23.23],
  ["part 96, 10 MHz", ["cfr47", 3650, 10, "ptmp", 17], 47, null],
  ["part 96, 40 MHz", ["cfr47", 3650, 40, "ptp", 19], 53.02, null],
  ["15.407 at 5200 for many, 6 dBi", ["cfr47", 5200, 20, "ptmp", 6], 36, 30],
  ["15.407 at 5200 for many, 16 dBi", ["cfr47", 5200, 10, "ptmp", 16], 36, 17],
  ["15.407 at 5200 for many, steeply up", ["cfr47", 5200, 20, "ptmp", 6, 0], 21, 30],
  ["15.407 at 5200 between fixed points, 23 dBi", ["cfr47", 5200, 20, "ptp", 23], 53, 30],
  ["15.407 at 5200 between fixed points, 30 dBi", ["cfr47", 5200, 20, "ptp", 30], 53, 23],
  // 11 dBm + 10 lg 20 = 24.0; 23 dBi cost 17.
  ["15.407 at 5300", ["cfr47", 5300, 20, "ptp", 23], 30, 7.01],
  ["15.407 at 5600, 80 MHz", ["cfr47", 5610, 80, "ptmp", 6], 30, 24],
  ["15.407 at 5800 for many, 17 dBi", ["cfr47", 5800, 20, "ptmp", 17], 36, 30],
  // 30 dBm in 500 kHz over 5 MHz are 40 dBm; 17 dBi take 11 of them, which leaves less than the 30 of the text.
  ["15.407 at 5800 for many, 5 MHz and 17 dBi", ["cfr47", 5800, 5, "ptmp", 17], 36, 29],
  ["15.407 at 5800 between fixed points", ["cfr47", 5800, 20, "ptp", 34], 64, 30],
  ["15.407 at 6 GHz, standard power, 20 MHz", ["cfr47", 6175, 20, "ptp", 30], 36, null],
  ["15.407 at 6 GHz, so narrow that density binds", ["cfr47", 6175, 10, "ptp", 30], 33, null],
  ["15.407 at 6 GHz, steeply up", ["cfr47", 6700, 160, "ptmp", 10, 0], 21, null],
  ["15.249 at 24 GHz", ["cfr47", 24150, 100, "ptp", 38], 33, null],
  ["15.249 at 24 GHz with a small antenna", ["cfr47", 24150, 100, "ptp", 30], 13, null],
  ["15.255 for many", ["cfr47", 60480, 2000, "ptmp", 20], 40, null],
  ["15.255 outdoors, 51 dBi", ["cfr47", 60480, 2000, "ptp", 51], 82, null],
  ["15.255 outdoors, 42 dBi", ["cfr47", 60480, 2000, "ptp", 42], 64, null],
  ["15.255 outdoors, under 30 dBi", ["cfr47", 60480, 2000, "ptp", 29], 40, null],
  ["part 101 at 70 GHz, 50 dBi", ["cfr47", 73500, 500, "ptp", 50], 85, 35],
  ["part 101 at 80 GHz, 46 dBi", ["cfr47", 83500, 500, "ptp", 46], 77, 35],
  ["EN 300 328", ["en", 2440, 20, "ptmp", 14], 20, null],
  ["EN 300 328, 5 MHz", ["en", 2440, 5, "ptmp", 14], 16.99, null],
  ["EN 301 893, indoors", ["en", 5200, 20, "ptmp", 14], 23, null],
  ["EN 301 893, indoors, 5 MHz", ["en", 5200, 5, "ptmp", 14], 16.99, null],
  ["EN 301 893, outdoors", ["en", 5600, 20, "ptp", 30], 30, null],
  ["EN 301 893, outdoors, 10 MHz", ["en", 5600, 10, "ptp", 30], 27, null],
  ["EN 302 502", ["en", 5800, 20, "ptp", 30], 36, null],
  ["EN 302 502, 10 MHz", ["en", 5800, 10, "ptp", 30], 33, null],
  ["EN 303 722", ["en", 60480, 2000, "ptp", 38], 55, null],
  ["EN 303 722 with a small antenna", ["en", 60480, 2000, "ptp", 20], 40, null],
  ["EN 302 217", ["en", 73500, 500, "ptp", 50], null, null],
];

test.each(CAPS)("%s", (_, ask, eirp, conducted) => {
  expect(caps(...ask)).toEqual([eirp === null ? null : near(eirp), conducted === null ? null : near(conducted)]);
});

test("an antenna under the least gain that a rule asks for has no rule at all, rather than no cap", () => {
  const limit = (antennaGainDbi: number) => {
    const asked = {
      ruleSet: ruleSetById("cfr47"),
      frequencyMHz: 73500,
      widthMHz: 500,
      use: "ptp",
      antennaGainDbi,
    } as const;
    const found = eirpLimit(asked);
    return { ...found, reason: limitReason(found) };
  };
  expect(limit(42.9)).toMatchObject({
    covered: false,
    eirpCapDbm: null,
    reason: "47 CFR style asks for an antenna of at least 43 dBi here",
  });
  expect(limit(43)).toMatchObject({ covered: true, eirpCapDbm: 71 });
});

test("nobody may send for many where a band is for fixed pairs", () => {
  for (const frequencyMHz of [24150, 73500])
    expect(
      eirpLimit({ ruleSet: ruleSetById("cfr47"), frequencyMHz, widthMHz: 500, use: "ptmp", antennaGainDbi: 40 })
        .covered,
    ).toBe(false);
});

test("what a stretch asks for beyond its caps", () => {
  const flags = (set: "cfr47" | "en", frequencyMHz: number): readonly RuleFlag[] =>
    eirpLimit({ ruleSet: ruleSetById(set), frequencyMHz, widthMHz: 20, use: "ptmp", antennaGainDbi: 6 }).flags;
  expect([flags("cfr47", 5200), flags("cfr47", 5300), flags("cfr47", 5600), flags("cfr47", 5800)]).toEqual([
    [],
    ["DFS", "TPC"],
    ["DFS", "TPC"],
    [],
  ]);
  expect([flags("en", 5200), flags("en", 5300), flags("en", 5600), flags("en", 5800)]).toEqual([
    ["indoorOnly"],
    ["indoorOnly", "DFS", "TPC"],
    ["DFS", "TPC"],
    ["DFS", "TPC"],
  ]);
});

test("a cap never rises where a set is asked for more gain on the same channel, but for the gain itself", () => {
  for (const ruleSet of RULE_SETS)
    for (const { bandMHz, use, widthsMHz } of ruleSet.rules) {
      const widthMHz = widthsMHz[0] ?? 10;
      const frequencyMHz = Math.round((bandMHz[0] + bandMHz[1]) / 2 / 5) * 5;
      let conductedBefore = Infinity;
      for (let gain = 0; gain <= 50; gain += 2) {
        const { covered, conductedCapDbm } = eirpLimit({
          ruleSet,
          frequencyMHz,
          widthMHz,
          use: use === "any" ? "ptmp" : use,
          antennaGainDbi: gain,
        });
        if (!covered) continue;
        expect(conductedCapDbm ?? Infinity).toBeLessThanOrEqual(conductedBefore);
        conductedBefore = conductedCapDbm ?? Infinity;
      }
    }
});
