import { expect, test } from "@jest/globals";
import { emptyRows, worldOf, type Patch } from "#core/plan";
import { placeVerdicts } from "#core/survey";
import { valley } from "#core/testing";
import {
  guessMapping,
  interpretRows,
  parsePosition,
  PlacesFileError,
  readPasted,
  readTable,
  utmToPlace,
  type SourceTable,
} from "#formats/places";
import { decodeText, parseNumber, writeCsv } from "#formats/text";
import { unzipWithin, zipFiles } from "#formats/zip";

const bytes = (text: string) => new TextEncoder().encode(text);
const options = { defaultKind: "subscriber" as const, defaultZone: "" };
const interpret = (table: SourceTable) => interpretRows(table, { ...options, mapping: guessMapping(table.columns) });
const placesOf = (table: SourceTable) => interpret(table).flatMap(({ place }) => place ?? []);

test("CSV is read whatever its delimiter, encoding and decimal mark", () => {
  const comma = placesOf(readTable(bytes("kind,name,lat,lon,height\nsite,Alto,-1.5,20.25,12.5\n")));
  expect(comma).toMatchObject([{ kind: "site", name: "Alto", latDeg: -1.5, lonDeg: 20.25, said: { height: 12.5 } }]);
  const semicolon = readTable(bytes('\uFEFFName;Latitud;Longitud;Height\n"Casa; alta";-1,5;20,25;"1.012,5"\n'));
  expect(semicolon.found).toBe("CSV, semicolon-separated, UTF-8, decimal comma");
  expect(interpret(semicolon)[0]!.errors).toMatchObject([{ row: 2, field: "height", value: "1.012,5" }]);
  const latin = new Uint8Array([...bytes("name\tlat\tlon\n"), 0x4e, 0xfa, 0xf1, 0x65, 0x7a, ...bytes("\t1\t2\n")]);
  expect(decodeText(latin).encoding).toBe("Windows-1252");
  expect(placesOf(readTable(latin))[0]!.name).toBe("Núñez");
  const utf16 = new Uint8Array([
    0xff,
    0xfe,
    ...[..."name,lat,lon\nZ\u00e9,1,2\n"].flatMap((c) => [c.charCodeAt(0), 0]),
  ]);
  expect(placesOf(readTable(utf16))[0]!.name).toBe("Zé");
});

test("a position is read in decimal, degrees-minutes, degrees-minutes-seconds and UTM, in one column or two", () => {
  const near = { latDeg: expect.closeTo(-37.61, 5), lonDeg: expect.closeTo(-30.21, 5) };
  for (const text of [
    "-37.61, -30.21",
    "-37.61 -30.21",
    "37.61 S 30.21 W",
    "S37.61 W30.21",
    "37° 36.6′ S, 30° 12.6′ W",
    `37°36'36"S 30°12'36"W`,
    "30.21° W, 37.61° S",
    "−37,61; −30,21",
    "-37,61, -30,21",
  ])
    expect([text, parsePosition(text)]).toEqual([text, near]);
  expect(parsePosition("25H 746272 5833997")).toEqual({
    latDeg: expect.closeTo(-37.608171, 5),
    lonDeg: expect.closeTo(-30.210059, 5),
  });
  for (const text of ["", "here", "95 20", "37.61", "25 746272 5833997"]) expect(parsePosition(text)).toBeNull();
  // Published check: 31N 448251.795 5411932.678 is 48°51'29.4"N 2°17'40.2"E, to the metre.
  expect(utmToPlace(448251.795, 5411932.678, "31N")).toEqual({
    latDeg: expect.closeTo(48.8582, 4),
    lonDeg: expect.closeTo(2.2945, 4),
  });
  expect(utmToPlace(448251, 5411932, "61N")).toContain('zone "61N"');
  expect(utmToPlace(48, 5411932, "31N")).toContain("easting 48");
  const table = readTable(bytes("name,easting,northing,zone\nA,746272,5833997,25S\nB,746272,5833997,\n"));
  expect(interpret(table).map(({ errors }) => errors.map(({ field }) => field))).toEqual([[], ["zone"]]);
});

test("GeoJSON, KML, KMZ and GPX become rows; their properties become columns", () => {
  const geojson = JSON.stringify({
    type: "FeatureCollection",
    features: [
      { type: "Feature", properties: { name: "P", people: 3 }, geometry: { type: "Point", coordinates: [2, 1] } },
      {
        type: "Feature",
        properties: { name: "Q" },
        geometry: {
          type: "Polygon",
          coordinates: [
            [
              [0, 0],
              [2, 0],
              [2, 2],
              [0, 2],
              [0, 0],
            ],
          ],
        },
      },
    ],
  });
  expect(placesOf(readTable(bytes(geojson)))).toMatchObject([
    { name: "P", latDeg: 1, lonDeg: 2, said: { people: 3 } },
    { name: "Q", latDeg: expect.closeTo(0.8, 6) },
  ]);
  const kml = `<?xml version="1.0"?><kml xmlns="http://www.opengis.net/kml/2.2"><Document><Placemark><name>Alto</name>
    <ExtendedData><Data name="height"><value>9</value></Data></ExtendedData><Point><coordinates>20.25,-1.5,40</coordinates></Point></Placemark></Document></kml>`;
  const alto = { name: "Alto", latDeg: -1.5, lonDeg: 20.25, said: { height: 9 } };
  expect(placesOf(readTable(bytes(kml)))).toMatchObject([alto]);
  const kmz = zipFiles(new Map([["doc.kml", bytes(kml)]]), () => false);
  expect(placesOf(readTable(kmz))).toMatchObject([alto]);
  const gpx = `<gpx version="1.1" creator="t" xmlns="http://www.topografix.com/GPX/1/1"><wpt lat="-1.5" lon="20.25"><name>Alto</name><desc>by the well</desc></wpt></gpx>`;
  expect(placesOf(readTable(bytes(gpx)))).toMatchObject([
    { name: "Alto", latDeg: -1.5, said: { notes: "by the well" } },
  ]);
});

test("pasted rows need no header", () => {
  expect(placesOf(readPasted("Casa Nueva; -37.61 -30.21\nCasa Vieja; -37.62 -30.22"))).toMatchObject([
    { row: 1, name: "Casa Nueva", latDeg: -37.61 },
    { row: 2, name: "Casa Vieja", lonDeg: -30.22 },
  ]);
  expect(placesOf(readPasted("name\tlat\tlon\nCasa\t1\t2"))).toHaveLength(1);
});

test("a rejected row names every field with its value and what would do", () => {
  const [row] = interpret(
    readTable(bytes("kind,name,lat,lon,height,maxHeight,people,mount\nhill,,95,20,12,9,1.5,tree\n")),
  );
  expect(row!.place).toBeNull();
  expect(row!.errors.map(({ field, value, reason }) => `${field} "${value}" ${reason}`)).toEqual([
    'kind "hill" must be site or subscriber',
    'name "" is empty',
    'lat "95" is not a latitude between −90 and 90°',
    'mount "tree" must be one of roof, pole, wall, window',
    'people "1.5" must be a whole number',
    'height "12" is above the 9 m that the structure offers',
  ]);
});

test("files that are no places are refused by what is wrong with them", () => {
  const refused: [Uint8Array, RegExp][] = [
    [bytes(""), /holds no rows/],
    [bytes("{ not json"), /is no JSON/],
    [bytes('{"type":"Topology"}'), /of type "Topology"/],
    [bytes("<html></html>"), /<html>; kml and gpx are read/],
    [bytes("<kml><Document></kml>"), /XML is broken/],
    [
      bytes('<!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]><kml>&b;</kml>'),
      /declares a document type or entities/,
    ],
    [bytes("a\0b"), /byte 1 is zero/],
    [zipFiles(new Map([["x.txt", bytes("hello")]]), () => false), /no \.kml/],
    [zipFiles(new Map([["../doc.kml", bytes("x")]]), () => false), /points outside of it/],
  ];
  for (const [file, message] of refused) {
    expect(() => readTable(file)).toThrow(PlacesFileError);
    expect(() => readTable(file)).toThrow(message);
  }
});

test("an archive that unpacks past its bound, however small it is, ends there", () => {
  const bomb = zipFiles(new Map([["doc.kml", new Uint8Array(4e6)]]), () => false);
  expect(bomb.length).toBeLessThan(8000);
  expect(() => unzipWithin(bomb, { totalBytes: 1e6, entries: 5 })).toThrow("unpacks to more than 1000000 bytes");
  expect(() => unzipWithin(bomb, { totalBytes: 1e7, entries: 0 })).toThrow("more than 0 entries");
  expect(() => unzipWithin(bomb.subarray(0, 2000), { totalBytes: 1e7, entries: 5 })).toThrow();
  expect(unzipWithin(bomb, { totalBytes: 1e7, entries: 5 }).get("doc.kml")).toHaveLength(4e6);
});

test("numbers are read as people write them", () => {
  const read: [string, boolean, number][] = [
    ["1,234", false, 1234],
    ["1,234", true, 1.234],
    ["1.234,5", true, 1234.5],
    ["1,234.5", false, 1234.5],
    ["−12,5", true, -12.5],
    ["1e3", false, 1000],
    ["12 345.6", false, 12345.6],
  ];
  for (const [text, comma, value] of read) expect([text, parseNumber(text, comma)]).toEqual([text, value]);
  for (const text of ["", "x", "1.2.3", "--1", "0x10"]) expect(parseNumber(text, false)).toBeNaN();
});

test("a file imported twice changes nothing; neighbours and second names wait to be chosen", () => {
  const plan = valley().rows.plan;
  const file = "name,lat,lon\nUno,1,2\nDos,1.1,2\nuno,1.2,2\nTres,1.10001,2\nCuatro,1.3,2\n";
  const places = placesOf(readTable(bytes(file)));
  let count = 0;
  const makeId = () => `id-${count++}`;
  const rows = emptyRows(plan);
  const first = placeVerdicts(worldOf(rows), places, 5, makeId);
  expect(first.map(({ verdict, note }) => `${verdict} ${note}`.trim())).toEqual([
    "new",
    "new",
    "duplicate the name stands in row 2 already",
    "duplicate within 5 m of row 3",
    "new",
  ]);
  for (const { verdict, patch } of first)
    if (verdict === "new") rows.subscribers.push((patch as Extract<Patch, { kind: "subscribers" }>).put!);
  const again = placeVerdicts(worldOf(rows), places, 5, makeId);
  expect(again.map(({ verdict }) => verdict)).toEqual(["same", "same", "duplicate", "duplicate", "same"]);
  const moved = placeVerdicts(worldOf(rows), [{ ...places[0]!, latDeg: 1.5, said: { people: 7 } }], 5, makeId);
  expect(moved).toMatchObject([{ verdict: "changed", note: "people, latitude", patch: { id: "id-0" } }]);
});

test("spreadsheet cells that begin like formulas are made harmless and come back as they were", () => {
  const nasty = ["=1+1", "+cmd", "-2+3", "@SUM(A1)", "'=x", "\tx", "-5", "plain", "'quoted"];
  const csv = writeCsv(
    ["name", "lat", "lon", "notes"],
    nasty.map((text, i) => [`N${i}`, 1 + i, 2, text]),
  );
  for (const line of csv.split("\r\n").slice(1)) expect(line).not.toMatch(/,"?[=@\t]|,"?[+-](?!\d+$)/);
  const back = placesOf(readTable(bytes(csv))).map(({ said }) => said.notes);
  expect(back).toEqual(nasty.map((text) => (text === "\tx" ? "x" : text)));
});
