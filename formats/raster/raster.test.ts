import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, expect, test } from "@jest/globals";
import {
  coverCodeIn,
  coverHeightIn,
  groundAt,
  groundIn,
  tiledSurface,
  UNKNOWN_COVER,
  type Surface,
  type TerrainTile,
} from "#core/terrain";
import {
  coverWriter,
  heightWriter,
  layerFrame,
  layerTiles,
  openRaster,
  RasterError,
  writeGeotiff,
} from "#formats/raster";
import { zipFiles } from "#formats/zip";

const folder = mkdtempSync(join(tmpdir(), "tejado-raster-"));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

async function read(
  name: string,
  content: string | Uint8Array,
  options: Parameters<typeof openRaster>[2] & { legend?: Parameters<typeof coverWriter>[0] } = {},
): Promise<{ surface: Surface; holes: number; found: string }> {
  const path = join(folder, "file");
  writeFileSync(path, content);
  const { legend, ...open } = options;
  const source = await openRaster(path, name, legend ? { ...open, values: "classes" } : open);
  try {
    const frame = layerFrame(source);
    const tiles = new Map<number, TerrainTile>();
    let holes = 0;
    for await (const one of layerTiles(source, frame, legend ? coverWriter(legend) : heightWriter)) {
      tiles.set(one.index, one.tile);
      holes += one.holes;
    }
    return { surface: tiledSurface(frame, tiles), holes, found: source.found };
  } finally {
    await source.close();
  }
}

const GRID = "ncols 3\nnrows 2\nxllcorner 10\nyllcorner -2\ncellsize 0.5\nNODATA_value -9999\n1 2 3\n4 -9999 6.5\n";

test("an ASCII grid reads with its hole, by corner or by centre", async () => {
  const { surface, holes, found } = await read("a.asc", GRID);
  expect(found).toBe("ESRI ASCII grid, EPSG:4326");
  expect(surface.frame).toEqual({ westDeg: 10, northDeg: -1, cellLonDeg: 0.5, cellLatDeg: 0.5, columns: 3, rows: 2 });
  expect([0, 1, 2].map((column) => groundIn(surface, column, 1))).toEqual([4, NaN, 6.5]);
  expect(holes).toBe(1);
  const centred = await read("a.asc", GRID.replace("xllcorner 10", "XLLCENTER 10.25"));
  expect(centred.surface.frame.westDeg).toBe(10);
});

test("a broken grid is refused with its line and value", async () => {
  const refused: [string, string, string][] = [
    ["2 3\n", "2 abc\n", 'line 7: height "abc" (row 1, column 3)'],
    ["ncols 3", "ncols 3.5", "claims 3.5 columns"],
    ["ncols 3", "ncols 2000000000", "at most 400000000"],
    ["ncols 3", "ncols 60000000", "a text grid may have 100000000"],
    ["cellsize 0.5", "cellsize 30", "these are no degrees"],
    ["yllcorner -2\n", "", "the header has no yllcenter"],
    ["6.5\n", "", "ends after 5 of 6"],
    ["6.5", "6.5 7", "more values follow"],
    ["6.5", "99999", "must lie between -12000 and 9000 m"],
    ["ncols 3", "ncols 3\nncols 3", "ncols stands twice"],
    ["1 2 3", "1".repeat(90), "goes on for over 64 characters"],
  ];
  for (const [from, to, message] of refused) {
    await expect(read("a.asc", GRID.replace(from, to))).rejects.toThrow(message);
    await expect(read("a.asc", GRID.replace(from, to))).rejects.toThrow(RasterError);
  }
});

test("a grid in metres is laid into degrees, a plane staying a plane", async () => {
  const side = 60;
  const rows = Array.from({ length: side }, (_, row) =>
    Array.from({ length: side }, (_, column) => (column * 2 + row * 3).toFixed(1)).join(" "),
  );
  const text = `ncols ${side}\nnrows ${side}\nxllcorner 448000\nyllcorner 5411000\ncellsize 30\n${rows.join("\n")}\n`;
  const { surface } = await read("utm.asc", text, { epsg: 32631 });
  // The cell centre at column 20, row 30 is 448615, 5411885 in zone 31.
  const at = groundAt(surface, 48.8577708, 2.2994656);
  expect(at).toBeGreaterThan(128);
  expect(at).toBeLessThan(132);
  await expect(read("utm.asc", text, { epsg: 99999 })).rejects.toThrow("EPSG:99999 is not known here");
});

test("an SRTM tile of either size, plain or zipped, is placed by its name", async () => {
  const side = 1201;
  const tile = Buffer.alloc(side * side * 2);
  for (let row = 0; row < side; row++)
    for (let column = 0; column < side; column++) tile.writeInt16BE(row + column * 2, (row * side + column) * 2);
  tile.writeInt16BE(-32768, 0);
  for (const [name, content] of [
    ["S38W031.hgt", tile],
    ["S38W031.hgt.zip", zipFiles(new Map([["S38W031.hgt", new Uint8Array(tile)]]), () => true)],
  ] as const) {
    const { surface, holes } = await read(name, content);
    expect(holes).toBe(1);
    expect(groundAt(surface, -37.5, -30.25)).toBeCloseTo(600 + 1800, 3);
  }
  await expect(read("nowhere.hgt", tile)).rejects.toThrow("does not name its south-western corner");
  await expect(read("S38W031.hgt", tile.subarray(0, 1000))).rejects.toThrow("1 arc-second has 25934402");
});

test("our own GeoTIFF reads back the same, tile for tile", async () => {
  const frame = { westDeg: -31, northDeg: -37, cellLonDeg: 0.0005, cellLatDeg: 0.0004, columns: 300, rows: 140 };
  const height = (column: number, row: number) => (column === 7 && row === 9 ? NaN : column * 0.5 + row * 0.25);
  const file = writeGeotiff(frame, height);
  expect(Buffer.from(writeGeotiff(frame, height)).equals(Buffer.from(file))).toBe(true);
  const { surface, holes, found } = await read("own.tif", file);
  expect(found).toBe("GeoTIFF, 32-bit floats, EPSG:4326");
  expect(surface.frame).toEqual(frame);
  expect(holes).toBe(1);
  for (let row = 0; row < 140; row += 3)
    for (let column = 0; column < 300; column += 7) expect(groundIn(surface, column, row)).toBe(height(column, row));
});

test("a header that claims more than the file holds is refused before anything is allocated", async () => {
  const file = Buffer.from(
    writeGeotiff({ westDeg: 0, northDeg: 1, cellLonDeg: 0.1, cellLatDeg: 0.1, columns: 5, rows: 5 }, () => 1),
  );
  const withField = (tag: number, change: (entry: number, copy: Buffer) => void) => {
    const copy = Buffer.from(file);
    const count = copy.readUInt16LE(8);
    for (let i = 0; i < count; i++) if (copy.readUInt16LE(10 + i * 12) === tag) change(10 + i * 12, copy);
    return copy;
  };
  const bad: [Buffer, string][] = [
    [withField(256, (at, copy) => copy.writeUInt32LE(2_000_000_000, at + 8)), "2000000000 × 5 cells"],
    [withField(33550, (at, copy) => copy.writeUInt32LE(2 ** 28, at + 4)), "field 33550 claims 2147483648 bytes"],
    [withField(322, (at, copy) => copy.writeUInt32LE(60_000, at + 8)), "rows 1 to 5 cannot be unpacked"],
    [withField(34735, (at, copy) => copy.writeUInt16LE(9999, at)), "names its coordinate system neither by"],
    [file.subarray(0, 60), "the file ends before"],
  ];
  for (const [content, message] of bad) await expect(read("bad.tif", content)).rejects.toThrow(message);
});

test("classes become cover by the legend, and a class without a line is named", async () => {
  const classes = GRID.replace("1 2 3\n4 -9999 6.5", "10 10 50\n50 -9999 80");
  const legend = [
    { value: 10, kind: "wood" as const, heightM: 14, density: 0.6 },
    { value: 50, kind: "building" as const, heightM: 8, density: 1 },
    { value: 80, kind: "water" as const, heightM: 0, density: 1 },
  ];
  const { surface } = await read("cover.asc", classes, { legend });
  expect([coverCodeIn(surface, 0, 0), coverHeightIn(surface, 0, 0)]).toEqual([2 | (6 << 4), 14]);
  expect(coverCodeIn(surface, 2, 0)).toBe(4);
  expect(coverCodeIn(surface, 1, 1)).toBe(UNKNOWN_COVER);
  expect(groundIn(surface, 0, 0)).toBeNaN();
  await expect(read("cover.asc", classes, { legend: legend.slice(0, 2) })).rejects.toThrow(
    "class 80, which the legend does not name",
  );
});
