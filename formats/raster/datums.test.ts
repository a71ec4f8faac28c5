import { execFileSync, spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, describe, expect, test } from "@jest/globals";
import { groundAt, tiledSurface, type TerrainTile } from "#core/terrain";
import { heightWriter, layerFrame, layerTiles, openRaster, RasterError } from "#formats/raster";
import { crsOf } from "./crs";

const installed = spawnSync("gdal_translate", ["--version"]).status === 0;
const folder = mkdtempSync(join(tmpdir(), "tejado-datums-"));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const at = (name: string) => join(folder, name);
const run = (command: string, ...args: string[]) =>
  execFileSync(command, args, { encoding: "utf8", stdio: ["ignore", "pipe", "pipe"] });

/** A slope of 30 m in each cell of 0.001° to the east and 20 m to the north: what lies beside its place is too high or too low. */
const heightAt = (column: number, row: number) => 200 + 30 * column + 20 * row;
const CELLS = 48;
const CELL_DEG = 0.001;

/** A slope in degrees of some datum, as a grid of text that says nothing of its system. */
function writeSlope(name: string, [west, south]: readonly [number, number]): void {
  const rows = Array.from({ length: CELLS }, (_, row) =>
    Array.from({ length: CELLS }, (_, column) => heightAt(column, CELLS - 1 - row)).join(" "),
  );
  const header = `ncols ${CELLS}\nnrows ${CELLS}\nxllcorner ${west}\nyllcorner ${south}\ncellsize ${CELL_DEG}\nNODATA_value -9999`;
  writeFileSync(at(name), `${header}\n${rows.join("\n")}\n`);
}

/** Old datums, each with a place in its area, and how far beside WGS 84 it lies there, m. */
const DATUMS: [name: string, epsg: number, place: [number, number], apartM: number][] = [
  ["ED50", 4230, [2.1, 41.4], 130],
  ["CH1903", 4149, [7.5, 46.9], 140],
  ["CH1903+", 4150, [8.3, 47.1], 140],
  ["Tokyo", 4301, [138.7, 35.3], 450],
  ["Bogotá 1975", 4218, [-74.1, 4.7], 400],
  ["OSGB36", 4277, [-3.2, 54.5], 100],
  ["DHDN", 4314, [9.2, 48.7], 140],
  ["Amersfoort", 4289, [5.4, 52.1], 100],
  ["NTF", 4275, [2.3, 45.8], 60],
  ["SAD69", 4618, [-46.6, -23.5], 60],
  ["Arc 1960", 4210, [37.3, -1.3], 250],
  ["Adindan", 4201, [38.7, 9.1], 150],
  ["Timbalai 1948", 4298, [115.1, 4.9], 200],
  ["MGI 1901", 3906, [20.4, 44.8], 300],
];

(installed ? describe : describe.skip)("heights in degrees of an old datum", () => {
  test.each(DATUMS)("%s lies where gdalwarp puts it", async (name, epsg, place, apartM) => {
    const file = `${epsg}.asc`;
    writeSlope(file, place);
    const source = await openRaster(at(file), file, { epsg });
    const frame = layerFrame(source);
    const tiles = new Map<number, TerrainTile>();
    for await (const { index, tile } of layerTiles(source, frame, heightWriter)) tiles.set(index, tile);
    await source.close();
    const surface = tiledSurface(frame, tiles);
    const [lon, lat] = source.crs.toLonLat([...place]);
    const cos = Math.cos((lat * Math.PI) / 180);
    const movedM = Math.hypot((lon - place[0]) * cos, lat - place[1]) * 111_320;
    expect(movedM).toBeGreaterThan(apartM * 0.5);
    // The middle of the raster, on WGS 84, as gdal sees it.
    run("gdal_translate", "-q", "-a_srs", `EPSG:${epsg}`, at(file), at(`${epsg}.tif`));
    const [minX, minY] = [lon + 0.012, lat + 0.012];
    const box = [minX, minY, minX + 0.02, minY + 0.02].map(String);
    run(
      ...(["gdalwarp", "-q", "-overwrite", "-t_srs", "EPSG:4326", "-r", "bilinear", "-et", "0"] as const),
      ...["-te", ...box, "-tr", "0.001", "0.001", at(`${epsg}.tif`), at("warped.tif")],
    );
    run("gdal_translate", "-q", "-of", "AAIGrid", at("warped.tif"), at("warped.asc"));
    const numbers = readFileSync(at("warped.asc"), "utf8").trim().split("\n").slice(-20);
    let worstM = 0;
    for (const [row, line] of numbers.entries())
      for (const [column, value] of line.trim().split(/\s+/).entries()) {
        const ground = groundAt(surface, minY + 0.02 - (row + 0.5) * 0.001, minX + (column + 0.5) * 0.001);
        worstM = Math.max(worstM, Math.abs(ground - Number(value)));
      }
    // Such shifts are good to 10 m on the ground; what that is on this slope.
    const mostM = 10 * Math.hypot(30 / (111.32 * cos), 20 / 111.32);
    expect([name, worstM, worstM < mostM]).toEqual([name, worstM, true]);
  });

  test("cells are copied where the system is WGS 84 to a tenth of a cell, and nowhere else", async () => {
    const frameIn = async (epsg: number, [west, south]: [number, number]) => {
      writeSlope("frame.asc", [west, south]);
      const source = await openRaster(at("frame.asc"), "frame.asc", { epsg });
      const { westDeg, northDeg } = layerFrame(source);
      await source.close();
      return [westDeg, northDeg];
    };
    for (const epsg of [4326, 4258, 4269, 4283, 4674])
      expect(await frameIn(epsg, [10, 45])).toEqual([10, expect.closeTo(45.048, 9)]);
    const [west] = await frameIn(4230, [10, 45]);
    expect((10 - west!) * 78_700).toBeGreaterThan(50);
  });
});

test("a datum whose shift is not known, or known to be wrong, is refused by name", () => {
  for (const code of [4214, 4248, 4718, 4751, 4142, 4220, 6989, 4267])
    expect(() => crsOf(code)).toThrow(`the datum of EPSG:${code} cannot be brought to WGS 84 here`);
  expect(() => crsOf(4807)).toThrow("EPSG:4807 counts in grads, which are not read here");
  expect(() => crsOf(2051)).toThrow("EPSG:2051 counts to the west or south");
  // ED50 is known in Europe, and is another one in Jordan.
  expect(crsOf(4230).toLonLat([2, 41])[0]).toBeCloseTo(1.9988, 3);
  expect(() => crsOf(4230).toLonLat([36, 31])).toThrow(/south of 34°/);
  expect(() => crsOf(23037).toLonLat([300_000, 3_500_000])).toThrow(RasterError);
});
