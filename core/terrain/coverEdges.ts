import { cellChange } from "./cells";
import { ENTRY, EXIT } from "./coverRuns";
import type { Profile } from "./profile";

/** Shares of a step: how far into it the cover of the sample before reaches, and from where on that of the sample after stands. */
interface CoverStep {
  leaves: number;
  enters: number;
}

/**
 * Where the cover changes on the step of a profile that leads to sample `i`: at the edge of a laid run, or where the path passes into
 * another cell of the raster that the cover was read from. Within one cell it changes where an end's zone begins, and what stands beyond
 * fills the step; half-way where nothing else is known.
 */
export function coverStep(
  {
    coverFrame,
    runEdges,
    latDeg,
    lonDeg,
    coverCode,
  }: Pick<Profile, "coverFrame" | "runEdges" | "latDeg" | "lonDeg" | "coverCode">,
  i: number,
): CoverStep {
  const isExit = ((runEdges?.get(i - 1) ?? 0) & EXIT) !== 0;
  const isEntry = ((runEdges?.get(i) ?? 0) & ENTRY) !== 0;
  if (isExit || isEntry) return { leaves: isExit ? 0 : 1, enters: isEntry ? 1 : 0 };
  if (!coverFrame) return HALF_WAY;
  const { column, row } = cellChange(coverFrame, latDeg, lonDeg, i);
  // Over a corner, half-way between both.
  const edge = column === 1 ? row : row === 1 ? column : (column + row) / 2;
  if (edge < 1) return { leaves: edge, enters: edge };
  if (coverCode[i - 1] === 0) return { leaves: 0, enters: 0 };
  return coverCode[i] === 0 ? { leaves: 1, enters: 1 } : HALF_WAY;
}
const HALF_WAY: CoverStep = { leaves: 0.5, enters: 0.5 };
