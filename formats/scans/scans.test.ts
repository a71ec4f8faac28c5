import { expect, test } from "@jest/globals";
import { JpegError, stripJpeg } from "#formats/jpeg";
import { readScans, type ScanDefaults } from "#formats/scans";
import { outlineProperties, readAreas, readFeatures, readOverlay } from "#formats/shapes";

const DEFAULTS: ScanDefaults = {
  planId: "valley",
  siteId: "west",
  headingDeg: 90,
  beamwidthDeg: 60,
  gainDbi: 12,
  polarization: "V",
  scannedAt: "2026-03-01T10:00:00.000Z",
  source: "test",
  binKHz: 1000,
};
let count = 0;
const makeId = () => `id-${count++}`;
const read = (text: string) => readScans(new TextEncoder().encode(text), DEFAULTS, new Map([["east", "east"]]), makeId);

test("a scan is read from bare numbers or from columns, one for each site, heading, polarization and time", () => {
  expect(read("5520;-78,5\n5500;-92,0\n").scans).toMatchObject([
    { siteId: "west", headingDeg: 90, frequenciesMHz: [5500, 5520], levelsDbm: [-92, -78.5] },
  ]);
  const { scans, errors } = read(
    "Freq MHz,dBm,Site,Heading,Pol,Time\n5500,-90,east,10,H,2026-03-02T10:00:00Z\n5500,-91,east,10,V,2026-03-02T10:00:00Z\n5520,-80,east,10,H,2026-03-02T10:00:00Z\n",
  );
  expect(errors).toEqual([]);
  expect(scans.map(({ siteId, polarization, levelsDbm }) => [siteId, polarization, levelsDbm])).toEqual([
    ["east", "H", [-90, -80]],
    ["east", "V", [-91]],
  ]);
});

test("rows that cannot be read are named, the others come through", () => {
  const { scans, errors } = read(
    "frequency,level,site,heading,polarization,time\n5500,-90,,,,\nx,-900,nowhere,999,Q,never\n",
  );
  expect(scans).toHaveLength(1);
  expect(errors.map(({ row, field }) => `${row} ${field}`)).toEqual([
    "3 frequency",
    "3 level",
    "3 heading",
    "3 site",
    "3 polarization",
    "3 time",
  ]);
  expect(read("a,b\nc,d\n").errors[0]!.reason).toBe("has no column for frequency and level");
});

const SQUARE = [
  [
    [0, 0],
    [0.001, 0],
    [0.001, 0.001],
    [0, 0.001],
    [0, 0],
  ],
];
const feature = (properties: object, geometry: object | null) => ({ type: "Feature", properties, geometry });

test("outlines take their height from a property, and what is no outline is named", () => {
  const file = {
    type: "FeatureCollection",
    features: [
      feature({ name: "Barn", height: "12 m" }, { type: "Polygon", coordinates: SQUARE }),
      feature({}, { type: "MultiPolygon", coordinates: [SQUARE, SQUARE] }),
      feature({}, { type: "Point", coordinates: [1, 2] }),
      feature({ height: 900 }, { type: "Polygon", coordinates: SQUARE }),
      feature(
        {},
        {
          type: "Polygon",
          coordinates: [
            [
              [0, 0],
              [500, 0],
              [0, 1],
              [0, 0],
            ],
          ],
        },
      ),
    ],
  };
  const features = readFeatures(new TextEncoder().encode(JSON.stringify(file)));
  expect(outlineProperties(features)).toEqual(["height", "name"]);
  const options = { planId: "valley", kind: "building" as const, heightProperty: "height", heightM: 6, density: 1 };
  const { areas, errors } = readAreas(features, options, makeId);
  expect(areas.map(({ name, heightM }) => [name, heightM])).toEqual([
    ["Barn", 12],
    ["", 6],
    ["", 6],
  ]);
  expect(errors.map(({ row, field, value }) => [row, field, value])).toEqual([
    [3, "geometry", "Point"],
    [4, "height", "900"],
    [5, "rings.0.1.0", "500"],
  ]);
});

test("an overlay keeps its shapes and names alone", () => {
  const features = readFeatures(
    new TextEncoder().encode(
      JSON.stringify(
        feature(
          { name: "Fibre", secret: "x" },
          {
            type: "LineString",
            coordinates: [
              [1.23456789, 2],
              [3, 4],
            ],
          },
        ),
      ),
    ),
  );
  expect(JSON.parse(readOverlay(features))).toEqual({
    type: "FeatureCollection",
    features: [
      feature(
        { name: "Fibre" },
        {
          type: "LineString",
          coordinates: [
            [1.234568, 2],
            [3, 4],
          ],
        },
      ),
    ],
  });
  const far = readFeatures(
    new TextEncoder().encode(JSON.stringify(feature({}, { type: "Point", coordinates: [200, 2] }))),
  );
  expect(() => readOverlay(far)).toThrow("feature 1: position 200, 2");
});

test("a photograph loses what its camera wrote into it, and nothing else", () => {
  const segment = (marker: number, text: string) => [
    0xff,
    marker,
    0,
    text.length + 2,
    ...new TextEncoder().encode(text),
  ];
  const start = [0xff, 0xd8, ...segment(0xe0, "JFIF")];
  const picture = [...segment(0xdb, "table"), 0xff, 0xda, 0, 2, 1, 2, 3, 0xff, 0xd9];
  const file = new Uint8Array([...start, ...segment(0xe1, "Exif GPS 37.6 S"), ...segment(0xfe, "comment"), ...picture]);
  expect([...stripJpeg(file)]).toEqual([...start, ...picture]);
  expect(() => stripJpeg(new Uint8Array([1, 2]))).toThrow(JpegError);
  expect(() => stripJpeg(file.subarray(0, 20))).toThrow(/byte \d+/);
});
