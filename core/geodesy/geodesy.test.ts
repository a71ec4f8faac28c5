import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  declinationDeg,
  destination,
  formatPlace,
  inverseGeodesic,
  parseAxis,
  placesAlong,
  sunAt,
  flatM,
} from "#core/geodesy";

test("a degree of latitude at the equator is 110.574 km", () => {
  expect(inverseGeodesic({ latDeg: 0, lonDeg: 0 }, { latDeg: 1, lonDeg: 0 }).distanceM).toBeCloseTo(110574.39, 1);
});

test("sampled places lie on the geodesic, within centimetres", () => {
  const from = { latDeg: 60, lonDeg: 20 };
  const { azimuthDeg } = inverseGeodesic(from, { latDeg: 60.05, lonDeg: 20.6 });
  const to = destination(from, azimuthDeg, 33_000);
  const { latDeg, lonDeg } = placesAlong(from, to, 1101);
  for (let i = 0; i <= 1100; i += 37) {
    const exact = destination(from, azimuthDeg, i * 30);
    expect(inverseGeodesic(exact, { latDeg: latDeg[i]!, lonDeg: lonDeg[i]! }).distanceM).toBeLessThan(0.05);
  }
});

test("declination agrees with the published test values of the World Magnetic Model 2025", () => {
  // WMM2025 technical report, test values at 2025.0: latitude, longitude, altitude km, declination.
  const published: [number, number, number, number][] = [
    [80, 0, 0, 1.28],
    [0, 120, 0, -0.16],
    [-80, 240, 0, 68.78],
  ];
  for (const [latDeg, lonDeg, altitudeKm, expected] of published) {
    const got = declinationDeg(
      { latDeg, lonDeg: lonDeg > 180 ? lonDeg - 360 : lonDeg },
      altitudeKm * 1000,
      new Date("2025-01-01T00:00:00Z"),
    );
    expect(Math.abs(got! - expected)).toBeLessThan(0.02);
  }
  expect(declinationDeg({ latDeg: 0, lonDeg: 0 }, 0, new Date("2031-01-01"))).toBeNull();
});

test("coordinates read in the styles people write", () => {
  expect(parseAxis("37.6167° S", "lat")).toBeCloseTo(-37.6167, 9);
  expect(parseAxis("S 37° 37' 0.1\"", "lat")).toBeCloseTo(-37.616694, 6);
  expect(parseAxis("37° 37,5' N", "lat")).toBeCloseTo(37.625, 9);
  expect(parseAxis("−30,2195", "lon")).toBeCloseTo(-30.2195, 9);
  expect(parseAxis("30 13 10 W", "lon")).toBeCloseTo(-30.219444, 6);
  for (const bad of ["91", "37 61 0", "12N34S", "abc", "", "12 E", "1 2 3 4", "30 O"])
    expect(parseAxis(bad, "lat")).toBeNull();
});

test("what is written in any style reads back as the same place", () => {
  const place = fc.record({
    latDeg: fc.double({ min: -90, max: 90, noNaN: true }),
    lonDeg: fc.double({ min: -180, max: 180, noNaN: true }),
  });
  fc.assert(
    fc.property(place, fc.constantFrom("decimal" as const, "dms" as const, "dm" as const), (where, style) => {
      const [lat, lon] = formatPlace(where, style).split(", ");
      expect(Math.abs(parseAxis(lat!, "lat")! - where.latDeg)).toBeLessThan(2e-5);
      expect(Math.abs(parseAxis(lon!, "lon")! - where.lonDeg)).toBeLessThan(2e-5);
    }),
  );
});

test("places along lie on the geodesic at every length and latitude that networks have", () => {
  const latitude = fc.double({ min: -75, max: 75, noNaN: true });
  const azimuth = fc.double({ min: 0, max: 360, noNaN: true });
  fc.assert(
    fc.property(
      latitude,
      azimuth,
      fc.double({ min: 50, max: 300_000, noNaN: true }),
      (latDeg, azimuthDeg, distanceM) => {
        const from = { latDeg, lonDeg: 20 };
        const to = destination(from, azimuthDeg, distanceM);
        fc.pre(Math.abs(to.latDeg) < 78);
        const count = 41;
        const line = placesAlong(from, to, count);
        expect([line.latDeg[0], line.lonDeg[0]]).toEqual([from.latDeg, from.lonDeg]);
        expect([line.latDeg[count - 1], line.lonDeg[count - 1]]).toEqual([to.latDeg, to.lonDeg]);
        for (let i = 1; i < count - 1; i += 3) {
          const exact = destination(from, azimuthDeg, (distanceM * i) / (count - 1));
          const off = inverseGeodesic(exact, { latDeg: line.latDeg[i]!, lonDeg: line.lonDeg[i]! }).distanceM;
          expect(off).toBeLessThan(0.02);
        }
      },
    ),
    { numRuns: 80 },
  );
});

test("a path across the date line stays on it", () => {
  const from = { latDeg: -17, lonDeg: 179.9 };
  const to = { latDeg: -17.05, lonDeg: -179.95 };
  const { lonDeg } = placesAlong(from, to, 21);
  for (const lon of lonDeg) expect(Math.abs(lon)).toBeGreaterThan(179.8);
  for (const lon of lonDeg) expect(Math.abs(lon)).toBeLessThanOrEqual(180);
});

describe("the sun", () => {
  const at = (latDeg: number, lonDeg: number, iso: string) => sunAt({ latDeg, lonDeg }, new Date(iso));

  test("stands where the almanac's worked examples and plain geometry put it", () => {
    // Overhead at the equator at noon of an equinox, due south in the north and due north in the south.
    const noon = at(0, 0, "2026-03-20T12:07:30Z");
    expect(noon.heightDeg).toBeGreaterThan(89.5);
    const north = at(51.4779, 0, "2026-06-21T12:02:00Z");
    expect(north.azimuthDeg).toBeCloseTo(180, 0);
    // 90° less the latitude, and the tilt of the axis more.
    expect(north.heightDeg).toBeCloseTo(90 - 51.4779 + 23.44, 1);
    const south = at(-37.6, -30.2, "2026-12-21T13:59:00Z");
    expect(Math.min(south.azimuthDeg, 360 - south.azimuthDeg)).toBeLessThan(1.5);
    expect(south.heightDeg).toBeCloseTo(90 - 37.6 + 23.44, 1);
  });

  test("rises in the east, sets in the west, and is under the horizon at night", () => {
    const [morning, evening, night] = ["06:30", "17:40", "00:00"].map((hour) => at(0, 0, `2026-03-20T${hour}:00Z`));
    expect(morning!.azimuthDeg).toBeCloseTo(90, 0);
    expect(morning!.heightDeg).toBeGreaterThan(0);
    expect(evening!.azimuthDeg).toBeCloseTo(270, 0);
    expect(night!.heightDeg).toBeLessThan(-80);
    // An hour later the sun has gone 15° on, and a place 15° farther west sees it as this one did.
    const here = at(10, 0, "2026-05-05T09:00:00Z");
    const there = at(10, -15, "2026-05-05T10:00:00Z");
    expect(there.azimuthDeg).toBeCloseTo(here.azimuthDeg, 1);
    expect(there.heightDeg).toBeCloseTo(here.heightDeg, 1);
  });
});

test("a distance on a flat map is within 1 % of the geodesic, up to 40 km and 65 degrees of latitude", () => {
  for (const latDeg of [-65, -37.6, 0, 12, 52, 65])
    for (const azimuthDeg of [0, 40, 90, 137, 180, 260])
      for (const km of [0.1, 12, 40]) {
        const from = { latDeg, lonDeg: 20 };
        const to = destination(from, azimuthDeg, km * 1000);
        expect(Math.abs(flatM(from, to) / (km * 1000) - 1)).toBeLessThan(0.01);
      }
});
