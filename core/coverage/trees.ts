import { DEEPEST_TREES_M, inLeafShare, leavesIn, stretchWithin, treesLossDb, WoodFinder } from "../link";
import type { Plan } from "../plan";
import { coverDensity, END_ZONE_M, isEvergreen, isTrees } from "../terrain";

/** For each cover code how thick its trees stand, and whether they keep their leaves; 0 for cover that is not trees. */
const DENSITY = Float64Array.from({ length: 256 }, (_, code) => (isTrees(code) ? coverDensity(code) : 0));
const EVERGREEN = Uint8Array.from({ length: 256 }, (_, code) => Number(isTrees(code) && isEvergreen(code)));

/** The stretches of one ray on which trees stand, from the transmitter on. */
export class RayTrees {
  /** Where each begins and ends, in steps from the transmitter. */
  readonly from: Float64Array;
  readonly to: Float64Array;
  readonly heightM: Float64Array;
  readonly code: Uint8Array;
  count = 0;
  private readonly wood = new WoodFinder();
  /** Of the last loss asked for: what share of the trees stands in leaf, and how many steps away the wood stands in which the ray runs farthest. */
  inLeafShare = 1;
  woodStep = 0;

  /** Room for so many stretches. */
  constructor(most: number) {
    this.from = new Float64Array(most);
    this.to = new Float64Array(most);
    this.heightM = new Float64Array(most);
    this.code = new Uint8Array(most);
  }

  /** Puts a stretch of cover down where that is trees, through which a signal may go; says whether it is. */
  add(from: number, to: number, code: number, heightM: number): boolean {
    if (DENSITY[code] === 0) return false;
    this.from[this.count] = from;
    this.to[this.count] = to;
    this.heightM[this.count] = heightM;
    this.code[this.count++] = code;
    return true;
  }

  /**
   * What the trees take that a straight ray runs through up to the point `end`, dB; 0 where it passes over all of them, and those right
   * at the transmitter do not count. The ray starts at `txM` and rises by `slope`, both in levelled metres; `bares` are the bare
   * ground's heights at points `stepM` apart.
   */
  lossDb(
    bares: Float64Array,
    end: number,
    txM: number,
    slope: number,
    stepM: number,
    frequencyGHz: number,
    season: Plan["season"],
  ): number {
    const zoneSteps = END_ZONE_M / stepM;
    let depthM = 0;
    let evergreenM = 0;
    this.wood.clear();
    for (let i = 0; i < this.count; i++) {
      const from = Math.max(this.from[i]!, zoneSteps);
      const to = Math.min(this.to[i]!, end);
      if (depthM > DEEPEST_TREES_M || from > end) break;
      const code = this.code[i]!;
      let within = 0;
      // Between two points the ground is straight, as between a full answer's samples.
      for (let at = Math.floor(from); at < to; at++) {
        const nearM = txM + slope * at - bares[at]!;
        const farM = txM + slope * (at + 1) - bares[at + 1]!;
        within += stretchWithin(nearM, farM, Math.max(0, from - at), Math.min(1, to - at), this.heightM[i]!);
      }
      const throughM = within * stepM * DENSITY[code]!;
      depthM += throughM;
      this.wood.add(from, to, throughM);
      if (EVERGREEN[code] === 1) evergreenM += throughM;
    }
    if (depthM === 0) return 0;
    const leafyShare = 1 - evergreenM / depthM;
    this.inLeafShare = inLeafShare(leafyShare, leavesIn(season));
    this.woodStep = this.wood.middle!;
    return treesLossDb(frequencyGHz, depthM, leafyShare, season);
  }
}
