import { COVERAGE_REASONS, type CoverageCells } from "./classes";

/** What every cell gets of the best of several sectors. */
export interface SharedCells extends CoverageCells {
  /** Which of them serves best, by its place in the list; `NO_SERVER` where none holds. */
  server: Uint8Array;
  /** How far the strongest level lies above the second strongest, dB; NaN where only one sector is heard. */
  leadDb: Float32Array;
}
export const NO_SERVER = 255;
const HELD = COVERAGE_REASONS.indexOf("held");

/**
 * The best of several sectors in every cell: the fastest rate that holds, of equals the strongest. Where none holds, what the one that is
 * heard best says. All have the same grid.
 */
export function combined(sectors: readonly CoverageCells[]): SharedCells {
  const count = sectors[0]?.reason.length ?? 0;
  const into: SharedCells = {
    downDbm: new Float32Array(count).fill(NaN),
    snrDb: new Float32Array(count).fill(NaN),
    rateMbps: new Float32Array(count),
    reason: new Uint8Array(count).fill(COVERAGE_REASONS.indexOf("unknown")),
    server: new Uint8Array(count).fill(NO_SERVER),
    leadDb: new Float32Array(count).fill(NaN),
  };
  for (let cell = 0; cell < count; cell++) {
    let best = -1;
    let [bestRate, bestDbm] = [-1, -Infinity];
    let [strongestDbm, secondDbm] = [-Infinity, -Infinity];
    for (let i = 0; i < sectors.length; i++) {
      const dbm = sectors[i]!.downDbm[cell]!;
      if (dbm !== dbm) continue;
      if (dbm > strongestDbm) [secondDbm, strongestDbm] = [strongestDbm, dbm];
      else if (dbm > secondDbm) secondDbm = dbm;
      const rate = sectors[i]!.rateMbps[cell]!;
      if (rate > bestRate || (rate === bestRate && dbm > bestDbm)) [best, bestRate, bestDbm] = [i, rate, dbm];
    }
    if (best < 0) continue;
    const from = sectors[best]!;
    into.downDbm[cell] = from.downDbm[cell]!;
    into.snrDb[cell] = from.snrDb[cell]!;
    into.rateMbps[cell] = from.rateMbps[cell]!;
    into.reason[cell] = from.reason[cell]!;
    if (from.reason[cell] === HELD) into.server[cell] = best;
    if (secondDbm > -Infinity) into.leadDb[cell] = strongestDbm - secondDbm;
  }
  return into;
}
