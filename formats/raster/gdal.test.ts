import { execFileSync, spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { groundAt, tiledSurface, type TerrainTile } from "#core/terrain";
import { heightWriter, layerFrame, layerTiles, openRaster, writeGeotiff } from "#formats/raster";

const installed = spawnSync("gdal_translate", ["--version"]).status === 0;
const folder = mkdtempSync(join(tmpdir(), "tejado-gdal-"));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const at = (name: string) => join(folder, name);
const run = (command: string, ...args: string[]) =>
  execFileSync(command, args, { encoding: "utf8", stdio: ["ignore", "pipe", "pipe"] });

/** A smooth hill, so that every resampling gives nearly the same heights. */
const height = (column: number, row: number) => 300 + 200 * Math.sin(column / 40) * Math.cos(row / 50);
const FRAME = { westDeg: 10, northDeg: 45.2, cellLonDeg: 0.0005, cellLatDeg: 0.0005, columns: 400, rows: 400 };
const PLACES = [
  [45.1, 10.1],
  [45.0503, 10.1504],
  [45.1212, 10.0345],
] as const;

(installed ? describe : describe.skip)("rasters of gdal-bin", () => {
  beforeAll(() => writeFileSync(at("base.tif"), writeGeotiff(FRAME, height)));

  const VARIANTS: [name: string, toleranceM: number, command: string, args: string[]][] = [
    ["plain strips", 0.05, "gdal_translate", []],
    ["deflate in tiles", 0.05, "gdal_translate", ["-co", "COMPRESS=DEFLATE", "-co", "TILED=YES"]],
    [
      "deflate, float predictor",
      0.05,
      "gdal_translate",
      [
        "-co",
        "COMPRESS=DEFLATE",
        "-co",
        "PREDICTOR=3",
        "-co",
        "TILED=YES",
        "-co",
        "BLOCKXSIZE=64",
        "-co",
        "BLOCKYSIZE=64",
      ],
    ],
    [
      "LZW int16, difference predictor",
      0.6,
      "gdal_translate",
      ["-ot", "Int16", "-co", "COMPRESS=LZW", "-co", "PREDICTOR=2"],
    ],
    ["uint16 packbits", 0.6, "gdal_translate", ["-ot", "UInt16", "-co", "COMPRESS=PACKBITS"]],
    [
      "double, BigTIFF, big-endian",
      0.05,
      "gdal_translate",
      ["-ot", "Float64", "-co", "BIGTIFF=YES", "-co", "ENDIANNESS=BIG"],
    ],
    ["pixel is point", 0.05, "gdal_translate", ["-mo", "AREA_OR_POINT=Point"]],
    ["UTM", 0.6, "gdalwarp", ["-t_srs", "EPSG:32632", "-r", "bilinear", "-dstnodata", "-9999"]],
    [
      "web Mercator, tiles",
      0.6,
      "gdalwarp",
      ["-t_srs", "EPSG:3857", "-r", "cubic", "-dstnodata", "-9999", "-co", "TILED=YES", "-co", "COMPRESS=LZW"],
    ],
    ["ETRS89 equal area", 1, "gdalwarp", ["-t_srs", "EPSG:3035", "-r", "bilinear", "-dstnodata", "-9999"]],
    ["NAD83 degrees", 0.6, "gdalwarp", ["-t_srs", "EPSG:4269", "-r", "bilinear"]],
  ];
  test.each(VARIANTS)("%s", async (_, toleranceM, command, args) => {
    run(command, "-q", ...(command === "gdalwarp" ? ["-overwrite"] : []), ...args, at("base.tif"), at("variant.tif"));
    const source = await openRaster(at("variant.tif"), "variant.tif");
    const frame = layerFrame(source);
    const tiles = new Map<number, TerrainTile>();
    for await (const { index, tile } of layerTiles(source, frame, heightWriter)) tiles.set(index, tile);
    await source.close();
    const surface = tiledSurface(frame, tiles);
    for (const [lat, lon] of PLACES) {
      const column = (lon - FRAME.westDeg) / FRAME.cellLonDeg - 0.5;
      const row = (FRAME.northDeg - lat) / FRAME.cellLatDeg - 0.5;
      expect(Math.abs(groundAt(surface, lat, lon) - height(column, row))).toBeLessThan(toleranceM);
    }
  });

  test("gdalinfo accepts our GeoTIFF: place, size, no-data and heights", () => {
    const info = JSON.parse(run("gdalinfo", "-json", "-stats", at("base.tif"))) as {
      size: number[];
      geoTransform: number[];
      coordinateSystem: { wkt: string };
      bands: { noDataValue: number; type: string; maximum: number }[];
    };
    expect(info.size).toEqual([400, 400]);
    expect(info.geoTransform).toEqual([10, 0.0005, 0, 45.2, 0, -0.0005]);
    expect(info.coordinateSystem.wkt).toContain('ID["EPSG",4326]');
    expect(info.bands[0]).toMatchObject({ noDataValue: -9999, type: "Float32", maximum: expect.closeTo(500, 0) });
  });

  test("gdal's ASCII grid and SRTM tile are read", async () => {
    run("gdal_translate", "-q", "-of", "AAIGrid", at("base.tif"), at("base.asc"));
    const grid = await openRaster(at("base.asc"), "base.asc");
    expect([grid.columns, grid.rows, grid.west]).toEqual([400, 400, expect.closeTo(10, 6)]);
    run(
      "gdalwarp",
      "-q",
      "-te",
      "9.99958333",
      "44.99958333",
      "11.00041667",
      "46.00041667",
      "-ts",
      "1201",
      "1201",
      "-ot",
      "Int16",
      "-dstnodata",
      "-32768",
      at("base.tif"),
      at("srtm.tif"),
    );
    run("gdal_translate", "-q", "-of", "SRTMHGT", at("srtm.tif"), at("N45E010.hgt"));
    const hgt = await openRaster(at("N45E010.hgt"), "N45E010.hgt");
    const rows = await hgt.readRows(1080, 1);
    expect(rows[120]).toBeGreaterThan(250);
    await hgt.close();
  });
});
