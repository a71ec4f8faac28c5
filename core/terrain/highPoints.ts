import type { Place } from "../geodesy";
import type { Bounds } from "./bounds";

/** Height of the ground at a place, m above sea; NaN where it is not known. */
export type HeightAt = (place: Place) => number;

/** A place and the height of its ground, m above sea. */
export type HighPoint = Place & { groundAmslM: number };

/**
 * The highest cell of every block of some ground, `blocks` along each side, read at `steps` places along each side of a block. Blocks
 * whose ground is not known, or not above the sea, have none.
 */
export function highPoints(
  heightAt: HeightAt,
  [west, south, east, north]: Bounds,
  blocks: number,
  steps: number,
): HighPoint[] {
  const points: HighPoint[] = [];
  const blockLat = (north - south) / blocks;
  const blockLon = (east - west) / blocks;
  for (let y = 0; y < blocks; y++) {
    for (let x = 0; x < blocks; x++) {
      let best: HighPoint | null = null;
      for (let i = 0; i < steps * steps; i++) {
        const latDeg = south + (y + (Math.floor(i / steps) + 0.5) / steps) * blockLat;
        const lonDeg = west + (x + ((i % steps) + 0.5) / steps) * blockLon;
        const groundAmslM = heightAt({ latDeg, lonDeg });
        if (groundAmslM > (best?.groundAmslM ?? -Infinity)) best = { latDeg, lonDeg, groundAmslM };
      }
      if (best && best.groundAmslM > 0) points.push(best);
    }
  }
  return points;
}
