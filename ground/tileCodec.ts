import { deflateSync, inflateSync } from "node:zlib";
import { TILE_CELLS, type TerrainTile } from "#core/terrain";

const CELLS = TILE_CELLS ** 2;
const BYTES = CELLS * 4 + CELLS * 2 + CELLS;
/** Cover heights are kept in tenths of a metre. */
const COVER_STEPS_PER_M = 10;

/** A tile as deflated bytes: the four byte planes of ground heights, two of cover heights, one of cover codes. Planes deflate far better than whole floats. */
export function encodeTile(tile: TerrainTile): Uint8Array {
  const bytes = new Uint8Array(BYTES);
  const ground = new Uint8Array(tile.groundAmslM.buffer, tile.groundAmslM.byteOffset, CELLS * 4);
  for (let plane = 0; plane < 4; plane++)
    for (let i = 0; i < CELLS; i++) bytes[plane * CELLS + i] = ground[i * 4 + plane]!;
  for (let i = 0; i < CELLS; i++) {
    const steps = Math.round(tile.coverHeightM[i]! * COVER_STEPS_PER_M);
    bytes[CELLS * 4 + i] = steps & 255;
    bytes[CELLS * 5 + i] = steps >> 8;
  }
  bytes.set(tile.coverCode, CELLS * 6);
  return deflateSync(bytes, { level: 6 });
}

/** Reads what `encodeTile` wrote; throws when the bytes are not a whole tile. */
export function decodeTile(data: Uint8Array): TerrainTile {
  const bytes = inflateSync(data, { maxOutputLength: BYTES });
  if (bytes.length !== BYTES) throw new Error(`a terrain tile unpacks to ${bytes.length} bytes; it needs ${BYTES}`);
  const ground = new Uint8Array(CELLS * 4);
  const coverHeightM = new Float32Array(CELLS);
  for (let plane = 0; plane < 4; plane++)
    for (let i = 0; i < CELLS; i++) ground[i * 4 + plane] = bytes[plane * CELLS + i]!;
  for (let i = 0; i < CELLS; i++)
    coverHeightM[i] = (bytes[CELLS * 4 + i]! + bytes[CELLS * 5 + i]! * 256) / COVER_STEPS_PER_M;
  return { groundAmslM: new Float32Array(ground.buffer), coverHeightM, coverCode: bytes.slice(CELLS * 6) };
}
