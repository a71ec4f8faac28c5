import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { AsciiGridError, readAsciiGrid } from "#formats/asciiGrid";
import { readPlacesCsv } from "#formats/places";

const GRID = "ncols 3\nnrows 2\nxllcorner 10\nyllcorner -2\ncellsize 0.5\nNODATA_value -9999\n1 2 3\n4 -9999 6.5\n";
const CSV = "kind,name,lat,lon,height,maxHeight\nsite,Alto,-1.5,20.25,,40\nsubscriber,Casa,1°30'S,20.3,6,9\n";

test("an ASCII grid reads with its hole, by corner or by centre", () => {
  const { frame, groundAmslM } = readAsciiGrid(GRID);
  expect(frame).toEqual({ westDeg: 10, northDeg: -1, cellLonDeg: 0.5, cellLatDeg: 0.5, columns: 3, rows: 2 });
  expect([...groundAmslM]).toEqual([1, 2, 3, 4, NaN, 6.5]);
  expect(readAsciiGrid(GRID.replace("xllcorner 10", "xllcenter 10.25")).frame.westDeg).toBe(10);
});

test("a broken grid is refused with its line and value", () => {
  const refused: [string, string, string][] = [
    ["2 3\n", "2 abc\n", 'line 7: height "abc" (row 1, column 3)'],
    ["ncols 3", "ncols 3.5", "ncols is 3.5"],
    ["ncols 3", "ncols 2000000000", "at most 100000000"],
    ["cellsize 0.5", "cellsize 30", "only grids in degrees"],
    ["yllcorner -2\n", "", "the header has no yllcenter"],
    ["xllcorner 10", "xllcorner 200", "must lie between"],
    ["6.5\n", "", "ends after 5 of 6"],
    ["6.5", "6.5 7", "more values follow"],
    ["6.5", "99999", "must lie between -500 and 9000 m"],
  ];
  for (const [from, to, message] of refused) expect(() => readAsciiGrid(GRID.replace(from, to))).toThrow(message);
});

test("places read from CSV with any delimiter, and each bad row says where and why", () => {
  expect(readPlacesCsv(CSV)).toMatchObject({
    errors: [],
    places: [
      { row: 2, kind: "site", latDeg: -1.5, maxHeightM: 40, heightM: null },
      { row: 3, latDeg: -1.5, heightM: 6 },
    ],
  });
  expect(readPlacesCsv(CSV.replaceAll(",", ";")).places).toHaveLength(2);
  const bad = readPlacesCsv("kind,name,lat,lon,height,maxHeight,people\nhill,,95,20,12,9,1.5\nsite,Ok,1,2,,,\n");
  expect(bad.places).toHaveLength(1);
  expect(bad.errors.map(({ row, field }) => `${row} ${field}`)).toEqual([
    "2 kind",
    "2 name",
    "2 lat",
    "2 height",
    "2 people",
  ]);
  expect(readPlacesCsv("a,b\n1,2").errors[0]!.reason).toBe("has no column for kind, name, lat, lon");
  expect(readPlacesCsv("").errors[0]!.reason).toBe("holds no rows");
});

/** A text with some characters replaced, dropped or doubled. */
const mutated = (source: string) =>
  fc
    .array(
      fc.tuple(fc.nat(source.length - 1), fc.constantFrom("", "9", "-", "e", "\n", ",", "\0", '"', "NaN", "1e308")),
      { minLength: 1, maxLength: 6 },
    )
    .map((changes) => {
      let text = source;
      for (const [at, put] of changes) text = text.slice(0, at) + put + text.slice(at + 1);
      return text;
    });

test("no mutated file crashes a reader: it reads, or says what is wrong", () => {
  fc.assert(
    fc.property(mutated(GRID), (text) => {
      try {
        const { frame, groundAmslM } = readAsciiGrid(text);
        expect(groundAmslM).toHaveLength(frame.columns * frame.rows);
      } catch (error) {
        expect(error).toBeInstanceOf(AsciiGridError);
      }
    }),
    { numRuns: 500, seed: 11 },
  );
  fc.assert(
    fc.property(mutated(CSV), (text) => {
      for (const place of readPlacesCsv(text).places) expect(Math.abs(place.latDeg)).toBeLessThanOrEqual(90);
    }),
    { numRuns: 500, seed: 12 },
  );
});
