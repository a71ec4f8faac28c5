import { createRequire } from "node:module";
import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { RasterError } from "#formats/raster";
import { crsOf } from "./crs";

const known = Object.values(
  createRequire(import.meta.url)("epsg-index/all.json") as Record<string, { code: string; bbox: number[] | null }>,
);

test("whatever code of the list a file names, its cells are placed within its area, or it is refused by that code", () => {
  let placed = 0;
  const wrong: string[] = [];
  for (const { code, bbox } of known) {
    if (!bbox) continue;
    const [north, west, south, east] = bbox as [number, number, number, number];
    const middle: [number, number] = [west <= east ? (west + east) / 2 : west, (north + south) / 2];
    try {
      const crs = crsOf(Number(code));
      const [lon, lat] = crs.toLonLat(crs.isGeographic ? [...middle] : crs.fromLonLat([...middle]));
      // No old datum lies 5 km beside WGS 84, and there and back is the same place.
      const offDeg = Math.abs(((lon - middle[0] + 540) % 360) - 180) + Math.abs(lat - middle[1]);
      if (offDeg > 0.05 && Math.abs(middle[1]) < 80) wrong.push(`${code}: ${offDeg}° off`);
      placed++;
    } catch (error) {
      const isNamed = error instanceof RasterError && error.message.includes(`EPSG:${code}`);
      if (!isNamed) wrong.push(`${code}: ${String(error)}`);
    }
  }
  expect(wrong).toEqual([]);
  expect(placed).toBeGreaterThan(4000);
});

test("a number that is no code of the list is refused by name", () => {
  fc.assert(
    fc.property(fc.integer({ min: 900_000, max: 999_999 }), (code) => {
      expect(() => crsOf(code)).toThrow(`EPSG:${code} is not known here`);
    }),
  );
});
