import { deflateSync } from "node:zlib";
import type { GridFrame } from "#core/terrain";

const TILE = 128;
const NO_DATA = "-9999";
/** TIFF field types. */
const [ASCII, SHORT, LONG, DOUBLE] = [2, 3, 4, 12] as const;

type Field = [tag: number, type: number, values: number[] | string];

/**
 * A GeoTIFF of Float32 values in EPSG:4326: tiles of 128 × 128, deflated, no-data −9999 where the value is NaN. Equal
 * grids give equal bytes. Sources: TIFF 6.0; OGC GeoTIFF 1.1.
 */
export function writeGeotiff(frame: GridFrame, value: (column: number, row: number) => number): Uint8Array {
  const across = Math.ceil(frame.columns / TILE);
  const down = Math.ceil(frame.rows / TILE);
  const tiles: Uint8Array[] = [];
  const cells = new Float32Array(TILE * TILE);
  for (let tileRow = 0; tileRow < down; tileRow++)
    for (let tileColumn = 0; tileColumn < across; tileColumn++) {
      cells.fill(Number(NO_DATA));
      for (let y = 0; y < Math.min(TILE, frame.rows - tileRow * TILE); y++)
        for (let x = 0; x < Math.min(TILE, frame.columns - tileColumn * TILE); x++) {
          const read = value(tileColumn * TILE + x, tileRow * TILE + y);
          if (!Number.isNaN(read)) cells[y * TILE + x] = read;
        }
      tiles.push(deflateSync(Buffer.from(cells.buffer), { level: 6 }));
    }
  const fields: Field[] = [
    [256, LONG, [frame.columns]],
    [257, LONG, [frame.rows]],
    [258, SHORT, [32]],
    [259, SHORT, [8]],
    [262, SHORT, [1]],
    [277, SHORT, [1]],
    [284, SHORT, [1]],
    [322, SHORT, [TILE]],
    [323, SHORT, [TILE]],
    [324, LONG, tiles.map(() => 0)],
    [325, LONG, tiles.map((tile) => tile.length)],
    [339, SHORT, [3]],
    [33550, DOUBLE, [frame.cellLonDeg, frame.cellLatDeg, 0]],
    [33922, DOUBLE, [0, 0, 0, frame.westDeg, frame.northDeg, 0]],
    // GTModelType geographic, GTRasterType area, GeographicType 4326, angles in degrees.
    [34735, SHORT, [1, 1, 0, 4, 1024, 0, 1, 2, 1025, 0, 1, 1, 2048, 0, 1, 4326, 2054, 0, 1, 9102]],
    [42113, ASCII, `${NO_DATA}\0`],
  ];
  return layOut(fields, tiles);
}

const BYTES: Record<number, number> = { [ASCII]: 1, [SHORT]: 2, [LONG]: 4, [DOUBLE]: 8 };

/** Header, directory, long values and tiles, one after the other. */
function layOut(fields: Field[], tiles: readonly Uint8Array[]): Uint8Array {
  const directoryBytes = 2 + fields.length * 12 + 4;
  let at = 8 + directoryBytes;
  const places = fields.map(([, type, values]) => {
    const bytes = values.length * BYTES[type]!;
    const place = at;
    if (bytes > 4) at += bytes + (bytes % 2);
    return bytes > 4 ? place : null;
  });
  const offsets = tiles.map((tile) => {
    const place = at;
    at += tile.length + (tile.length % 2);
    return place;
  });
  if (at > 0xffffffff) throw new RangeError(`the raster takes ${at} bytes; a GeoTIFF of this kind holds 4 GB`);
  fields.find(([tag]) => tag === 324)![2] = offsets;
  const out = Buffer.alloc(at);
  out.write("II", 0, "latin1");
  out.writeUInt16LE(42, 2);
  out.writeUInt32LE(8, 4);
  out.writeUInt16LE(fields.length, 8);
  fields.forEach(([tag, type, values], i) => {
    const entry = 10 + i * 12;
    out.writeUInt16LE(tag, entry);
    out.writeUInt16LE(type, entry + 2);
    out.writeUInt32LE(values.length, entry + 4);
    const place = places[i] ?? entry + 8;
    if (places[i] !== null) out.writeUInt32LE(place, entry + 8);
    if (typeof values === "string") out.write(values, place, "latin1");
    else
      values.forEach((value, k) => {
        const offset = place + k * BYTES[type]!;
        if (type === SHORT) out.writeUInt16LE(value, offset);
        else if (type === LONG) out.writeUInt32LE(value, offset);
        else out.writeDoubleLE(value, offset);
      });
  });
  tiles.forEach((tile, i) => out.set(tile, offsets[i]!));
  return out;
}
