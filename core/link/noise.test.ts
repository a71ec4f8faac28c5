import { expect, test } from "@jest/globals";
import { libraryFor } from "#core/catalogue";
import type { LinkEnd, Scan } from "#core/plan";
import { radio } from "#core/testing";
import { noiseRise, type HeardRadio, type OwnNoise } from "./noise";

const THERMAL_DBM = -95;
const CHANNEL = { frequencyMHz: 5800, widthMHz: 20 };
const library = libraryFor("p");
const antenna = library.flatMap((item) => (item.kind === "antenna" ? [item.body] : []))[0]!;
const model = library.flatMap((item) => (item.kind === "radio" ? [item.body] : []))[0]!;

/** A scan by a scanner without noise of its own: `binDbm` in every bin about 5800 MHz, on an antenna of 14 dBi. */
const scan = (binDbm: number): Scan => ({
  id: "scan",
  planId: "p",
  siteId: "west",
  headingDeg: 89.6,
  beamwidthDeg: 60,
  gainDbi: 14,
  polarization: "V",
  scannedAt: "2026-03-01T10:00:00.000Z",
  source: "test",
  binKHz: 1000,
  frequenciesMHz: Array.from({ length: 61 }, (_, i) => 5770 + i),
  levelsDbm: Array.from({ length: 61 }, (_, i) => (Math.abs(i - 30) <= 15 ? binDbm : -200)),
});

/** A receiver of 20 dBi behind 1.5 dB of cable. */
const receiver = (interferenceDb: number, scans: Scan[] = []): LinkEnd => ({
  radio: radio("west-east", { interferenceDb, cableLossDb: 1.5, polarization: "V" }),
  model,
  antenna: { ...antenna, bandMHz: [5000, 6000], gainAcrossBand: [{ frequencyMHz: 5800, hDbi: 20, vDbi: 20 }] },
  place: { latDeg: 0, lonDeg: 0 },
  placeName: "west",
  maxHeightM: 40,
  behind: "none",
  hazards: "",
  access: "",
  demand: null,
  scans,
});
const hears = (...dbms: number[]): OwnNoise => ({
  faintCount: 0,
  dbm: dbms.length > 0 ? 10 * Math.log10(dbms.reduce((sum, dbm) => sum + 10 ** (dbm / 10), 0)) : null,
  radios: dbms.map((dbm, i): HeardRadio => ({
    radioId: `r${i}`,
    name: `sector ${i}`,
    placeName: "ridge",
    group: `r${i}`,
    bearingDeg: 0,
    frequencyMHz: 5805 + i,
    widthMHz: 20,
    dbm,
  })),
});
const rise = (to: LinkEnd, heard: OwnNoise | null = null, learnedDb: number | null = null) =>
  noiseRise(
    to,
    THERMAL_DBM,
    90,
    CHANNEL,
    heard,
    learnedDb === null ? null : { db: learnedDb, sdDb: 1, spreadDb: 2, readings: 3, parts: [] },
  );

test("what readings taught moves what comes from outside, never under thermal noise, and the plan's own comes on top", () => {
  expect(rise(receiver(0), null, 2.9)).toEqual({
    ...{ riseDb: 2.9, outsideDb: 2.9, learnedDb: 2.9, source: "none", reason: "what 3 readings taught" },
  });
  // Over 3 dB it makes more than half of the power.
  expect(rise(receiver(6), null, 3.1)).toEqual({
    ...{ riseDb: 9.1, outsideDb: 9.1, learnedDb: expect.closeTo(3.1, 9), source: "learned" },
    reason: "as set on the radio, and what 3 readings taught",
  });
  expect(rise(receiver(6), null, -8)).toMatchObject({ riseDb: 0, outsideDb: 0, learnedDb: -6, source: "set" });
  expect(rise(receiver(0), null, -1)).toMatchObject({ riseDb: 0, learnedDb: 0 });
  const both = rise(receiver(0), hears(-95), 3);
  expect(both.riseDb).toBeCloseTo(10 * Math.log10(10 ** 0.3 + 1), 9);
  expect(both).toMatchObject({ outsideDb: 3, learnedDb: 3 });
});

test("without a scan the rise is what the radio is set to, and nobody is blamed where it is set to nothing", () => {
  expect(rise(receiver(0))).toEqual({
    riseDb: 0,
    outsideDb: 0,
    learnedDb: 0,
    source: "none",
    reason: "as set on the radio",
  });
  expect(rise(receiver(6))).toEqual({
    riseDb: 6,
    outsideDb: 6,
    learnedDb: 0,
    source: "set",
    reason: "as set on the radio",
  });
  expect(rise(receiver(6), hears())).toEqual(rise(receiver(6)));
});

test("a scan's power counts through the receiver's antenna and cable on top of thermal noise", () => {
  // 20 bins of −110 dBm are −96.99 dBm; 6 dB more gain, 1.5 dB of cable: −92.49, and with −95 thermal −90.55 dBm.
  const heard = rise(receiver(0, [scan(-110)]));
  const byHand = 10 * Math.log10(10 ** -9.5 + 20 * 10 ** -11 * 10 ** 0.45) + 95;
  expect(byHand).toBeCloseTo(4.44, 2);
  expect(heard.riseDb).toBeCloseTo(byHand, 6);
  expect(heard).toEqual({
    riseDb: heard.riseDb,
    outsideDb: heard.riseDb,
    learnedDb: 0,
    source: "scan",
    reason: "scan of 2026-03-01 toward 90°, V, through 14 dBi",
  });
});

test("of a scan and what the radio is set to, the louder counts", () => {
  const heardDb = rise(receiver(0, [scan(-110)])).riseDb;
  expect(rise(receiver(heardDb + 0.01, [scan(-110)])).source).toBe("set");
  expect(rise(receiver(heardDb, [scan(-110)])).source).toBe("set");
  expect(rise(receiver(heardDb - 0.01, [scan(-110)])).source).toBe("scan");
  expect(rise(receiver(9, [scan(-110)])).riseDb).toBe(9);
});

test("the plan's own transmitters add to what there is, as powers do", () => {
  // −95 dBm of one's own beside −95 dBm of thermal noise: 3.01 dB.
  const alone = rise(receiver(0), hears(-95.0001));
  expect(alone.riseDb).toBeCloseTo(3.01, 2);
  expect(alone.outsideDb).toBe(0);
  // On 6 dB as set they add less: 10·lg(10^0.6 + 1) = 6.97.
  const both = rise(receiver(6), hears(-95));
  expect(both.riseDb).toBeCloseTo(10 * Math.log10(10 ** 0.6 + 1), 9);
  expect(both.outsideDb).toBe(6);
});

test("who makes most of the rise is named: own transmitters against what others add to thermal noise", () => {
  expect(rise(receiver(0), hears(-100)).source).toBe("own");
  // 6 dB over −95 dBm is −90.26 dBm of others' making.
  expect(rise(receiver(6), hears(-90.2)).source).toBe("own");
  expect(rise(receiver(6), hears(-90.3)).source).toBe("set");
  expect(rise(receiver(0, [scan(-100)]), hears(-95)).source).toBe("scan");
});

test("what is said names the loudest with its channel and level, how many more, and what comes from outside", () => {
  expect(rise(receiver(0), hears(-91.6)).reason).toBe("the plan's own sector 0 at ridge on 5805 MHz, −92 dBm here");
  expect(rise(receiver(0), hears(-91.6, -93)).reason).toBe(
    "the plan's own sector 0 at ridge on 5805 MHz, −92 dBm here, and 1 more",
  );
  expect(rise(receiver(6), hears(-91.6, -93, -94)).reason).toBe(
    "the plan's own sector 0 at ridge on 5805 MHz, −92 dBm here, and 2 more; as set on the radio",
  );
});

test("what adds less than a tenth of a decibel is counted and not spoken of", () => {
  // 10·lg(1 + 10^−1.65) = 0.096 dB; 10·lg(1 + 10^−1.63) = 0.1006 dB.
  const faint = rise(receiver(0), hears(-111.5));
  expect(faint).toMatchObject({ source: "none", outsideDb: 0, reason: "as set on the radio" });
  expect(faint.riseDb).toBeCloseTo(0.0961, 3);
  expect(rise(receiver(0), hears(-111.3)).source).toBe("own");
  expect(rise(receiver(6), hears(-111.3)).source).toBe("set");
});
