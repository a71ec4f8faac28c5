import { expect, test } from "@jest/globals";
import { answerOf } from "#core/outcome";
import { faultsOf } from "#core/findings";
import { weakestMarginDb } from "#core/link";
import type { Measurement } from "#core/plan";
import { EIGHTY_GHZ, onBridge, radioIn, reading, valley, type ValleyRows } from "#core/testing";

const BRIDGE = ["west-east", "east-west"];

/** The faults of one link of the valley, changed and under a ridge. */
function faults(
  change: (rows: ValleyRows) => void = () => undefined,
  { ridgeM = 0, linkId = "bridge", measured = null as Measurement | null } = {},
) {
  const { world, between } = valley(ridgeM, change);
  const link = world.links.get(linkId)!;
  return faultsOf(world, link, answerOf(world, link, between), measured);
}
const onFarm = (change: (rows: ValleyRows) => void) => faults(change, { linkId: "access" });

test("a sound link has none", () => {
  expect(faults()).toEqual([]);
  expect(onFarm(() => undefined)).toEqual([]);
});

test("beyond a radio's timing, above the structure, outside a band: each end that is, with both figures", () => {
  const far = faults((rows) => {
    for (const item of rows.equipment)
      if (item.kind === "radio" && item.id === "brisote-tramo-5") item.body = { ...item.body, rangeLimitKm: 10 };
  });
  expect(far.map(({ check: kind, radioId, what }) => [kind, radioId, what])).toEqual(
    BRIDGE.map((id) => ["tooFar", id, "12.24 km is beyond the 10 km that the Tramo 5's timing allows"]),
  );
  expect(faults((rows) => void (radioIn(rows, "east-west").heightM = 55))).toEqual([
    {
      check: "tooHigh",
      figure: { value: 15, unit: "m" },
      radioId: "east-west",
      what: "55 m is 15.0 m above the structure's 40 m",
      why: "Nothing is there to mount it on.",
      cause: null,
    },
  ]);
  expect(faults((rows) => void (radioIn(rows, "east-west").heightM = 40))).toEqual([]);
  const outside = onFarm((rows) =>
    ["sector", "farm-radio"].forEach((id) => (radioIn(rows, id).frequencyMHz = 6000)),
  ).filter(({ check: kind }) => kind === "outOfBand");
  // What is wrong with a sector has the sector for its cause, so that it is told once; a customer's radio is its own.
  expect(outside.map(({ radioId, what, cause }) => [radioId, what, cause])).toEqual([
    ["sector", "6000 MHz is outside the radio's 5150–5850 MHz", "sector"],
    ["sector", "6000 MHz is outside the antenna's 5150–5850 MHz", "sector"],
    ["farm-radio", "6000 MHz is outside the radio's 5150–5850 MHz", null],
    ["farm-radio", "6000 MHz is outside the antenna's 5150–5850 MHz", null],
  ]);
});

test("a path without an answer says why, and nothing else is made up about it", () => {
  expect(faults((rows) => void (rows.sites[1]!.lonDeg = 20.00001))).toEqual([
    {
      check: "unanswered",
      figure: null,
      radioId: null,
      what: "the ends are 1.1 m apart",
      why: "Both ends stand at one place; there is no path between them.",
      cause: null,
    },
  ]);
  const beyond = faults((rows) => void (rows.sites[1]!.lonDeg = 20.14)).filter(
    ({ check: kind }) => kind === "unanswered",
  );
  expect(beyond).toEqual([
    expect.objectContaining({
      what: expect.stringMatching(/^the terrain has a hole of \d+ samples from 14\.\d\d km on$/),
      why: "Unknown ground is not sea level: fill the hole before trusting the path.",
    }),
  ]);
});

test("a cut line and an intruded zone are told by where and by how much; a cut line takes the blame for the level", () => {
  expect(faults(undefined, { ridgeM: 60 })).toEqual([
    {
      check: "blocked",
      figure: { value: expect.closeTo(36.5, 1), unit: "dB" },
      radioId: null,
      what: "3.34 of the zone over the line at 6.15 km, 49.5 m short of 60 %",
      why: "The straight line itself is cut: 36.5 dB are lost by it, and what arrives changes with weather and leaves. 1.2 dB of margin left at east, 10 wanted.",
      cause: null,
    },
  ]);
  expect(faults(undefined, { ridgeM: 13 })).toEqual([
    {
      check: "tight",
      figure: { value: expect.closeTo(0.385, 3), unit: "of the zone" },
      radioId: null,
      what: "0.38 of the zone clear at 6.15 km, 2.7 m short of 60 %",
      why: "Line of sight alone is not enough: energy travels in the whole zone.",
      cause: null,
    },
  ]);
});

test("caps: over EIRP, over the power at the port, indoors only, and where no rule stands", () => {
  const loud = onFarm((rows) => void (radioIn(rows, "sector").txPowerDbm = 27));
  expect(loud).toEqual([
    {
      check: "overEirp",
      figure: { value: expect.closeTo(7.3, 1), unit: "dB" },
      radioId: "sector",
      what: "43.3 dBm EIRP against 36.0 dBm: turn down by 7.3 dB",
      why: "47 CFR 15.407: 36 dBm EIRP.",
      cause: "sector",
    },
  ]);
  // A long cable brings the EIRP under its cap; what leaves the radio's port is still too much.
  const [atPort] = onFarm((rows) => Object.assign(radioIn(rows, "sector"), { txPowerDbm: 27, cableLossDb: 10 }));
  expect(atPort!.what).toBe("27.0 dBm at the radio's port against 19.7 dBm: turn down by 7.3 dB");
  const indoors = onFarm((rows) => {
    rows.plan.ruleSetId = "en";
    for (const id of ["sector", "farm-radio"]) radioIn(rows, id).txPowerDbm = 3;
  }).filter(({ check: kind }) => kind === "indoorOnly");
  expect(indoors.map(({ radioId, what, cause }) => [radioId, what, cause])).toEqual([
    ["sector", "5200 MHz, EN 301 893: indoor or restricted use only", "sector"],
    ["farm-radio", "5200 MHz, EN 301 893: indoor or restricted use only", null],
  ]);
  expect(
    faults(onBridge({ frequencyMHz: 5400 })).map(({ check: kind, radioId, what }) => [kind, radioId, what]),
  ).toEqual(BRIDGE.map((id) => ["uncovered", id, "47 CFR style has no rule for 5390–5410 MHz"]));
});

test("an overloaded receiver: how much too much, and the power to turn down to", () => {
  const overload = faults((rows) => void (rows.sites[1]!.lonDeg = 20.0006));
  expect(overload.map(({ check: kind, radioId, what }) => [kind, radioId, what])).toEqual([
    [
      "overload",
      "west-east",
      "−7.9 dBm on a chain at east, 22.1 dB more than the −30.0 dBm its receiver stands: turn west-east down to −2.1 dBm or less",
    ],
    [
      "overload",
      "east-west",
      "−7.9 dBm on a chain at west, 22.1 dB more than the −30.0 dBm its receiver stands: turn east-west down to −2.1 dBm or less",
    ],
  ]);
});

test("ends that do not match are one fault, whatever the level", () => {
  expect(
    faults((rows) => void (radioIn(rows, "east-west").widthMHz = 40)).map(({ check: kind, what }) => [kind, what]),
  ).toEqual([["mismatch", "west uses a channel of 20 MHz, east one of 40 MHz"]]);
});

test("noise is the cause where the link would be fine without it, and only from 3 dB on", () => {
  const noisy = faults((rows) => void (radioIn(rows, "west-east").interferenceDb = 40));
  expect(noisy).toEqual([
    {
      check: "noise",
      figure: { value: expect.closeTo(40, 1), unit: "dB" },
      radioId: "west-east",
      what: "2.7 dB of signal to noise on a chain at west: noise stands 40.0 dB above thermal (as set on the radio)",
      why: "Without it 37.7 dB of margin would be left, of 10 wanted; with it −2.3.",
      cause: null,
    },
  ]);
  // Turned down until 9 dB of margin are left with 2.9 dB of noise, then with 3.1.
  const [near] = [valley(0)].map(({ world, between }) =>
    weakestMarginDb(answerOf(world, world.links.get("bridge")!, between)),
  );
  const short = (noiseDb: number) =>
    faults((rows) =>
      BRIDGE.forEach((id) =>
        Object.assign(radioIn(rows, id), { cableLossDb: (near! - noiseDb - 9) / 2, interferenceDb: noiseDb }),
      ),
    ).map(({ check: kind }) => kind);
  expect([short(2.9), short(3.1)]).toEqual([["margin"], ["noise"]]);
});

test("a level that no modulation holds, and a margin that is thin, each against what is needed", () => {
  const weak = faults((rows) => {
    onBridge({ txPowerDbm: -5, antennaModelId: "brisote-losa-5-16", interferenceDb: 1 })(rows);
    radioIn(rows, "west-east").interferenceDb = 2;
  });
  expect(weak).toEqual([
    {
      check: "weak",
      figure: { value: expect.closeTo(17.3, 1), unit: "dB" },
      radioId: null,
      what: "−106.3 dBm on a chain at west, 17.3 dB under the −89.0 that the most robust modulation needs",
      why: "Not even the most robust modulation holds; 2.0 dB of that is noise.",
      cause: null,
    },
  ]);
  expect(faults(onBridge({ cableLossDb: 14 }))[0]).toMatchObject({
    check: "margin",
    what: "9.7 dB left at east, 10 dB wanted",
    why: "Fading, wind and growing noise will eat the rest.",
  });
  const eighty = { ...EIGHTY_GHZ, antennaModelId: "kestrane-plato-80-44" };
  const inRain = faults(onBridge({ ...eighty, cableKind: "fibre" }));
  expect(inRain.map(({ check: kind, why }) => [kind, why])).toEqual([
    ["margin", "Rain takes 47.1 dB for 0.050 % of the year."],
  ]);
  // On copper of category 5e it ends at 1 Gbit/s, at either end.
  const onCopper = faults(onBridge(eighty)).filter(({ check: kind }) => kind === "slowCable");
  expect(onCopper.map(({ what }) => what.replace(/ at .*/, ""))).toEqual(
    Array(2).fill("5e, shielded carries 1000 Mbit/s"),
  );
});

test("what a customer asks for and cannot get is told by direction", () => {
  const short = (demandMbps: number, demandUpMbps: number) =>
    onFarm((rows) => Object.assign(rows.subscribers[0]!, { demandMbps, demandUpMbps })).map(({ what }) => what);
  expect(short(500, 5)).toEqual(["83 of 500 Mbit/s to farm"]);
  expect(short(20, 400)).toEqual(["25 of 400 Mbit/s from farm"]);
  expect(short(500, 400)).toEqual(["83 of 500 Mbit/s to farm, 25 of 400 Mbit/s from farm"]);
});

test("unequal polarization says what arrives each way", () => {
  const facing = (sector: "H" | "V" | "HV" | "X45", farm: "H" | "V" | "HV" | "X45") =>
    onFarm((rows) => {
      radioIn(rows, "sector").polarization = sector;
      radioIn(rows, "farm-radio").polarization = farm;
    }).find(({ check: kind }) => kind === "polarization")?.what;
  expect(facing("HV", "V")).toBe(
    "HV facing V: 3 dB of the total lost toward farm; all of it arrives at west, on one chain",
  );
  expect(facing("H", "V")).toBe("H facing V: 22 dB of the total lost toward farm; 22 dB of the total lost toward west");
  expect(facing("V", "X45")).toBe(
    "V facing X45: all of it arrives at farm, 3 dB less on each chain; 3 dB of the total lost toward west",
  );
  expect(facing("X45", "X45")).toBeUndefined();
});

test("a bracket that does not reach, and an aim that misses where it costs the margin", () => {
  const steep = onFarm((rows) => {
    Object.assign(rows.subscribers[0]!, { latDeg: -1.0003, lonDeg: 20.0004, antennaHeightM: 4 });
    Object.assign(radioIn(rows, "farm-radio"), { heightM: 4, txPowerDbm: -1 });
    radioIn(rows, "sector").heightM = 34;
  });
  expect(steep.map(({ check: kind, radioId, what }) => [kind, radioId, what])).toEqual([
    ["bracket", "farm-radio", "28.4° up needed, 18.4° more than the bracket reaches"],
  ]);
  const missed = onFarm((rows) => void (radioIn(rows, "sector").azimuthDeg = 230));
  expect(missed.map(({ check: kind, radioId }) => [kind, radioId])).toEqual([
    ["weak", null],
    ["misaimed", "sector"],
  ]);
  expect(missed[1]!.what).toBe("28.9 dB lost 135° beside and 2° above or below the boresight of sector");
});

test("a reading that does not prove the link stands with its verdict and likeliest cause", () => {
  expect(faults(undefined, { measured: reading(-50, -50) })).toEqual([]);
  expect(faults(undefined, { measured: reading(-54.5, -54.5) })).toMatchObject([
    { check: "doubtful", what: "measured −4.5 dB against the prediction", why: expect.stringContaining("Trees") },
  ]);
  expect(faults(undefined, { measured: reading(-87, -87) })[0]!.check).toBe("failed");
});
