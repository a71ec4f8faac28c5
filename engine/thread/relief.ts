import {
  COVER_KINDS,
  coverKind,
  reachesGround,
  readGround,
  seenFromAfar,
  type GroundSample,
  type Terrain,
} from "#core/terrain";
import { BEYOND_TERRAIN, RELIEF_SAMPLES } from "#wire";

const EARTH_ROUND_M = 40_075_017;

/**
 * Heights and cover of one web-Mercator tile, sampled at its pixels with one more all around: Float32 heights (NaN where nothing
 * is known), then one cover code a sample. Null where the tile lies off the terrain.
 */
export function reliefTile(
  whole: Terrain,
  { z, x, y }: { z: number; x: number; y: number },
): Uint8Array<ArrayBuffer> | null {
  const worldPixels = 256 * 2 ** z;
  const lonAt = (column: number) => ((x * 256 + column - 0.5) / worldPixels) * 360 - 180;
  const latAt = (row: number) =>
    (Math.atan(Math.sinh(Math.PI * (1 - (2 * (y * 256 + row - 0.5)) / worldPixels))) * 180) / Math.PI;
  const pixelM = (EARTH_ROUND_M * Math.cos((latAt(128) * Math.PI) / 180)) / worldPixels;
  const terrain = seenFromAfar(whole, pixelM);
  const count = RELIEF_SAMPLES ** 2;
  const heights = new Float32Array(count);
  const cover = new Uint8Array(count);
  const sample: GroundSample = { groundAmslM: NaN, coverHeightM: 0, coverCode: 0 };
  const kindCodes = Uint8Array.from({ length: 256 }, (_, code) => COVER_KINDS.indexOf(coverKind(code)));
  let isKnown = false;
  for (let row = 0; row < RELIEF_SAMPLES; row++) {
    const lat = latAt(row);
    for (let column = 0; column < RELIEF_SAMPLES; column++) {
      const lon = lonAt(column);
      const i = row * RELIEF_SAMPLES + column;
      readGround(terrain, lat, lon, sample);
      heights[i] = sample.groundAmslM;
      cover[i] = kindCodes[sample.coverCode]!;
      if (sample.groundAmslM === sample.groundAmslM) isKnown = true;
      else if (!reachesGround(terrain, lat, lon)) cover[i] = BEYOND_TERRAIN;
      else isKnown = true;
    }
  }
  if (!isKnown) return null;
  const body = new Uint8Array(count * 5);
  body.set(new Uint8Array(heights.buffer), 0);
  body.set(cover, count * 4);
  return body;
}
