import { DEEPEST_TREES_M, treesLossDb } from "../link";
import type { Plan } from "../plan";
import { coverDensity, END_ZONE_M, isEvergreen, isTrees } from "../terrain";

/** For each cover code how thick its trees stand, and whether they keep their leaves; 0 for cover that is not trees. */
const DENSITY = Float64Array.from({ length: 256 }, (_, code) => (isTrees(code) ? coverDensity(code) : 0));
const EVERGREEN = Uint8Array.from({ length: 256 }, (_, code) => Number(isTrees(code) && isEvergreen(code)));

/** The points of one ray at which trees stand, from the transmitter on. */
export class RayTrees {
  readonly step: Int32Array;
  private readonly code: Uint8Array;
  count = 0;

  constructor(rings: number) {
    this.step = new Int32Array(rings + 1);
    this.code = new Uint8Array(rings + 1);
  }

  /** Puts a point's cover down where that is trees, through which a signal may go; says whether it is. */
  add(step: number, code: number): boolean {
    if (DENSITY[code] === 0) return false;
    this.step[this.count] = step;
    this.code[this.count++] = code;
    return true;
  }

  /**
   * What the trees take that a straight ray to the point `end` runs through, dB; 0 where it passes over all of them, and those within
   * 30 m of its end do not count. The ray starts at `txM` and rises by `slope`, both in levelled metres; `bares` and `tops` are the
   * ground's heights without and with what stands there, points `stepM` apart.
   */
  lossDb(
    bares: Float64Array,
    tops: Float64Array,
    end: number,
    txM: number,
    slope: number,
    stepM: number,
    frequencyGHz: number,
    season: Plan["season"],
  ): number {
    let depthM = 0;
    let evergreenM = 0;
    for (let i = 0; i < this.count; i++) {
      const at = this.step[i]!;
      if (at >= end || depthM > DEEPEST_TREES_M) break;
      const rayM = txM + slope * at;
      if (rayM <= bares[at]! || rayM >= tops[at]!) continue;
      const code = this.code[i]!;
      const beyondM = (end - at + 0.5) * stepM - END_ZONE_M;
      if (beyondM <= 0) continue;
      // What lies across the zone's edge a full answer's samples meet or miss, as they fall: half of it is in between.
      const throughM = (beyondM < stepM ? beyondM / 2 : stepM) * DENSITY[code]!;
      depthM += throughM;
      if (EVERGREEN[code] === 1) evergreenM += throughM;
    }
    return depthM === 0 ? 0 : treesLossDb(frequencyGHz, depthM, 1 - evergreenM / depthM, season);
  }
}
