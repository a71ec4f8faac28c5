import { expect, test } from "@jest/globals";
import {
  areaOfTerm,
  correctionOf,
  covarianceOf,
  fitNoise,
  fitReadings,
  noiseCorrectionOf,
  noiseTermsOf,
  mostSettling,
  normalShare,
  oddsOf,
  priorSd,
  spreadOf,
  termName,
  termsOf,
  type Learned,
  type LearnedCase,
  type LearnedReading,
} from "#core/learn";

const open: LearnedCase = {
  frequencyGHz: 5.6,
  treesDb: 0,
  diffractionDb: 0,
  inLeafShare: 1,
  wood: null,
  latDeg: 10.005,
  lonDeg: 20.005,
  isIndoors: false,
};
const wood = (treesDb: number): LearnedCase => ({ ...open, treesDb });

test("a path's terms: everywhere, its area, and what it goes through", () => {
  expect(termsOf(open)).toEqual([
    ["everywhere", 1],
    ["area 1000 1970", 1],
  ]);
  expect(termsOf({ ...wood(8), diffractionDb: 45, isIndoors: true, frequencyGHz: 24 }).slice(2)).toEqual([
    ["trees over 10 GHz", 8],
    ["trees over 10 GHz, in leaf", 8],
    ["ground", 30],
    ["indoors", 1],
  ]);
  expect(termsOf({ ...open, latDeg: 10.011 })[1]).not.toEqual(termsOf(open)[1]);
  const halfBare = { ...wood(8), inLeafShare: 0.25, wood: { latDeg: 10.105, lonDeg: 20.005 } };
  expect(termsOf(halfBare).slice(2)).toEqual([
    ["trees 3 to 10 GHz", 8],
    ["trees 3 to 10 GHz, in leaf", 2],
    ["trees 3 to 10 GHz, bare", 6],
    ["trees 3 to 10 GHz, area 1010 1969", 8],
  ]);
  expect(termsOf({ ...halfBare, inLeafShare: 0 }).map(([key]) => key)).not.toContain("trees 3 to 10 GHz, in leaf");
  expect(termName("trees 3 to 10 GHz")).toBe("For each dB that trees take, 3 to 10 GHz");
  expect(termName("trees 3 to 10 GHz, bare")).toBe("For each dB that trees take, 3 to 10 GHz, bare");
  expect(termName("trees 3 to 10 GHz, area 1010 1969")).toBe(
    "For each dB that trees take, 3 to 10 GHz, the wood around 10.105° N 20.005° E",
  );
});

test("without readings nothing is corrected, and the doubt is that of the priors", () => {
  const { taught: learned } = fitReadings([]);
  expect(learned).toMatchObject({ terms: [], readings: 0, strayDb: 2.5 });
  const none = correctionOf(learned, wood(10));
  expect(none).toMatchObject({ db: 0, readings: 0, parts: [] });
  expect(none.sdDb).toBeCloseTo(Math.hypot(2, 3, 10 * 0.3, 10 * 0.15));
  expect(priorSd("trees 3 to 10 GHz, area 1010 1969")).toBe(0.25);
  expect(none.spreadDb).toBeCloseTo(Math.hypot(none.sdDb, 2.5));
});

test("one reading moves its terms by their share of the doubt, as by hand", () => {
  // Everywhere 2² and area 3² explain 13 of 13 + 2.5² of its square, and one reading alone tells nothing of its stray. Four of the 6.2 dB
  // from which it would count for nothing leave it about a third of its weight.
  const { taught: learned } = fitReadings([{ path: open, errorDb: 4, share: 1 }]);
  const { db, sdDb } = correctionOf(learned, open);
  const stray = learned.strayDb ** 2 / (1 - (4 / 6.2) ** 2) ** 2;
  expect(db).toBeCloseTo((4 * 13) / (13 + stray), 1);
  expect(sdDb).toBeLessThan(Math.hypot(2, 3));
  const elsewhere = correctionOf(learned, { ...open, latDeg: 30 });
  expect(elsewhere.db).toBeCloseTo((4 * 4) / (13 + stray), 1);
  // Of the sum the reading leaves 1/(1/13 + 1/stray): less than of both terms by themselves, one of which may be the other's.
  expect(sdDb).toBeCloseTo(Math.sqrt(1 / (1 / 13 + 1 / stray)), 3);
  const apart = { ...learned, general: [] };
  expect(correctionOf(apart, open).sdDb).toBeGreaterThan(sdDb + 0.3);
});

test("many readings find what woods really take, and one that stands far out bends nothing", () => {
  const readings: LearnedReading[] = Array.from({ length: 60 }, (_, i) => {
    const depth = (i % 12) * 2;
    return {
      path: { ...wood(depth), latDeg: 10 + i / 37 },
      errorDb: 1 + 0.5 * depth + 0.8 * Math.sin(i * 12.9898),
      share: 1,
    };
  });
  /** What a decibel of trees takes more, or less, in leaf. */
  const trees = (list: readonly LearnedReading[]) => {
    const { taught } = fitReadings(list);
    const [through, past] = [1, 0].map((treesDb) => correctionOf(taught, { ...wood(treesDb), latDeg: 50 }));
    const far = correctionOf(taught, { ...wood(100), latDeg: 50 });
    return { value: through!.db - past!.db, sd: far.sdDb / 100 };
  };
  expect(trees(readings).value).toBeCloseTo(0.5, 1);
  expect(trees(readings).sd).toBeLessThan(0.1);
  const spoilt = readings.map((one, i) => (i === 11 ? { ...one, errorDb: -40 } : one));
  expect(Math.abs(trees(spoilt).value - trees(readings).value)).toBeLessThan(0.1);
  // What hangs together varies together.
  const fit = fitReadings(readings);
  expect(covarianceOf(fit, wood(5), wood(9))).toBeCloseTo(covarianceOf(fit, wood(9), wood(5)), 10);
  expect(covarianceOf(fit, wood(5), wood(9))).toBeGreaterThan(0);
});

test("odds follow the decibels to spare; a reading next door settles most", () => {
  expect([normalShare(0), normalShare(1), normalShare(-1.96)].map((share) => share.toFixed(4))).toEqual([
    "0.5000",
    "0.8413",
    "0.0250",
  ]);
  expect(oddsOf(6, 3)).toBeGreaterThan(0.97);
  expect(spreadOf(open, null)).toBe(3);
  expect(spreadOf({ ...wood(10), diffractionDb: 10 }, null)).toBeCloseTo(Math.hypot(3, 3.5, 2));
  const learned = { ...fitReadings([]).taught, isOn: true };
  // What only noise was read for says nothing of levels.
  expect(spreadOf(open, learned)).toBe(3);
  expect(spreadOf(open, { ...learned, readings: 1 })).toBeCloseTo(Math.hypot(2, 3, 2.5));
  expect(spreadOf(open, { ...learned, readings: 1, isOn: false })).toBe(3);
  const near = (id: string, spareDb: number) => ({ id, path: open, spareDb });
  const far = { id: "far", path: { ...open, latDeg: 40 }, spareDb: 40 };
  const links = [near("x", 0.5), near("y", -0.5), near("z", 1), far];
  const best = mostSettling(fitReadings([]), links, new Set(["x", "far"]))!;
  expect(best.id).toBe("x");
  expect(best.movesIds).toEqual(["x", "y", "z"]);
  expect(mostSettling(fitReadings([]), [far], new Set(["far"]))).toBeNull();
});

const town = { frequencyGHz: 5.785, latDeg: 10.005, lonDeg: 20.005 };
const valley = { ...town, latDeg: 10.105 };

test("noise has the terms of its band and of its area in that band, and no path's", () => {
  expect(noiseTermsOf(town)).toEqual([
    ["noise at 5 GHz", 1],
    ["noise at 5 GHz, area 1000 1970", 1],
  ]);
  expect(noiseTermsOf({ ...town, frequencyGHz: 6.1 })[0]![0]).toBe("noise at 6 GHz");
  expect(areaOfTerm("noise at 5 GHz, area 1000 -1970")).toEqual([1000, -1970]);
  expect(areaOfTerm("noise at 5 GHz")).toBeNull();
  expect(termName("noise at 5 GHz")).toBe("Noise at 5 GHz, everywhere");
  expect(termName("noise at 0 GHz")).toBe("Noise under 1 GHz, everywhere");
  // Strip 1970 begins 20.00° east at 10° of latitude, where 98.5 of them make a degree.
  expect(termName("noise at 5 GHz, area 1000 1970")).toBe("Noise at 5 GHz, around 10.005° N 20.009° E");
  expect(termName("area -1000 -1970")).toBe("Around 9.995° S 19.999° W");
  expect([priorSd("noise at 5 GHz"), priorSd("noise at 5 GHz, area 1000 1970")]).toEqual([4, 5]);
});

test("the noise of a town is learned apart from that of a valley, and another band knows nothing of either", () => {
  const readings = [town, valley].flatMap((receiver) =>
    Array.from({ length: 8 }, (_, i) => ({ receiver, errorDb: (receiver === town ? 10 : 0) + (i % 2 ? 0.4 : -0.4) })),
  );
  const { taught } = fitNoise(readings);
  const learned = { isOn: true, ...fitReadings([]).taught, noise: taught };
  const of = (receiver: typeof town) => noiseCorrectionOf(learned, receiver);
  expect(of(town)!.db).toBeCloseTo(10, 0);
  expect(of(valley)!.db).toBeCloseTo(0, 0);
  expect(of(town)!.readings).toBe(16);
  // Elsewhere on the band the middle of both is expected, with the doubt of an area that was never read.
  expect(of({ ...town, latDeg: 12 })!.db).toBeGreaterThan(2);
  expect(of({ ...town, latDeg: 12 })!.sdDb).toBeGreaterThan(5);
  expect(of({ ...town, frequencyGHz: 2.4 })).toBeNull();
  expect(noiseCorrectionOf(fitReadings([]).taught as Learned, town)).toBeNull();
  // The doubt about noise is one of the doubts about a link.
  const silent = { ...learned, noise: undefined };
  const { spreadDb } = of(town)!;
  expect(spreadOf({ ...open, ...town }, learned)).toBeCloseTo(
    Math.hypot(spreadOf({ ...open, ...town }, silent), spreadDb),
    9,
  );
});

test.each([1, 3, 7, 20])("one wrong measurement among %i moves no other link by over 1 dB, and is named", (count) => {
  const at = (i: number) => ({ ...open, latDeg: 10 + i / 1000 });
  for (const wrongDb of [-60, -30, -20, -11, -8, 9, 25]) {
    const good: LearnedReading[] = Array.from({ length: count - 1 }, (_, i) => ({
      path: at(i),
      errorDb: 1.5 * Math.sin(i * 12.9898),
      share: 1,
    }));
    const without = fitReadings(good).taught;
    const { taught, outliers } = fitReadings([...good, { path: at(0), errorDb: wrongDb, share: 1 }]);
    for (const other of [at(0), at(1), { ...open, latDeg: 40 }, { ...wood(20), latDeg: 10 }]) {
      const moved = correctionOf(taught, other).db - correctionOf(without, other).db;
      expect([count, wrongDb, Math.abs(moved) <= 1]).toEqual([count, wrongDb, true]);
    }
    expect(outliers).toEqual([count - 1]);
  }
});

test("what several measurements agree on is learned, however far from the prediction", () => {
  const agreed: LearnedReading[] = Array.from({ length: 8 }, (_, i) => ({
    path: { ...open, latDeg: 10 + i / 100_000 },
    errorDb: -9 + 0.5 * Math.sin(i),
    share: 1,
  }));
  const { taught, outliers } = fitReadings(agreed);
  expect(outliers).toEqual([]);
  expect(correctionOf(taught, agreed[0]!.path).db).toBeLessThan(-7);
});
