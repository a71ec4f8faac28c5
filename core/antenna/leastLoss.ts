import { patternLossDb, type Polarization } from "./gain";
import type { AntennaModel } from "./model";

/** Parts into which the cosine of the angle off the peak is cut. */
const PARTS = 256;

/** The part in which the cosine of a direction off the peak lies: where to look in `leastLossByCosine`. */
export function partOf(cosine: number): number {
  const part = Math.floor(((cosine + 1) / 2) * PARTS);
  return part < 0 ? 0 : part >= PARTS ? PARTS - 1 : part;
}

/**
 * The least loss of an antenna's horizontal pattern wherever the cosine of the angle off its peak lies within one part, on either
 * side, dB: bounds by which most of many transmitters are told to be too weak without an angle being worked out. Exact, since cuts
 * are straight between the rows of their tables: nowhere is less than at a row or at the end of a part.
 */
export function leastLossByCosine(antenna: AntennaModel, polarization: Polarization): Float64Array {
  const least = new Float64Array(PARTS).fill(Infinity);
  const look = (angleDeg: number, parts: readonly number[]) => {
    const lossDb = Math.min(...[angleDeg, -angleDeg].map((off) => patternLossDb(antenna, polarization, off, 0)));
    for (const part of parts) if (part >= 0 && part < PARTS && lossDb < least[part]!) least[part] = lossDb;
  };
  for (let edge = 0; edge <= PARTS; edge++) look((Math.acos((2 * edge) / PARTS - 1) * 180) / Math.PI, [edge - 1, edge]);
  const { H, V } = antenna.azimuthCuts;
  for (const angleDeg of [...H.anglesDeg, ...V.anglesDeg]) {
    const part = partOf(Math.cos((angleDeg * Math.PI) / 180));
    // A row on the edge of a part counts for both.
    look(
      angleDeg,
      [part - 1, part, part + 1].filter((near) => near === part || isAtEdge(angleDeg)),
    );
  }
  return least;
}

const isAtEdge = (angleDeg: number) => {
  const at = ((Math.cos((angleDeg * Math.PI) / 180) + 1) / 2) * PARTS;
  return Math.abs(at - Math.round(at)) < 1e-6;
};
