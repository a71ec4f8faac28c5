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

/** One sector's cells, and where each cell of the shared grid lies among them, −1 outside; null where the grids are one. */
interface Layered {
  cells: CoverageCells;
  placeOf: Int32Array | null;
}

/**
 * The best of several sectors in every cell: the fastest rate that holds, of equals the strongest. Where none holds, what the one that is
 * heard best says.
 */
export function combined(sectors: readonly Layered[]): SharedCells {
  const [first] = sectors;
  const count = first ? (first.placeOf ?? first.cells.reason).length : 0;
  const into: SharedCells = {
    downDbm: new Float32Array(count).fill(NaN),
    upDbm: new Float32Array(count).fill(NaN),
    snrDb: new Float32Array(count).fill(NaN),
    sinrDb: new Float32Array(count).fill(NaN),
    rateMbps: new Float32Array(count),
    downMbps: new Float32Array(count),
    upMbps: new Float32Array(count),
    reason: new Uint8Array(count).fill(COVERAGE_REASONS.indexOf("unknown")),
    server: new Uint8Array(count).fill(NO_SERVER),
    leadDb: new Float32Array(count).fill(NaN),
  };
  for (let cell = 0; cell < count; cell++) {
    let best = -1;
    let bestAt = -1;
    let [bestRate, bestDbm] = [-1, -Infinity];
    let [strongestDbm, secondDbm] = [-Infinity, -Infinity];
    for (let i = 0; i < sectors.length; i++) {
      const { cells, placeOf } = sectors[i]!;
      const at = placeOf === null ? cell : placeOf[cell]!;
      if (at < 0) continue;
      const dbm = cells.downDbm[at]!;
      if (dbm !== dbm) continue;
      if (dbm > strongestDbm) [secondDbm, strongestDbm] = [strongestDbm, dbm];
      else if (dbm > secondDbm) secondDbm = dbm;
      const rate = cells.rateMbps[at]!;
      if (rate > bestRate || (rate === bestRate && dbm > bestDbm)) {
        best = i;
        bestAt = at;
        bestRate = rate;
        bestDbm = dbm;
      }
    }
    if (best < 0) continue;
    const from = sectors[best]!.cells;
    into.downDbm[cell] = from.downDbm[bestAt]!;
    into.upDbm[cell] = from.upDbm[bestAt]!;
    into.snrDb[cell] = from.snrDb[bestAt]!;
    into.sinrDb[cell] = from.sinrDb[bestAt]!;
    into.rateMbps[cell] = from.rateMbps[bestAt]!;
    into.downMbps[cell] = from.downMbps[bestAt]!;
    into.upMbps[cell] = from.upMbps[bestAt]!;
    into.reason[cell] = from.reason[bestAt]!;
    if (from.reason[bestAt] === HELD) into.server[cell] = best;
    if (secondDbm > -Infinity) into.leadDb[cell] = strongestDbm - secondDbm;
  }
  return into;
}
