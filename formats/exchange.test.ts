import { execFileSync, spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, expect, test } from "@jest/globals";
import { valley } from "#core/testing";
import { siteThing, subscriberThing, writeThings, type Thing } from "#formats/export";
import { guessMapping, interpretRows, readTable } from "#formats/places";

const folder = mkdtempSync(join(tmpdir(), "tejado-exchange-"));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const at = (name: string) => join(folder, name);
const has = (command: string, flag = "--version") => spawnSync(command, [flag]).error === undefined;
const run = (command: string, ...args: string[]) =>
  execFileSync(command, args, {
    encoding: "utf8",
    stdio: ["ignore", "pipe", "pipe"],
    env: { ...process.env, HOME: folder },
  });
/** Skips, and says so, where the tool is not installed. */
const testWith = (command: string, flag?: string) => (has(command, flag) ? test : test.skip);

const { rows } = valley();
const things: Thing[] = [
  ...rows.sites.map(siteThing),
  ...rows.subscribers.map((one) =>
    subscriberThing({ ...one, name: 'Farm "Ñ" & sons <x>', notes: "line one\nline two" }),
  ),
  { name: "west – east", note: "bridge", places: [rows.sites[0]!, rows.sites[1]!], values: { kind: "bridge" } },
];
const readBack = (bytes: Uint8Array) => {
  const table = readTable(bytes);
  const found = interpretRows(table, {
    mapping: guessMapping(table.columns),
    defaultKind: "subscriber",
    defaultZone: "",
  });
  return found.flatMap(({ place }) => place ?? []);
};

test("what is exported comes back in: CSV with every value, the others with name and place", () => {
  for (const format of ["csv", "geojson", "kml", "gpx"] as const) {
    const places = readBack(new TextEncoder().encode(writeThings(things.slice(0, 3), format)));
    expect([format, places.map(({ name, latDeg, lonDeg }) => [name, latDeg, lonDeg])]).toEqual([
      format,
      things.slice(0, 3).map(({ name, places: [place] }) => [name, place!.latDeg, place!.lonDeg]),
    ]);
  }
  const [west, , farm] = readBack(new TextEncoder().encode(writeThings(things.slice(0, 3), "csv")));
  expect(west).toMatchObject({ kind: "site", said: { maxHeight: 40, pole: 60, feed: true, feedMbps: 80 } });
  expect(farm).toMatchObject({
    kind: "subscriber",
    said: { height: 8, demandUp: 5, status: "asked", notes: "line one\nline two" },
  });
});

testWith("ogrinfo")("ogrinfo accepts our KML, GPX and GeoJSON and finds every feature", () => {
  for (const [format, layer, count] of [
    ["kml", "", 4],
    ["geojson", "", 4],
    ["gpx", "waypoints", 3],
  ] as const) {
    writeFileSync(at(`out.${format}`), writeThings(things, format));
    const said = run("ogrinfo", "-ro", "-al", "-so", at(`out.${format}`), ...(layer ? [layer] : []));
    const found = [...said.matchAll(/Feature Count: (\d+)/g)].reduce((sum, [, n]) => sum + Number(n), 0);
    expect([format, found]).toEqual([format, count]);
  }
});

testWith("ogr2ogr")("places written by ogr2ogr as KML, GPX and CSV are read", () => {
  writeFileSync(at("in.geojson"), writeThings(things.slice(0, 3), "geojson"));
  for (const [driver, name, args] of [
    ["KML", "ogr.kml", []],
    ["LIBKML", "libkml.kml", []],
    ["GPX", "ogr.gpx", ["-dsco", "GPX_USE_EXTENSIONS=YES", "-lco", "FORCE_GPX_TRACK=NO"]],
    ["CSV", "ogr.csv", ["-lco", "GEOMETRY=AS_XY", "-lco", "SEPARATOR=SEMICOLON"]],
  ] as const) {
    run("ogr2ogr", "-q", "-f", driver, ...args, at(name), at("in.geojson"));
    expect([name, readBack(readFileSync(at(name))).map((place) => place.name)]).toEqual([
      name,
      things.slice(0, 3).map(({ name: one }) => one),
    ]);
  }
});

testWith("gpsbabel", "-V")("gpsbabel accepts our GPX and KML, and its own are read", () => {
  writeFileSync(at("our.gpx"), writeThings(things.slice(0, 3), "gpx"));
  writeFileSync(at("our.kml"), writeThings(things.slice(0, 3), "kml"));
  for (const [from, to] of [
    ["gpx", "kml"],
    ["kml", "gpx"],
  ] as const) {
    run("gpsbabel", "-i", from, "-f", at(`our.${from}`), "-o", to, "-F", at(`babel.${to}`));
    const names = readBack(readFileSync(at(`babel.${to}`))).map(({ name }) => name);
    expect(names).toEqual(expect.arrayContaining(things.slice(0, 3).map(({ name }) => name)));
  }
});

testWith("soffice")(
  "a spreadsheet saved by LibreOffice is read, and ours opens in it with nothing run",
  () => {
    writeFileSync(
      at("sheet.csv"),
      writeThings([{ ...things[2]!, values: { ...things[2]!.values, notes: "=1+1" } }], "csv"),
    );
    // Filter tokens: separator, quote, character set. 59 is a semicolon, 76 is UTF-8, 1 is Windows-1252.
    run("soffice", "--headless", "--convert-to", "ods", "--infilter=CSV:44,34,76", "--outdir", folder, at("sheet.csv"));
    for (const [filter, encoding] of [
      ["59,34,1", "Windows-1252"],
      ["9,34,76", "UTF-8"],
    ] as const) {
      run(
        "soffice",
        "--headless",
        "--convert-to",
        `csv:Text - txt - csv (StarCalc):${filter}`,
        "--outdir",
        join(folder, "saved"),
        at("sheet.ods"),
      );
      const bytes = readFileSync(join(folder, "saved", "sheet.csv"));
      expect(readTable(bytes).found).toContain(encoding);
      const [place] = readBack(bytes);
      expect(place).toMatchObject({ name: 'Farm "Ñ" & sons <x>', said: { height: 8, notes: "=1+1" } });
    }
  },
  120_000,
);
