import { expect, test } from "@jest/globals";
import type { AntennaModel, Cut } from "#core/antenna";
import { libraryFor } from "#core/catalogue";
import { answerOf } from "#core/outcome";
import {
  chainSplitDb,
  chainWords,
  commonChains,
  holds,
  isServed,
  linearOf,
  polarizationLossDb,
  tapeLines,
  tapeOf,
  wantedMarginDb,
} from "#core/link";
import { linkEnds, newPlan, type LinkEnd } from "#core/plan";
import { buildingEntryLossDb, rainAttenuationDb } from "#core/propagation";
import { commonModulations, isChannelInBand, returnFrequencyMHz, type RadioModel } from "#core/radio";
import { EIGHTY_GHZ, onBridge, radio, radioIn, valley, type ValleyRows } from "#core/testing";

const cut = (perDeg: number): Cut => ({ anglesDeg: [-180, 0, 180], lossDb: [180 * perDeg, 0, 180 * perDeg] });
const antenna = (gainDbi: number): AntennaModel => ({
  id: `a${gainDbi}`,
  receiveBeam: null,
  deliveryDays: null,
  join: null,
  maker: "Brisote",
  model: "Regla",
  shape: "panel",
  bandMHz: [5000, 6000],
  gainAcrossBand: [{ frequencyMHz: 5500, hDbi: gainDbi, vDbi: gainDbi }],
  azimuthCuts: { H: cut(0.2), V: cut(0.2) },
  elevationCuts: { H: cut(0.1), V: cut(0.1) },
  frontToBackDb: 30,
  electricalTiltDownDeg: 0,
  bracketUpDeg: 10,
  bracketDownDeg: 10,
  crossPolarDb: 20,
  weightKg: 1,
  priceEur: 1,
});
const library = libraryFor("p").flatMap((item) => (item.kind === "radio" ? [item.body] : []));
const tramo: RadioModel = {
  ...library.find(({ id }) => id === "brisote-tramo-5")!,
  powerMaxDbm: 20,
  noiseFigureDb: 6,
  overloadDbm: -30,
  modulations: [
    { name: "slow", snrDb: 5, bitsPerHz: 1, backoffDb: 0 },
    { name: "middle", snrDb: 9, bitsPerHz: 2, backoffDb: 2 },
    { name: "fast", snrDb: 40, bitsPerHz: 4, backoffDb: 5 },
  ],
};

function end(id: string, gainDbi: number, rest: Parameters<typeof radio>[1], behind: LinkEnd["behind"]): LinkEnd {
  return {
    radio: radio(id, { frequencyMHz: 5700, ...rest }),
    model: tramo,
    antenna: antenna(gainDbi),
    place: { latDeg: 0, lonDeg: 0 },
    placeName: id,
    maxHeightM: 40,
    behind,
    hazards: "",
    access: "",
    demand: null,
    scans: [],
  };
}
const path = {
  learned: null,
  distanceKm: 5,
  diffractionDb: 7.3,
  trees: { depthM: 10, leafyShare: 1, woodShare: 0.5, lossDb: 4.4, way: "through", isMeasured: true } as const,
  frequencyMHz: 5700,
  widthMHz: 20,
  freeSpaceDb: 121.55,
  oxygenDbPerKm: 0.02,
  vapourDbPerKm: 0.01,
  rainRate001MmPerH: 30,
};
const plan = newPlan({ id: "p", name: "P", createdAt: "2026-01-01T00:00:00Z" });
const pointing = (azimuthOffDeg: number, elevationOffDeg: number) => ({
  azimuthDeg: 0,
  mechanicalTiltDownDeg: 0,
  azimuthOffDeg,
  elevationOffDeg,
});

test("every term of the tape, each of them there, adds up to the level worked out by hand", () => {
  const from = end("near", 16, { polarization: "HV", txPowerDbm: 20, cableLossDb: 1.5 }, "traditional");
  const to = end("far", 23, { polarization: "V", cableLossDb: 0.7, interferenceDb: 6 }, "thermally_efficient");
  const heard = {
    dbm: -86,
    radios: [
      {
        radioId: "x",
        name: "x",
        placeName: "y",
        group: "x",
        frequencyMHz: 5700,
        widthMHz: 20,
        bearingDeg: 0,
        dbm: -86,
      },
    ],
    faintCount: 0,
  };
  const tape = tapeOf({
    turnedDownDb: 0,
    learnedNoise: null,
    direction: "aToB",
    plan,
    kind: "access",
    from,
    to,
    fromPointing: pointing(10, 5),
    toPointing: pointing(-20, 4),
    path,
    heard,
    isMismatched: false,
  });
  // 20 − 1.5 + 16 EIRP; 2.5 off the near boresight; 121.55 free space; 0.15 gas; 7.3 diffraction; 4.4 trees; walls; 3.01 as a
  // receiver on V hears half of H and V; 23 far gain; 4.4 off the far boresight; 0.7 far cable; 2 back-off.
  const walls =
    buildingEntryLossDb({ frequencyGHz: 5.7, construction: "traditional" }) +
    buildingEntryLossDb({ frequencyGHz: 5.7, construction: "thermally_efficient" });
  const full = 34.5 - 2.5 - 121.55 - 0.15 - 7.3 - 4.4 - walls - 3.0103 + 23 - 4.4 - 0.7;
  expect(tape.eirpDbm).toBeCloseTo(34.5, 9);
  expect([tape.fromOffDb, tape.toOffDb]).toEqual([expect.closeTo(2.5, 9), expect.closeTo(4.4, 9)]);
  expect(tape.fadeMarginDb).toBeCloseTo(full - tape.sensitivityDbm, 3);
  // One chain's noise: −173.975 + 73.010 + 6 = −94.965 thermal, 6 dB more as set, and −86 dBm of the plan's own on top.
  const noise = 10 * Math.log10(10 ** ((-94.965 + 6) / 10) + 10 ** -8.6);
  expect(tape.noiseDbm).toBeCloseTo(noise, 2);
  expect(tape.noise).toMatchObject({ source: "own", outsideDb: 6 });
  expect(tape.sensitivityDbm).toBeCloseTo(noise + 5, 2);
  expect(tape.totalLevelDbm).toBeCloseTo(full - tape.backoffDb, 3);
  expect(tape.chainLevelDbm).toBeCloseTo(tape.totalLevelDbm, 9);
  expect(tape.snrDb).toBeCloseTo(tape.chainLevelDbm - tape.noiseDbm, 9);
  // Line by line on paper too.
  let total = 0;
  for (const { stepDb, key } of tapeLines(tape)) if (stepDb !== null && key !== "rain") total += stepDb;
  expect(total).toBeCloseTo(tape.chainLevelDbm, 9);
  expect(tape.modulation).toBeNull();
});

test("back-off is what the modulation asks under the greatest power, never counted twice", () => {
  const ask = (txPowerDbm: number, freeSpaceDb = 115) =>
    tapeOf({
      turnedDownDb: 0,
      learnedNoise: null,
      direction: "aToB",
      plan,
      kind: "bridge",
      from: end("near", 16, { txPowerDbm }, "none"),
      to: end("far", 23, {}, "none"),
      fromPointing: pointing(0, 0),
      toPointing: pointing(0, 0),
      path: { ...path, freeSpaceDb, diffractionDb: 0, trees: { ...path.trees, lossDb: 0 } },
      heard: null,
      isMismatched: false,
    });
  const full = ask(20);
  expect([full.modulation!.name, full.backoffDb, full.sentDbm]).toEqual(["middle", 2, 18]);
  expect(full.totalLevelDbm).toBeCloseTo(20 + 16 - 115 - 0.15 + 23 - 2, 9);
  // Two streams share the power: each chain has 3.01 dB less, and the rate counts both.
  expect(full.chainLevelDbm).toBeCloseTo(full.totalLevelDbm - 3.0103, 4);
  expect(full.chains).toBe(2);
  expect(full.rateMbps).toBeCloseTo(2 * 20 * 2 * 0.8 * 0.5, 9);
  expect(chainWords(full)).toBe("each chain");
  expect(ask(19)).toMatchObject({ backoffDb: 1, sentDbm: 18 });
  expect(ask(18)).toMatchObject({ backoffDb: 0, sentDbm: 18 });
  // 9 dB of SNR on a chain is just enough, a hundredth less is not.
  const noise = full.noiseDbm;
  const edge = 20 - 2 + 16 + 23 - 0.15 - 3.0103 - noise - 9;
  expect(ask(20, edge - 0.001).modulation!.name).toBe("middle");
  expect(ask(20, edge + 0.001).modulation!.name).toBe("slow");
});

test("a receiver that gets more than it stands works at no modulation, and the excess is told", () => {
  const near = valley(0, (rows) => {
    rows.sites[1]!.lonDeg = 20.0006;
    for (const id of ["west-east", "east-west"]) radioIn(rows, id).txPowerDbm = 20;
  });
  const link = near.world.links.get("bridge")!;
  const answer = answerOf(near.world, link, near.between);
  const { aToB } = answer.path!;
  expect(aToB.overloadDb).toBeCloseTo(aToB.chainLevelDbm + 30, 1);
  expect(aToB.overloadDb).toBeGreaterThan(20);
  expect([aToB.modulation, aToB.rateMbps]).toEqual([null, 0]);
  expect(holds(near.world.plan, 5800, answer)).toBe(false);
  expect(isServed(near.world.plan, linkEnds(near.world, link), answer)).toBe(false);
});

test("ends on other channels, widths, duplexing or ladders do not talk, and each reason is named", () => {
  const mismatches = (change: (rows: ValleyRows) => void) => {
    const made = valley(0, change);
    const { path: answered } = answerOf(made.world, made.world.links.get("bridge")!, made.between);
    expect(answered!.aToB.rateMbps === 0).toBe(answered!.mismatches.length > 0);
    return answered!.mismatches;
  };
  const radioModel = (rows: ValleyRows, id: string) => {
    const item = rows.equipment.find((one) => one.id === id)!;
    return item.kind === "radio" ? item : null;
  };
  /** The far end on a model of its own that differs in one thing. */
  const farModel = (rest: Partial<RadioModel>) => (rows: ValleyRows) => {
    const own = radioModel(rows, "brisote-tramo-5")!;
    rows.equipment.push({ ...own, id: "other", body: { ...own.body, id: "other", model: "Otro", ...rest } });
    radioIn(rows, "east-west").radioModelId = "other";
  };
  expect(mismatches(() => undefined)).toEqual([]);
  expect(mismatches((rows) => void (radioIn(rows, "east-west").frequencyMHz = 5760))).toEqual([
    "west stands on 5800 MHz, east on 5760 MHz",
  ]);
  expect(mismatches((rows) => void (radioIn(rows, "east-west").widthMHz = 40))).toEqual([
    "west uses a channel of 20 MHz, east one of 40 MHz",
  ]);
  expect(mismatches(farModel({ duplex: "FDD" }))).toEqual(["Tramo 5 sends and listens in TDD, Otro in FDD"]);
  expect(mismatches(farModel({ modulations: [{ name: "own", snrDb: 1, bitsPerHz: 1, backoffDb: 0 }] }))).toEqual([
    "Tramo 5 and Otro have no modulation in common",
  ]);
  expect(mismatches(farModel({}))).toEqual([]);
});

test("what both radios can do counts: the sender's back-off, the receiver's need, the slower rate, the smaller socket", () => {
  const other: RadioModel = {
    ...tramo,
    modulations: [
      { name: "middle", snrDb: 12, bitsPerHz: 1.5, backoffDb: 4 },
      { name: "extra", snrDb: 1, bitsPerHz: 9, backoffDb: 0 },
      { name: "slow", snrDb: 4, bitsPerHz: 3, backoffDb: 1 },
    ],
  };
  expect(commonModulations(other, tramo)).toEqual([
    { name: "slow", snrDb: 5, bitsPerHz: 1, backoffDb: 1 },
    { name: "middle", snrDb: 9, bitsPerHz: 1.5, backoffDb: 4 },
  ]);
  const rate = (farRest: Partial<RadioModel>, direction: "aToB" | "bToA") => {
    const [near, far] = [end("near", 16, {}, "none"), end("far", 23, {}, "none")];
    far.model = { ...tramo, ...farRest };
    const [from, to] = direction === "aToB" ? [near, far] : [far, near];
    return tapeOf({
      turnedDownDb: 0,
      learnedNoise: null,
      direction,
      plan,
      kind: "bridge",
      from,
      to,
      fromPointing: pointing(0, 0),
      toPointing: pointing(0, 0),
      path: { ...path, freeSpaceDb: 100, diffractionDb: 0, trees: { ...path.trees, lossDb: 0 } },
      heard: null,
      isMismatched: false,
    });
  };
  // The end nearer the feed sets the frame, whichever sends; the lesser efficiency and the slower socket bind.
  const base = rate({}, "aToB").rateMbps;
  expect(rate({ downShare: 0.9 }, "aToB").rateMbps).toBeCloseTo(base, 9);
  expect(rate({ downShare: 0.9 }, "bToA").rateMbps).toBeCloseTo(base, 9);
  expect(rate({ efficiency: 0.4 }, "bToA").rateMbps).toBeCloseTo(base / 2, 9);
  expect(rate({ portMbps: 10 }, "aToB")).toMatchObject({ rateMbps: 10, airRateMbps: expect.closeTo(base, 9) });
  expect(rate({ chains: 1 }, "aToB").rateMbps).toBeCloseTo(base / 2, 9);
});

test("an FDD pair sends on two frequencies: each direction's tape, cap and loss stand on its own", () => {
  const salto = library.find(({ id }) => id === "kestrane-salto-80")!;
  expect(returnFrequencyMHz(salto, 73_500)).toBe(83_500);
  expect(returnFrequencyMHz(salto, 83_500)).toBe(73_500);
  expect(returnFrequencyMHz(tramo, 5700)).toBe(5700);
  expect([isChannelInBand(salto, 73_500, 500), isChannelInBand(salto, 78_500, 500)]).toEqual([true, false]);
  const made = valley(0, onBridge(EIGHTY_GHZ));
  const { aToB, bToA } = answerOf(made.world, made.world.links.get("bridge")!, made.between).path!;
  expect([aToB, bToA].map(({ question }) => question.path.frequencyMHz)).toEqual([73_500, 83_500]);
  expect(bToA.question.path.freeSpaceDb - aToB.question.path.freeSpaceDb).toBeCloseTo(20 * Math.log10(83.5 / 73.5), 6);
  expect(tapeLines(bToA).find(({ key }) => key === "freeSpace")!.inputs[1]).toEqual(["frequency", "83500 MHz"]);
});

test("margins are asked below 10 GHz in fair weather, above it in rain", () => {
  expect([wantedMarginDb(plan, 10_000), wantedMarginDb(plan, 10_001)]).toEqual([
    plan.marginTargetDb,
    plan.rainMarginDb,
  ]);
});

/** A tape over a short, free path, each end and the plan altered at will. */
function freeTape(rest: {
  from?: Parameters<typeof radio>[1];
  to?: Parameters<typeof radio>[1];
  fromModel?: Partial<RadioModel>;
  kind?: "access" | "bridge";
  ruleSetId?: "cfr47" | "en";
  aim?: [azimuthOffDeg: number, elevationOffDeg: number, mechanicalTiltDownDeg?: number];
  over?: Partial<typeof path>;
  availabilityPercent?: number;
  /** Loss of the sender's elevation cut outside its beam, straight from 0 at 10° to this at 20°, dB. */
  skyDb?: number;
}) {
  const from = end("near", 16, { txPowerDbm: 10, ...rest.from }, "none");
  from.model = { ...tramo, ...rest.fromModel };
  if (rest.skyDb !== undefined) {
    const cut = {
      anglesDeg: [-180, -20, -10, 10, 20, 180],
      lossDb: [rest.skyDb, rest.skyDb, 0, 0, rest.skyDb, rest.skyDb],
    };
    from.antenna = { ...from.antenna, elevationCuts: { H: cut, V: cut }, frontToBackDb: 30 };
  }
  const [azimuthOffDeg, elevationOffDeg, mechanicalTiltDownDeg = 0] = rest.aim ?? [0, 0];
  return tapeOf({
    turnedDownDb: 0,
    learnedNoise: null,
    direction: "aToB",
    plan: {
      ...plan,
      ruleSetId: rest.ruleSetId ?? "cfr47",
      availabilityPercent: rest.availabilityPercent ?? plan.availabilityPercent,
    },
    kind: rest.kind ?? "bridge",
    from,
    to: end("far", 23, { ...rest.to }, "none"),
    fromPointing: { ...pointing(azimuthOffDeg, elevationOffDeg), mechanicalTiltDownDeg },
    toPointing: pointing(0, 0),
    path: { ...path, freeSpaceDb: 115, diffractionDb: 0, trees: { ...path.trees, lossDb: 0 }, ...rest.over },
    heard: null,
    isMismatched: false,
  });
}

test("what is over a cap is the worse of EIRP and power at the port, and nothing under both", () => {
  // 15.407 for many at 5200 MHz: 36 dBm EIRP; 30 dBm at the port less the 10 dB that 16 dBi have over 6.
  const over = (txPowerDbm: number, rest: Parameters<typeof freeTape>[0] = {}) =>
    freeTape({ kind: "access", from: { txPowerDbm, cableLossDb: 0 }, over: { frequencyMHz: 5200 }, skyDb: 30, ...rest })
      .overCapDb;
  expect(over(19)).toBe(0);
  expect(over(20)).toBeCloseTo(0, 9);
  expect(over(23)).toBeCloseTo(3, 9);
  // Four dB of cable bring the EIRP under its cap; the port is over its own, 17 dBm/MHz over 20 MHz less 10.
  expect(over(23, { from: { txPowerDbm: 23, cableLossDb: 4 } })).toBeCloseTo(2.99, 2);
  // A bridge there may use all its gain: 30 dBm at the port up to 23 dBi.
  expect(over(23, { kind: "bridge" })).toBe(0);
  // EN 301 893: 23 dBm EIRP, and the port is nobody's business.
  expect(over(10, { ruleSetId: "en" })).toBeCloseTo(3, 9);
  expect(over(10, { ruleSetId: "en", from: { txPowerDbm: 10, cableLossDb: 4 } })).toBe(0);
});

test("above 30° what the pattern radiates is capped, wherever the beam itself looks", () => {
  const capDbm = (tiltDownDeg: number, skyDb: number) =>
    freeTape({ kind: "access", over: { frequencyMHz: 5200 }, aim: [0, 0, tiltDownDeg], skyDb }).limit.eirpCapDbm;
  // The beam is flat for 10° either way, and 12 dB down from 20° on.
  expect([capDbm(-31, 12), capDbm(-25, 12), capDbm(-15, 12), capDbm(0, 12)]).toEqual([21, 21, 27, 33]);
  // Far enough down, the cap on the whole beam is the lower one.
  expect([capDbm(0, 20), capDbm(15, 16)]).toEqual([36, 36]);
});

test("a loss off boresight is counted from a twentieth of a decibel on", () => {
  // The cut falls by 0.2 dB a degree beside.
  expect(freeTape({ aim: [0.24, 0] }).fromOffDb).toBe(0);
  expect(freeTape({ aim: [0.26, 0] }).fromOffDb).toBeCloseTo(0.052, 6);
});

test("the modulation is the fastest that just holds, and signal to noise is what is left after its back-off", () => {
  const tape = freeTape({ from: { txPowerDbm: 20 } });
  expect(tape.backoffDb).toBe(2);
  expect(tape.chainLevelDbm).toBeCloseTo(20 - 2 + 16 - 115 - 0.15 + 23 - 3.0103, 4);
  expect(tape.snrDb).toBeCloseTo(tape.chainLevelDbm - tape.noiseDbm, 9);
  // Exactly at its threshold it holds.
  const exact = freeTape({
    fromModel: { modulations: [{ name: "slow", snrDb: freeTape({}).snrDb, bitsPerHz: 1, backoffDb: 0 }] },
  });
  expect(exact.modulation?.name ?? "none").toBe("slow");
});

test("a socket binds where it is slower, at either end, and only then the rate over the air is told beside it", () => {
  const over = freeTape({}).rateMbps;
  expect(freeTape({ fromModel: { portMbps: null } })).toMatchObject({ rateMbps: over, airRateMbps: null });
  expect(freeTape({ fromModel: { portMbps: 5 } })).toMatchObject({ rateMbps: 5, airRateMbps: over });
  expect(freeTape({ fromModel: { portMbps: over } }).airRateMbps).toBeNull();
});

test("rain counts above 10 GHz, at the share of the year that the plan leaves, within the method's ends", () => {
  const rain = (frequencyMHz: number, availabilityPercent = 99.99, polarization: "V" | "HV" = "HV") =>
    freeTape({ over: { frequencyMHz }, availabilityPercent, from: { polarization }, to: { polarization } }).rainDb;
  expect(rain(10_000)).toBe(0);
  expect(rain(10_001)).toBeGreaterThan(0);
  const by = (frequencyGHz: number, percentOfTime: number, polarization: "H" | "V" = "H") =>
    rainAttenuationDb({ frequencyGHz, polarization, distanceKm: 5, rainRate001MmPerH: 30, percentOfTime });
  expect(rain(24_000)).toBeCloseTo(by(24, 0.01), 6);
  expect(rain(24_000, 99.9)).toBeCloseTo(by(24, 0.1), 6);
  expect(rain(24_000, 99.9999)).toBeCloseTo(by(24, 0.001), 6);
  expect(rain(24_000, 90)).toBeCloseTo(by(24, 1), 6);
  // Rain is milder where all is vertical; two polarizations are taken for the worse.
  expect(rain(24_000, 99.99, "V")).toBeCloseTo(by(24, 0.01, "V"), 6);
  expect(by(24, 0.01, "V")).toBeLessThan(by(24, 0.01));
  expect(rain(120_000)).toBeCloseTo(by(100, 0.01), 6);
});

test("polarizations: the same lose nothing, crossed ones what the worse antenna leaks, halves and splits 3 dB", () => {
  const pair = (from: "H" | "V" | "HV" | "X45", to: "H" | "V" | "HV" | "X45", toChains: 1 | 2 = 2) => {
    const [a, b] = [end("near", 16, { polarization: from }, "none"), end("far", 23, { polarization: to }, "none")];
    a.antenna = { ...a.antenna, crossPolarDb: 28 };
    b.antenna = { ...b.antenna, crossPolarDb: 17 };
    b.model = { ...tramo, chains: toChains };
    return [polarizationLossDb(a, b), polarizationLossDb(b, a), chainSplitDb(a, b), commonChains(a, b)];
  };
  const half = expect.closeTo(3.0103, 4);
  expect(pair("V", "V")).toEqual([0, 0, 0, 1]);
  expect(pair("H", "V")).toEqual([17, 17, 0, 1]);
  expect(pair("HV", "HV")).toEqual([0, 0, half, 2]);
  expect(pair("HV", "X45")).toEqual([0, 0, half, 2]);
  // One receiver on V hears half of what stands on H and V; the other way round all of it arrives.
  expect(pair("HV", "V")).toEqual([half, 0, 0, 1]);
  // V meets ±45°: all arrives, half on each chain; on a radio with one chain it cannot part.
  expect(pair("V", "X45")).toEqual([0, half, half, 1]);
  expect(pair("V", "X45", 1)).toEqual([0, half, 0, 1]);
  expect(pair("V", "HV")).toEqual([0, half, 0, 1]);
  expect(pair("HV", "HV", 1)).toEqual([0, 0, 0, 1]);
  expect([linearOf("V"), linearOf("H"), linearOf("HV"), linearOf("X45")]).toEqual(["V", "H", "H", "H"]);
});
