import { open, readFile, stat } from "node:fs/promises";
import { unzipWithin, ZipRefused } from "../zip";
import { crsOf } from "./crs";
import { RasterError } from "./error";
import { type RasterSource } from "./source";

const MOST_ZIP_BYTES = 60e6;
const NO_DATA = -32768;

/** South-west corner that a tile's name gives, like S38W031. */
function cornerOf(name: string): { south: number; west: number } {
  const match = /([NS])(\d{2})([EW])(\d{3})/i.exec(name);
  if (!match)
    throw new RasterError(`"${name}" does not name its south-western corner; a name like S38W031.hgt was expected`, {
      todo: "Give the file its name back: latitude and longitude of that corner.",
    });
  const south = Number(match[2]) * (match[1]!.toUpperCase() === "S" ? -1 : 1);
  const west = Number(match[4]) * (match[3]!.toUpperCase() === "W" ? -1 : 1);
  if (south < -90 || south > 89 || west < -180 || west > 179)
    throw new RasterError(`"${name}" names the corner ${south}, ${west}, which lies beyond the globe`);
  return { south, west };
}

/**
 * Opens an SRTM tile of 1 or 3 arc-seconds, plain or zipped: 3601² or 1201² big-endian heights from the north-west, the
 * outer ones on the degree lines, −32768 where there is none. `name` gives its corner. Throws RasterError.
 */
export async function openHgt(path: string, name: string): Promise<RasterSource> {
  let corner = cornerOf(name);
  let packed: Uint8Array | null = null;
  if (/\.zip$/i.test(name)) {
    if ((await stat(path)).size > MOST_ZIP_BYTES)
      throw new RasterError(`the archive is larger than any tile of SRTM, ${MOST_ZIP_BYTES} bytes`);
    try {
      const files = unzipWithin(await readFile(path), {
        totalBytes: MOST_ZIP_BYTES,
        entries: 20,
        wanted: (entry) => /\.hgt$/i.test(entry),
      });
      const [entry] = files;
      if (!entry) throw new RasterError("the archive holds no .hgt; one named like S38W031.hgt was expected");
      corner = cornerOf(entry[0]);
      packed = entry[1];
    } catch (error) {
      if (error instanceof ZipRefused) throw new RasterError(error.message, { todo: error.todo });
      throw error;
    }
  }
  const size = packed ? packed.length : (await stat(path)).size;
  const side = [3601, 1201].find((one) => one * one * 2 === size);
  if (!side)
    throw new RasterError(
      `the tile has ${size} bytes; 1 arc-second has ${3601 * 3601 * 2}, 3 arc-seconds ${1201 * 1201 * 2}`,
    );
  const file = packed ? null : await open(path);
  const cell = 1 / (side - 1);
  return {
    found: `SRTM tile, ${side === 3601 ? 1 : 3} arc-second${side === 3601 ? "" : "s"}`,
    columns: side,
    rows: side,
    west: corner.west - cell / 2,
    north: corner.south + 1 + cell / 2,
    cellX: cell,
    cellY: cell,
    crs: crsOf(4326),
    async readRows(first, count) {
      const bytes = Buffer.alloc(count * side * 2);
      if (packed) bytes.set(packed.subarray(first * side * 2, (first + count) * side * 2));
      else await file!.read(bytes, 0, bytes.length, first * side * 2);
      const out = new Float32Array(count * side);
      for (let i = 0; i < out.length; i++) {
        const value = bytes.readInt16BE(i * 2);
        out[i] = value === NO_DATA ? NaN : value;
      }
      return out;
    },
    close: async () => {
      await file?.close();
    },
  };
}
