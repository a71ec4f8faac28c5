import { expect, test } from "@jest/globals";
import { lossAbove30Db, patternLossDb, peakGainDbi, type AntennaModel } from "#core/antenna";
import { libraryFor } from "#core/catalogue";
import { capsFor, limitReason, ruleUse, type CappedEnd } from "#core/regulation";

const ANTENNAS = libraryFor("x").flatMap((item) => (item.kind === "antenna" ? [item.body] : []));
const horn = ANTENNAS.find(({ shape, bandMHz }) => shape === "horn" && bandMHz[0] < 5200 && bandMHz[1] > 5200)!;
const sector = ANTENNAS.find(({ shape, bandMHz }) => shape === "sector" && bandMHz[0] < 5200 && bandMHz[1] > 5200)!;
const end = (antenna: AntennaModel, rest: Partial<CappedEnd["radio"]> = {}): CappedEnd => ({
  radio: { frequencyMHz: 5180, widthMHz: 20, polarization: "HV", cableLossDb: 0, tiltDownDeg: 0, ...rest },
  antenna,
  behind: "none",
});
const CFR = { ruleSetId: "cfr47", ownRules: [] };
const EN = { ruleSetId: "en", ownRules: [] };

/** The strongest direction above 30°, sought by looking everywhere. */
function everywhere(antenna: AntennaModel, tiltDeg: number): number {
  let least = Infinity;
  for (let azimuth = -180; azimuth <= 180; azimuth += 1)
    for (let elevation = 30; elevation <= 90; elevation += 0.25) {
      const horizon = tiltDeg * Math.cos((azimuth * Math.PI) / 180) + antenna.electricalTiltDownDeg;
      least = Math.min(least, patternLossDb(antenna, "HV", azimuth, horizon + elevation));
    }
  return least;
}

test("the sky is searched over the whole pattern, behind a tilted antenna too", () => {
  for (const antenna of [horn, sector])
    for (const tilt of [-40, -10, 0, 8, 25]) {
      const found = lossAbove30Db(antenna, "HV", tilt);
      const sought = everywhere(antenna, tilt);
      expect([antenna.id, tilt, found <= sought + 1e-9, found > sought - 0.7]).toEqual([antenna.id, tilt, true, true]);
    }
});

test("a level horn under a mask of 21 dBm may send as much more as its pattern is down at 30°", () => {
  const level = capsFor(CFR, end(horn), "ptmp");
  const downDb = lossAbove30Db(horn, "HV", 0);
  expect(level.limit.eirpCapDbm).toBeCloseTo(21 + downDb, 9);
  expect(limitReason(level.limit)).toContain("above 30° elevation");
  // Looked up at 35° the beam itself is under the mask.
  expect(capsFor(CFR, end(horn, { tiltDownDeg: -35 }), "ptmp").limit.eirpCapDbm).toBe(21);
  // Tilted well down little goes into the sky.
  const down = capsFor(CFR, end(horn, { tiltDownDeg: 30 }), "ptmp").limit.eirpCapDbm!;
  expect(down).toBeGreaterThan(level.limit.eirpCapDbm!);
});

test("caps count the gain of the polarization that is used", () => {
  const uneven: AntennaModel = { ...sector, gainAcrossBand: [{ frequencyMHz: 5500, hDbi: 14, vDbi: 18 }] };
  const most = (polarization: "H" | "V" | "HV") =>
    capsFor(CFR, end(uneven, { polarization, frequencyMHz: 5600 }), "ptmp").mostPowerDbm;
  // 11 dBm/MHz over 20 MHz, less what the antenna has over 6 dBi; 30 dBm EIRP.
  const by = (gainDbi: number) => Math.min(11 + 10 * Math.log10(20) - (gainDbi - 6), 24, 30 - gainDbi);
  expect([most("H"), most("V"), most("HV")]).toEqual([14, 18, 16].map((gain) => expect.closeTo(by(gain), 9)));
  expect(peakGainDbi(uneven, 5600, "V")).toBe(18);
});

test("spectrum for indoor use is closed to what stands outdoors and open behind a window", () => {
  const outdoors = capsFor(EN, end(sector, { frequencyMHz: 5200 }), "ptmp");
  expect(outdoors.closed).toContain("indoor");
  expect(outdoors.limit.covered).toBe(true);
  expect(capsFor(EN, { ...end(sector, { frequencyMHz: 5200 }), behind: "traditional" }, "ptmp").closed).toBeNull();
  expect(capsFor(EN, end(sector, { frequencyMHz: 5600 }), "ptmp").closed).toBeNull();
  expect(capsFor(EN, end(sector, { frequencyMHz: 5420 }), "ptmp").closed).toContain("no rule");
});

test("a channel without any cap leaves the radio's own power", () => {
  expect(capsFor(EN, end(sector, { frequencyMHz: 5420 }), "ptmp").mostPowerDbm).toBe(Infinity);
  expect([ruleUse("bridge"), ruleUse("access"), ruleUse("sector")]).toEqual(["ptp", "ptmp", "ptmp"]);
});
