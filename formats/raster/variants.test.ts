import { execFileSync, spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, statSync, truncateSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { groundAt, tiledSurface, type TerrainTile } from "#core/terrain";
import { heightWriter, layerFrame, layerTiles, openRaster, writeGeotiff } from "#formats/raster";

const installed = spawnSync("gdal_translate", ["--version"]).status === 0;
const folder = mkdtempSync(join(tmpdir(), "tejado-variants-"));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const at = (name: string) => join(folder, name);
const run = (command: string, ...args: string[]) =>
  execFileSync(command, args, { encoding: "utf8", stdio: ["ignore", "pipe", "pipe"] });

const FRAME = { westDeg: 2.3, northDeg: 48.9, cellLonDeg: 0.0005, cellLatDeg: 0.0005, columns: 300, rows: 260 };
/** Whole metres that differ everywhere, none of them near 0. */
const height = (column: number, row: number) => 250 + Math.round(120 * Math.sin(column / 31) * Math.cos(row / 27));
const PLACES = [
  [48.84, 2.37],
  [48.8103, 2.4101],
  [48.8812, 2.3345],
] as const;

/** Our heights at the places, read as an import reads them. */
async function ours(path: string, east = 0, north = 0): Promise<number[]> {
  const source = await openRaster(path, "variant.tif");
  try {
    const frame = layerFrame(source);
    const tiles = new Map<number, TerrainTile>();
    for await (const { index, tile } of layerTiles(source, frame, heightWriter)) tiles.set(index, tile);
    const surface = tiledSurface(frame, tiles);
    return PLACES.map(([lat, lon]) => groundAt(surface, lat + north, lon + east));
  } finally {
    await source.close();
  }
}

/** The same through gdal: the values as the file stores them, in the nearest cell. */
function theirs(path: string, east = 0, north = 0): number[] {
  return PLACES.map(([lat, lon]) =>
    Number(run("gdallocationinfo", "-valonly", "-wgs84", path, String(lon + east), String(lat + north)).trim()),
  );
}

(installed ? describe : describe.skip)("GeoTIFFs that other programs write", () => {
  beforeAll(() => writeFileSync(at("base.tif"), writeGeotiff(FRAME, height)));
  const translate = (...args: string[]) => run("gdal_translate", "-q", ...args, at("base.tif"), at("variant.tif"));

  const COMPRESSIONS = ["NONE", "DEFLATE", "LZW", "ZSTD", "PACKBITS"];
  const TYPES: [type: string, predictors: string[]][] = [
    ["Int16", ["1", "2"]],
    ["Int32", ["1", "2"]],
    ["Float32", ["1", "3"]],
    ["Float64", ["1"]],
  ];
  const readable = COMPRESSIONS.flatMap((compression) =>
    TYPES.flatMap(([type, predictors]) =>
      predictors
        .filter((predictor) => predictor === "1" || ["DEFLATE", "LZW", "ZSTD"].includes(compression))
        .flatMap((predictor) =>
          (predictor === "3" ? ["LITTLE"] : ["LITTLE", "BIG"]).map(
            (order) => [compression, type, predictor, order] as const,
          ),
        ),
    ),
  );
  test.each(readable)("%s, %s, predictor %s, %s-endian is read right", async (compression, type, predictor, order) => {
    translate(
      "-ot",
      type,
      "-co",
      `COMPRESS=${compression}`,
      "-co",
      `ENDIANNESS=${order}`,
      ...(predictor === "1" ? [] : ["-co", `PREDICTOR=${predictor}`]),
    );
    const found = await ours(at("variant.tif"));
    theirs(at("variant.tif")).forEach((value, i) => expect(Math.abs(found[i]! - value)).toBeLessThan(8));
    PLACES.forEach(([lat, lon], i) => {
      const column = (lon - FRAME.westDeg) / FRAME.cellLonDeg - 0.5;
      const row = (FRAME.northDeg - lat) / FRAME.cellLatDeg - 0.5;
      expect(Math.abs(found[i]! - (250 + 120 * Math.sin(column / 31) * Math.cos(row / 27)))).toBeLessThan(1);
    });
  });

  test.each([
    ["projected in France", "EPSG:2154"],
    ["projected in Britain, by a published shift", "EPSG:27700", -3.8, 3.5],
    ["projected in the Netherlands", "EPSG:28992", 3, 3.4],
    ["projected in Switzerland", "EPSG:2056", 5.2, -1.9],
    ["projected in Austria", "EPSG:31287", 11, -1.3],
    [
      "a cone of its own keys",
      "+proj=lcc +lat_1=48 +lat_2=50 +lat_0=49 +lon_0=2 +x_0=1000 +y_0=2000 +ellps=GRS80 +towgs84=0,0,0 +units=m",
    ],
    [
      "a cylinder of its own keys in feet",
      "+proj=tmerc +lat_0=48 +lon_0=2.5 +k=0.9999 +x_0=500000 +y_0=0 +datum=WGS84 +units=us-ft",
    ],
    ["equal area of its own keys", "+proj=aea +lat_1=47 +lat_2=51 +lat_0=49 +lon_0=3 +datum=WGS84 +units=m"],
  ] as [name: string, system: string, east?: number, north?: number][])(
    "%s is read where it lies",
    async (_, system, east = 0, north = 0) => {
      const frame = { ...FRAME, westDeg: FRAME.westDeg + east, northDeg: FRAME.northDeg + north };
      writeFileSync(at("here.tif"), writeGeotiff(frame, height));
      const warp = ["-q", "-overwrite", "-t_srs", system, "-r", "bilinear", "-dstnodata", "-9999"];
      run("gdalwarp", ...warp, at("here.tif"), at("variant.tif"));
      const found = await ours(at("variant.tif"), east, north);
      // Heights change by up to 5 m from one cell of 50 m to the next: 3 m is about half a cell.
      theirs(at("here.tif"), east, north).forEach((value, i) =>
        expect([i, Math.abs(found[i]! - value) < 4]).toEqual([i, true]),
      );
    },
  );

  test("what would be read wrong is refused by name", async () => {
    translate("-ot", "Float32", "-co", "COMPRESS=DEFLATE", "-co", "PREDICTOR=3", "-co", "ENDIANNESS=BIG");
    await expect(ours(at("variant.tif"))).rejects.toThrow("big-endian with the floating-point predictor");
    run("gdalwarp", "-q", "-overwrite", "-t_srs", "EPSG:31370", at("base.tif"), at("variant.tif"));
    await expect(ours(at("variant.tif"))).rejects.toThrow("the datum of EPSG:31370 cannot be brought to WGS 84");
  });

  test("scale and offset are counted in", async () => {
    translate("-a_scale", "0.1", "-a_offset", "100", "-ot", "Int16");
    const found = await ours(at("variant.tif"));
    theirs(at("base.tif")).forEach((value, i) => expect(Math.abs(found[i]! - (value * 0.1 + 100))).toBeLessThan(1));
  });

  test("heights in feet become metres, and an unknown unit is refused by name", async () => {
    translate("-ot", "Float32");
    run("gdal_edit.py", "-units", "ft", at("variant.tif"));
    const feet = await ours(at("variant.tif"));
    theirs(at("base.tif")).forEach((value, i) => expect(Math.abs(feet[i]! - value * 0.3048)).toBeLessThan(2));
    translate("-ot", "Float32", "-a_srs", "EPSG:4326+8228");
    const bySystem = await ours(at("variant.tif"));
    theirs(at("base.tif")).forEach((value, i) => expect(Math.abs(bySystem[i]! - value * 0.3048)).toBeLessThan(2));
    translate("-ot", "Float32");
    run("gdal_edit.py", "-units", "fathom", at("variant.tif"));
    await expect(ours(at("variant.tif"))).rejects.toThrow('the heights are in "fathom"');
  });

  test("masked cells are holes, and blocks that were left out too", async () => {
    const holes = { ...FRAME };
    writeFileSync(
      at("holed.tif"),
      writeGeotiff(holes, (column, row) => (column > 130 && column < 160 ? NaN : height(column, row))),
    );
    run(
      "gdal_translate",
      "-q",
      "--config",
      "GDAL_TIFF_INTERNAL_MASK",
      "YES",
      "-mask",
      "mask",
      "-a_nodata",
      "none",
      at("holed.tif"),
      at("masked.tif"),
    );
    const source = await openRaster(at("masked.tif"), "masked.tif");
    expect(source.found).toContain("with a mask");
    const row = await source.readRows(100, 1);
    expect([...row.subarray(131, 160)].every(Number.isNaN)).toBe(true);
    expect(row[120]).toBe(height(120, 100));
    await source.close();
    run(
      "gdal_create",
      "-q",
      "-of",
      "GTiff",
      "-ot",
      "Float32",
      "-outsize",
      "300",
      "260",
      "-co",
      "TILED=YES",
      "-co",
      "SPARSE_OK=TRUE",
      "-a_srs",
      "EPSG:4326",
      "-a_ullr",
      "2.3",
      "48.9",
      "2.45",
      "48.77",
      at("sparse.tif"),
    );
    const sparse = await openRaster(at("sparse.tif"), "sparse.tif");
    expect([...(await sparse.readRows(0, 260))].every(Number.isNaN)).toBe(true);
    await sparse.close();
  });

  test("a raster that runs from south to north is turned over, a turned one is refused", async () => {
    run(
      "gdalwarp",
      "-q",
      "-overwrite",
      "-r",
      "near",
      "-te",
      "2.3",
      "48.77",
      "2.45",
      "48.9",
      at("base.tif"),
      at("up.vrt"),
    );
    run("gdal_translate", "-q", "-co", "COMPRESS=LZW", at("base.tif"), at("southup.tif"));
    run("gdal_edit.py", "-a_ullr", "2.3", "48.77", "2.45", "48.9", at("southup.tif"));
    const found = await ours(at("southup.tif"));
    theirs(at("southup.tif")).forEach((value, i) => expect(Math.abs(found[i]! - value)).toBeLessThan(8));
    const source = await openRaster(at("southup.tif"), "southup.tif");
    expect(source.found).toContain("south-up");
    const [top] = await source.readRows(0, 1);
    expect(top).toBe(height(0, 259));
    const [all] = [await source.readRows(40, 180)];
    for (const row of [0, 60, 179]) expect(all[row * 300 + 7]).toBe(height(7, 259 - 40 - row));
    await source.close();
  });
});

test("a file cut off anywhere is refused by the strip that lies beyond its end, never filled with sea level", async () => {
  const whole = writeGeotiff(FRAME, height);
  writeFileSync(at("whole.tif"), whole);
  expect((await ours(at("whole.tif"))).every((value) => value > 100)).toBe(true);
  for (const share of [0.3, 0.6, 0.95, 0.999]) {
    writeFileSync(at("cut.tif"), whole);
    truncateSync(at("cut.tif"), Math.floor(statSync(at("cut.tif")).size * share));
    await expect(ours(at("cut.tif"))).rejects.toThrow(
      /strip \d+ of \d+ lies at bytes .* cut off or damaged|the file ends before|the file has/,
    );
  }
  expect(readFileSync(at("whole.tif")).length).toBe(whole.length);
});
