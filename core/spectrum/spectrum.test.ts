import fc from "fast-check";
import { expect, test } from "@jest/globals";
import { answerOf } from "#core/outcome";
import { tapeLines } from "#core/link";
import type { Scan } from "#core/plan";
import { channelNoise, channelPowerDbm, simulateScan } from "#core/spectrum";
import { scannerFloorDbmPerMHz } from "./channelNoise";
import { densityCells } from "#core/survey";
import { radioIn, valley } from "#core/testing";

const scan = (rest: Partial<Scan> = {}): Scan => ({
  id: "scan",
  planId: "valley",
  siteId: "west",
  headingDeg: 90,
  beamwidthDeg: 60,
  gainDbi: 30,
  polarization: "V",
  scannedAt: "2026-03-01T10:00:00.000Z",
  source: "test",
  binKHz: 1000,
  frequenciesMHz: Array.from({ length: 201 }, (_, i) => 5700 + i),
  levelsDbm: Array.from({ length: 201 }, (_, i) => (Math.abs(i - 100) <= 10 ? -90 : -107)),
  ...rest,
});

test("twenty even bins of −90 dBm are −77 dBm in their channel; half of them are 3 dB less", () => {
  expect(channelPowerDbm(scan(), 5800, 20)).toBeCloseTo(-90 + 10 * Math.log10(20), 6);
  expect(channelPowerDbm(scan(), 5810.5, 20)).toBeCloseTo(-80, 0);
  expect(channelPowerDbm(scan(), 5895, 20)).toBeNull();
});

test("the newest scan that looks a radio's way on its polarization speaks for it", () => {
  const radio = { headingDeg: 100, polarization: "V", frequencyMHz: 5800, widthMHz: 20 };
  const newer = scan({ id: "newer", scannedAt: "2026-04-01T10:00:00.000Z" });
  const away = scan({ id: "away", headingDeg: 270, scannedAt: "2026-05-01T10:00:00.000Z" });
  const crossed = scan({ id: "crossed", polarization: "H", scannedAt: "2026-05-01T10:00:00.000Z" });
  expect(channelNoise([scan(), newer, away, crossed], radio)!.scan.id).toBe("newer");
  expect(channelNoise([scan(), crossed], { ...radio, polarization: "HV" })!.scan.id).toBe("crossed");
  expect(channelNoise([away], radio)).toBeNull();
  expect(channelNoise([scan()], { ...radio, frequencyMHz: 5740 })!.powerDbm).toBeLessThan(-140);
});

test("what a scan heard raises the noise floor on the tape of that end, and of no other", () => {
  const bridge = (made: ReturnType<typeof valley>) =>
    answerOf(made.world, made.world.links.get("bridge")!, made.between).path!;
  const quiet = bridge(valley());
  const noisy = bridge(valley(0, (rows) => void rows.scans.push(scan())));
  // −77 dBm in the channel through 30 dBi; the radio's antenna has 29.7 there.
  const heard = -77 + (30 - 0.4 * (300 / 350)) - 30;
  expect(noisy.bToA.noiseDbm).toBeCloseTo(10 * Math.log10(10 ** (quiet.bToA.noiseDbm / 10) + 10 ** (heard / 10)), 0);
  expect(noisy.aToB.noiseDbm).toBe(quiet.aToB.noiseDbm);
  expect(
    tapeLines(noisy.bToA)
      .find(({ key }) => key === "noise")!
      .inputs.at(-1)![1],
  ).toContain("scan of 2026-03-01 toward 90°");
  const louder = bridge(
    valley(0, (rows) => {
      rows.scans.push(scan());
      radioIn(rows, "west-east").interferenceDb = 40;
    }),
  );
  expect(louder.bToA.noiseDbm).toBeCloseTo(quiet.bToA.noiseDbm + 40, 6);
});

test("a simulated scan hears an emitter in its channel, weaker behind and crossed", () => {
  const emitter = {
    frequencyMHz: 5600,
    widthMHz: 20,
    bearingDeg: 90,
    isotropicDbm: -70,
    duty: 1,
    polarization: "V" as const,
  };
  const settings = {
    headingDeg: 90,
    beamwidthDeg: 60,
    gainDbi: 12,
    polarization: "V" as const,
    fromMHz: 5500,
    toMHz: 5700,
    binKHz: 1000,
  };
  const peak = (change: Partial<typeof settings>) =>
    Math.max(...simulateScan([emitter], { ...settings, ...change } as typeof settings, () => 0.5).levelsDbm);
  expect(peak({})).toBeCloseTo(-70 + 12 - 13, 0);
  expect(peak({ headingDeg: 270 })).toBeCloseTo(-71 - 22, 0);
  expect(peak({ polarization: "H" as unknown as "V" })).toBeCloseTo(-71 - 18, 0);
  const { frequenciesMHz, levelsDbm } = simulateScan([emitter], settings, () => 0.5);
  expect(frequenciesMHz).toHaveLength(200);
  expect(levelsDbm[0]).toBeCloseTo(-107, 0);
  expect(() => simulateScan([], { ...settings, toMHz: 5400 }, () => 0)).toThrow(RangeError);
});

test("density counts customers on squares of a kilometre, densest first", () => {
  const near = { latDeg: -37.6, lonDeg: -30.2, demandMbps: 10 };
  const cells = densityCells([near, { ...near, latDeg: -37.6001 }, { ...near, latDeg: -37.7 }]);
  expect(cells.map(({ count, perKm2, demandMbps }) => [count, perKm2, demandMbps])).toEqual([
    [2, 2, 20],
    [1, 1, 10],
  ]);
  const [{ westDeg, eastDeg, southDeg, northDeg }] = cells as [(typeof cells)[number]];
  expect((northDeg - southDeg) * 111.195).toBeCloseTo(1, 3);
  expect((eastDeg - westDeg) * 111.195 * Math.cos((37.6 * Math.PI) / 180)).toBeCloseTo(1, 2);
});

test("a scanner's own noise is the level under which a tenth of its bins lie, whatever their order, and never more than a poor receiver's", () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: -140, max: -90, noNaN: true }), { minLength: 1, maxLength: 400 }),
      (levelsDbm) => {
        const sorted = [...levelsDbm].sort((x, y) => x - y);
        const tenth = sorted[Math.floor(sorted.length / 10)]!;
        expect(scannerFloorDbmPerMHz({ levelsDbm, binKHz: 1000 })).toBe(Math.min(tenth, -103.975));
        expect(scannerFloorDbmPerMHz({ levelsDbm, binKHz: 100 })).toBeCloseTo(Math.min(tenth + 10, -103.975), 9);
      },
    ),
  );
});
