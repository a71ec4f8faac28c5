import { expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  buildingEntryLossDb,
  bullingtonLossDb,
  deltaBullingtonLossDb,
  earthBulgeM,
  foliageLossDb,
  freeSpaceLossDb,
  fresnelRadiusM,
  gasAttenuation,
  knifeEdgeLossDb,
  multipathOutagePercent,
  rainAttenuationDb,
} from "#core/propagation";

const frequency = fc.double({ min: 0.5, max: 90, noNaN: true });
const distance = fc.double({ min: 0.05, max: 60, noNaN: true });

test("free space loses more with distance and frequency", () => {
  fc.assert(
    fc.property(
      distance,
      frequency,
      fc.double({ min: 1.01, max: 3, noNaN: true }),
      (distanceKm, frequencyGHz, factor) => {
        const here = freeSpaceLossDb({ distanceKm, frequencyGHz });
        expect(freeSpaceLossDb({ distanceKm: distanceKm * factor, frequencyGHz })).toBeGreaterThan(here);
        expect(freeSpaceLossDb({ distanceKm, frequencyGHz: frequencyGHz * factor })).toBeGreaterThan(here);
      },
    ),
  );
});

test("the field's worked check: 12.4 km at 5.6 GHz is 129.3 dB", () => {
  expect(freeSpaceLossDb({ distanceKm: 12.4, frequencyGHz: 5.6 })).toBeCloseTo(129.3, 1);
});

test("the zone and the bulge are the same from either end and nothing at the ends", () => {
  fc.assert(
    fc.property(distance, distance, frequency, (fromKm, toKm, frequencyGHz) => {
      expect(fresnelRadiusM({ fromKm, toKm, frequencyGHz })).toBeCloseTo(
        fresnelRadiusM({ fromKm: toKm, toKm: fromKm, frequencyGHz }),
        9,
      );
      expect(earthBulgeM({ fromKm, toKm, kFactor: 4 / 3 })).toBeCloseTo(
        earthBulgeM({ fromKm: toKm, toKm: fromKm, kFactor: 4 / 3 }),
        9,
      );
      expect(fresnelRadiusM({ fromKm: 0, toKm, frequencyGHz })).toBe(0);
    }),
  );
});

const hills = fc
  .array(fc.double({ min: 0, max: 300, noNaN: true }), { minLength: 3, maxLength: 60 })
  .chain((heightsM) =>
    fc.record({
      heightsM: fc.constant(heightsM),
      mastA: fc.double({ min: 2, max: 60, noNaN: true }),
      mastB: fc.double({ min: 2, max: 60, noNaN: true }),
      frequencyGHz: frequency,
    }),
  );

test("diffraction is the same in both directions and never a gain", () => {
  fc.assert(
    fc.property(hills, ({ heightsM, mastA, mastB, frequencyGHz }) => {
      const last = heightsM.length - 1;
      const distancesKm = heightsM.map((_, i) => (i * 12) / last);
      const args = {
        distancesKm,
        heightsM,
        txAmslM: heightsM[0]! + mastA,
        rxAmslM: heightsM[last]! + mastB,
        frequencyGHz,
        kFactor: 4 / 3,
      };
      const back = { ...args, heightsM: [...heightsM].reverse(), txAmslM: args.rxAmslM, rxAmslM: args.txAmslM };
      for (const loss of [bullingtonLossDb, (x: typeof args) => deltaBullingtonLossDb({ ...x, polarization: "H" })]) {
        expect(loss(args)).toBeGreaterThanOrEqual(0);
        expect(loss(args)).toBeCloseTo(loss(back), 4);
      }
    }),
  );
});

test("a higher edge never loses less", () => {
  fc.assert(
    fc.property(fc.double({ min: -3, max: 10, noNaN: true }), fc.double({ min: 0, max: 3, noNaN: true }), (v, more) => {
      expect(knifeEdgeLossDb(v + more)).toBeGreaterThanOrEqual(knifeEdgeLossDb(v));
    }),
  );
});

test("rain, trees and multipath move the way they should", () => {
  expect(
    rainAttenuationDb({ frequencyGHz: 38, polarization: "H", distanceKm: 3, rainRate001MmPerH: 60 }),
  ).toBeGreaterThan(rainAttenuationDb({ frequencyGHz: 38, polarization: "V", distanceKm: 3, rainRate001MmPerH: 30 }));
  expect(foliageLossDb({ frequencyGHz: 0.9, depthM: 50 })).toBeLessThan(
    foliageLossDb({ frequencyGHz: 5.8, depthM: 50 }),
  );
  const path = { distanceKm: 20, frequencyGHz: 6, txAmslM: 50, rxAmslM: 80 };
  expect(multipathOutagePercent({ ...path, fadeMarginDb: 30 })).toBeLessThan(
    multipathOutagePercent({ ...path, fadeMarginDb: 20 }),
  );
  expect(multipathOutagePercent({ ...path, fadeMarginDb: -90 })).toBe(100);
  expect(gasAttenuation({ frequencyGHz: 60 }).oxygenDbPerKm).toBeGreaterThan(10);
  expect(buildingEntryLossDb({ frequencyGHz: 5, construction: "thermally_efficient" })).toBeGreaterThan(
    buildingEntryLossDb({ frequencyGHz: 5, construction: "traditional" }),
  );
});

test("what is out of bounds is refused by name, value and bounds", () => {
  expect(() => freeSpaceLossDb({ distanceKm: 0, frequencyGHz: 5 })).toThrow("distanceKm is 0; it must lie between");
  expect(() => foliageLossDb({ frequencyGHz: 5, depthM: 401 })).toThrow("depthM is 401; it must lie between 0 and 400");
  expect(() => earthBulgeM({ fromKm: 1, toKm: 1, kFactor: 0 })).toThrow("kFactor is 0");
  expect(() =>
    bullingtonLossDb({ distancesKm: [0, 1], heightsM: [0], txAmslM: 1, rxAmslM: 1, frequencyGHz: 5, kFactor: 1 }),
  ).toThrow("distancesKm has 2 and heightsM 1");
  expect(() =>
    bullingtonLossDb({
      distancesKm: [0, 1, 2],
      heightsM: [0, NaN, 0],
      txAmslM: 10,
      rxAmslM: 10,
      frequencyGHz: 5,
      kFactor: 1,
    }),
  ).toThrow("heightsM[1] is not a number");
});
