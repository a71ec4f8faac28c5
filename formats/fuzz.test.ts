import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, expect, test } from "@jest/globals";
import { antennaModelSchema } from "#core/antenna";
import { emptyRows, partSchema } from "#core/plan";
import { valley } from "#core/testing";
import { FAMILIES } from "#core/procedures";
import { AudioError, audioType } from "#formats/audio";
import { ArchiveError, readBesideFiles, readRowFiles, rowFiles } from "#formats/archive";
import { siteThing, writeThings } from "#formats/export";
import { IperfError, readIperf } from "#formats/iperf";
import { JpegError, stripJpeg } from "#formats/jpeg";
import {
  readAntennaCsv,
  readPartsCsv,
  readProcedureJson,
  readRadioJson,
  writeAntennaCsv,
  writePartsCsv,
  writeProcedureJson,
  writeRadioJson,
} from "#formats/kit";
import { guessMapping, interpretRows, PlacesFileError, readTable } from "#formats/places";
import { heightWriter, layerFrame, layerTiles, openRaster, RasterError, writeGeotiff } from "#formats/raster";
import { PingError, readPing } from "#formats/ping";
import { readSamples, SamplesError } from "#formats/samples";
import { FileRefused } from "#formats/refused";
import { readScans } from "#formats/scans";
import { readAreas, readFeatures, readOverlay } from "#formats/shapes";
import { unpackTo, unzipWithin, zipFiles, ZipRefused } from "#formats/zip";

/** Mutated files over all readers together; each is read within this time or is a failure. */
const RUNS = 5000;
const LONGEST_MS = 5000;

const folder = mkdtempSync(join(tmpdir(), "tejado-fuzz-"));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** The same numbers every time. */
function seeded(seed: number): (below: number) => number {
  let state = seed;
  return (below) => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return Math.floor((state / 4294967296) * below);
  };
}

/** What no person is told: words of the language, of libraries, and of what is not there. */
const UNCLEAR =
  /undefined|\[object|\bNaN\b|Unexpected|Invalid |not a function|Cannot |not iterable|JSON\.parse|TypeError|RangeError|Offset |buffer/;

/** A refusal begins with where it was met: a byte, line, row or field, a file of an archive, or what the file as a whole is. */
const PLACE =
  /^(byte|line|rows?|position|feature|field|sample|tile|strip|column) |^(the|a|what) |^"|^[\w./-]+\.(json|csv|tif|jpg)\b|^(start|intervals|end)\b|^\d+ samples/;

const SPLICED = [
  "\0",
  "9".repeat(40),
  "-",
  ",,,",
  '"',
  "NaN",
  "1e308",
  "<",
  "]]>",
  "{",
  "\r\n",
  "\uFEFF",
  "=cmd",
  "../",
];

/** A file with bytes changed, dropped, doubled, or foreign text put in. */
function mutate(source: Uint8Array, random: (below: number) => number): Uint8Array {
  let bytes = [...source];
  for (let change = 1 + random(5); change > 0; change--) {
    const at = random(Math.max(1, bytes.length));
    const way = random(6);
    if (way === 0) bytes[at] = random(256);
    else if (way === 1) bytes.splice(at, 1 + random(20));
    else if (way === 2) bytes.splice(at, 0, ...bytes.slice(at, at + random(40)));
    else if (way === 3) bytes.splice(at, 0, ...new TextEncoder().encode(SPLICED[random(SPLICED.length)]));
    else if (way === 4) bytes = bytes.slice(0, at);
    else for (let i = 0; i < 4; i++) bytes[at + i] = 0xff;
  }
  return Uint8Array.from(bytes);
}

async function readRaster(bytes: Uint8Array, name: string): Promise<void> {
  const path = join(folder, "raster");
  writeFileSync(path, bytes);
  const source = await openRaster(path, name);
  try {
    const frame = layerFrame(source);
    let tiles = 0;
    for await (const { tile } of layerTiles(source, frame, heightWriter)) {
      expect(tile.groundAmslM).toHaveLength(128 * 128);
      if (++tiles >= 4) break;
    }
  } finally {
    await source.close();
  }
}

const text = (value: string) => new TextEncoder().encode(value);
const { rows } = valley();
const things = rows.sites.map(siteThing);
const someAntenna = rows.equipment.flatMap((item) => (item.kind === "antenna" ? [item.body] : []))[0]!;
const someRadio = rows.equipment.flatMap((item) => (item.kind === "radio" ? [item.body] : []))[0]!;
const someParts = rows.equipment.flatMap((item) => (item.kind === "part" ? [item.body] : [])).slice(0, 4);
const frame = { westDeg: 10, northDeg: 2, cellLonDeg: 0.01, cellLatDeg: 0.01, columns: 20, rows: 15 };
const polygon = JSON.stringify({
  type: "Feature",
  properties: { height: 7 },
  geometry: {
    type: "Polygon",
    coordinates: [
      [
        [0, 0],
        [1, 0],
        [1, 1],
        [0, 0],
      ],
    ],
  },
});
const archive = rowFiles({ ...emptyRows(rows.plan), sites: rows.sites, radios: rows.radios, links: rows.links });
const packed = zipFiles(archive, () => false);
const scan = {
  planId: "p",
  siteId: "s",
  headingDeg: 0,
  beamwidthDeg: 60,
  gainDbi: 0,
  polarization: "V" as const,
  scannedAt: "2026-01-01T00:00:00Z",
  source: "",
  binKHz: 1000,
};

/** A file that is right, what reads it, and the only ways in which that may fail. */
const READERS: [
  name: string,
  source: Uint8Array,
  read: (bytes: Uint8Array) => unknown,
  refuses: (new (...args: never[]) => FileRefused)[],
][] = [
  ...(["csv", "geojson", "kml", "gpx"] as const).map((format): (typeof READERS)[number] => [
    format,
    text(writeThings(things, format)),
    (bytes) => {
      const table = readTable(bytes);
      const found = interpretRows(table, {
        mapping: guessMapping(table.columns),
        defaultKind: "site",
        defaultZone: "",
      });
      for (const { place, errors } of found) {
        expect(place !== null || errors.length > 0).toBe(true);
        if (place) expect(Math.abs(place.latDeg)).toBeLessThanOrEqual(90);
      }
    },
    [PlacesFileError],
  ]),
  [
    "kmz",
    zipFiles(new Map([["doc.kml", text(writeThings(things, "kml"))]]), () => false),
    readTable,
    [PlacesFileError],
  ],
  ["geotiff", writeGeotiff(frame, (x, y) => x + y), (bytes) => readRaster(bytes, "a.tif"), [RasterError]],
  [
    "ascii grid",
    text("ncols 3\nnrows 2\nxllcorner 10\nyllcorner -2\ncellsize 0.5\n1 2 3\n4 5 6.5\n"),
    (bytes) => readRaster(bytes, "a.asc"),
    [RasterError],
  ],
  [
    "zipped hgt",
    zipFiles(new Map([["S38W031.hgt", new Uint8Array(1201 * 1201 * 2)]]), () => false),
    (bytes) => readRaster(bytes, "S38W031.hgt.zip"),
    [RasterError],
  ],
  [
    "scan",
    text("frequency,level,heading\n5500,-90,0\n5520,-80,0\n"),
    (bytes) => readScans(bytes, scan, new Map(), () => "id"),
    [],
  ],
  [
    "outlines",
    text(polygon),
    (bytes) => {
      const features = readFeatures(bytes);
      readAreas(features, { planId: "p", kind: "wood", heightProperty: "height", heightM: 5, density: 1 }, () => "id");
      readOverlay(features);
    },
    [PlacesFileError],
  ],
  [
    "antenna table",
    text(writeAntennaCsv(someAntenna)),
    (bytes) => {
      const { item, errors } = readAntennaCsv(bytes, () => "id");
      expect(item !== null || errors.length > 0).toBe(true);
      if (item) expect(antennaModelSchema.safeParse(item).success).toBe(true);
    },
    [],
  ],
  [
    "table of parts",
    text(writePartsCsv(someParts)),
    (bytes) => {
      const { item, errors } = readPartsCsv(bytes, () => "id");
      expect(item !== null || errors.length > 0).toBe(true);
      for (const part of item ?? []) expect(partSchema.safeParse(part).success).toBe(true);
    },
    [],
  ],
  [
    "radio file",
    text(writeRadioJson([someRadio])),
    (bytes) => {
      const { item, errors } = readRadioJson(bytes);
      expect(item !== null || errors.length > 0).toBe(true);
    },
    [],
  ],
  [
    "procedures",
    text(writeProcedureJson(FAMILIES.slice(0, 2))),
    (bytes) => {
      const { item, errors } = readProcedureJson(bytes);
      expect(item !== null || errors.length > 0).toBe(true);
      for (const { reason } of errors) expect(reason).not.toMatch(UNCLEAR);
    },
    [],
  ],
  [
    "bench and store",
    text('[{"itemId":"a","inStore":1,"ordered":2,"arrived":0,"packed":0}]'),
    (bytes) => readBesideFiles(new Map([["stock.json", bytes]])),
    [ArchiveError],
  ],
  [
    "crews' notes",
    text(
      '[{"id":"note-0001","visitId":"v","side":"a","kind":"level","key":"azimuth","text":"","value":3,"levelDbm":-61,"isOn":true,"by":"Ana","at":"2026-12-01T08:00:00.000Z"}]',
    ),
    (bytes) => readBesideFiles(new Map([["fieldNotes.json", bytes]])),
    [ArchiveError],
  ],
  [
    "samples",
    text('[{"series":"link-1/a","at":"2026-11-27T08:00:00Z","level0Dbm":-61.5,"noiseDbm":-92}]'),
    (bytes) => readSamples(bytes, false),
    [SamplesError],
  ],
  [
    "samples as CSV",
    text("series,at,level0Dbm,supplyV\nlink-1/a,2026-11-27T08:00:00Z,-61.5,\nradio/r,2026-11-27T08:00:00Z,,24.1\n"),
    (bytes) => readSamples(bytes, true),
    [SamplesError],
  ],
  ["recording", new Uint8Array([0x1a, 0x45, 0xdf, 0xa3, 0x9f, 0x42, 0x86, 0x81]), audioType, [AudioError]],
  [
    "pings",
    text("20 packets transmitted, 19 received, 5% packet loss\nrtt min/avg/max/mdev = 1.903/3.250/9.871/1.4 ms"),
    (bytes) => readPing(new TextDecoder().decode(bytes)),
    [PingError],
  ],
  [
    "throughput",
    text(
      '{"start":{"timestamp":{"timesecs":1795762676},"test_start":{"protocol":"TCP","num_streams":1,"duration":10,"reverse":0}},"intervals":[{"sum":{"bits_per_second":9e7}}],"end":{"sum_received":{"bits_per_second":94000000}}}',
    ),
    readIperf,
    [IperfError],
  ],
  [
    "archive on the disk",
    packed,
    (bytes) => {
      const path = join(folder, "given.zip");
      writeFileSync(path, bytes);
      unpackTo(path, join(folder, "unpacked"), { totalBytes: 50e6, entries: 100, ratio: 40, freeBytes: 1e6 });
    },
    [ZipRefused],
  ],
  [
    "plan archive",
    packed,
    (bytes) => readRowFiles(unzipWithin(bytes, { totalBytes: 50e6, entries: 100 }), "p"),
    [ZipRefused, ArchiveError],
  ],
  [
    "plan rows",
    archive.get("radios.json")!,
    (bytes) => readRowFiles(new Map([...archive, ["radios.json", bytes]]), "p"),
    [ArchiveError],
  ],
  [
    "jpeg",
    new Uint8Array([0xff, 0xd8, 0xff, 0xe1, 0, 6, 1, 2, 3, 4, 0xff, 0xdb, 0, 4, 1, 2, 0xff, 0xda, 0, 2, 9, 9]),
    stripJpeg,
    [JpegError],
  ],
];

test(`${RUNS} mutated files: every one is read or refused with a message, none hangs`, async () => {
  const random = seeded(20261124);
  const slow: string[] = [];
  let refused = 0;
  for (let i = 0; i < RUNS; i++) {
    const [name, source, read, refuses] = READERS[i % READERS.length]!;
    const bytes = mutate(source, random);
    const start = performance.now();
    try {
      await read(bytes);
    } catch (error) {
      refused++;
      const { message, todo } = error as FileRefused;
      const isWhole = PLACE.test(message) && !message.endsWith(".") && /^[A-Z].*\.$/.test(todo);
      if (!refuses.some((kind) => error instanceof kind) || !isWhole || UNCLEAR.test(message))
        throw new Error(`${name}, file ${i}: ${(error as Error).stack}`, { cause: error });
    }
    if (performance.now() - start > LONGEST_MS) slow.push(`${name}, file ${i}`);
  }
  expect(slow).toEqual([]);
  expect(refused).toBeGreaterThan(RUNS / 5);
}, 240_000);
