import { expect, test } from "@jest/globals";
import { reviewPlan } from "#core/evaluate";
import { checkPatches, withPatches } from "#core/plan";
import { radioIn, valley, type ValleyRows } from "#core/testing";

/** One way to spoil the valley for each kind of fault that a change of plan can mend. */
const SPOILED: [kind: string, ridgeM: number, change: (rows: ValleyRows) => void][] = [
  ["tight", 13, () => undefined],
  ["blocked", 26, () => undefined],
  ["overEirp", 0, (rows) => void (radioIn(rows, "sector").txPowerDbm = 27)],
  ["polarization", 0, (rows) => void (radioIn(rows, "farm-radio").polarization = "V")],
  ["tooHigh", 0, (rows) => void (radioIn(rows, "east-west").heightM = 55)],
  ["outOfBand", 0, (rows) => ["west-east", "east-west"].forEach((id) => (radioIn(rows, id).frequencyMHz = 6000))],
  ["uncovered", 0, (rows) => ["west-east", "east-west"].forEach((id) => (radioIn(rows, id).frequencyMHz = 5400))],
  [
    "weak",
    0,
    (rows) =>
      ["west-east", "east-west"].forEach((id) =>
        Object.assign(radioIn(rows, id), { txPowerDbm: -5, antennaModelId: "brisote-losa-5-16", interferenceDb: 14 }),
      ),
  ],
  [
    "margin",
    0,
    (rows) => {
      Object.assign(radioIn(rows, "sector"), { azimuthDeg: 145, txPowerDbm: 12 });
      radioIn(rows, "farm-radio").txPowerDbm = 6;
    },
  ],
  ["misaimed", 0, (rows) => void (radioIn(rows, "sector").azimuthDeg = 230)],
  [
    "bracket",
    0,
    (rows) => {
      // A house at the mast's foot: steeper down than any bracket of a panel reaches.
      Object.assign(rows.subscribers[0]!, { latDeg: -1.0003, lonDeg: 20.0004, antennaHeightM: 4 });
      Object.assign(radioIn(rows, "farm-radio"), { heightM: 4, txPowerDbm: 0 });
      Object.assign(radioIn(rows, "sector"), { heightM: 14 });
    },
  ],
];

test.each(SPOILED)(
  "%s: found with a figure, and its first remedy resolves it without a new fault",
  (kind, ridgeM, change) => {
    const made = valley(ridgeM, change);
    const { findings } = reviewPlan(made.world, made.between);
    // The farm's own roof may be too low for a ridge; the bridge's masts are not.
    const finding =
      findings.find((one) => one.check === kind && one.remedies!.length > 0) ??
      findings.find((one) => one.check === kind);
    expect(finding).toBeDefined();
    expect(finding!.what).toMatch(/\d/);
    const [first] = finding!.remedies!;
    if (!first) {
      // A steep roof may have no bracket that reaches; whoever says so has tried.
      expect(kind).toBe("bracket");
      return;
    }
    expect(first.effect).toMatch(/dB.*Mbit\/s/);
    expect(checkPatches(made.world, first.patches)).toEqual([]);
    const after = reviewPlan(withPatches(made.world, first.patches), made.between, 0).findings;
    expect(after.map(({ id }) => id)).not.toContain(finding!.id);
    const had = new Set(findings.map((one) => one.check));
    for (const one of after.filter(({ linkId }) => linkId === finding!.linkId)) expect(had).toContain(one.check);
  },
);

test("remedies stand by outcome and cost: none that serves comes after one that does not", () => {
  for (const [, ridgeM, change] of SPOILED) {
    const made = valley(ridgeM, change);
    for (const { remedies } of reviewPlan(made.world, made.between).findings) {
      const served = remedies!.map(({ patches }) => {
        const { summaries } = reviewPlan(withPatches(made.world, patches), made.between, 0);
        return [...summaries.values()].filter((summary) => summary.served).length;
      });
      const labels = remedies!.map(({ label }) => label);
      expect(new Set(labels).size).toBe(labels.length);
      if (served.length > 0) expect(Math.max(...served)).toBe(served[0]);
    }
  }
});
