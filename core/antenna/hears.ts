import { patternLossDb, type Polarization } from "./gain";
import type { AntennaModel } from "./model";

/** Depth under the peak down to which an antenna is said to hear, dB: a neighbour that strong is noise at a customer. */
export const HEARS_DEPTH_DB = 20;
const STEP_DEG = 0.25;

/**
 * Widths in azimuth within 20 dB of an antenna's peak, degrees: of its main lobe, and to the outermost lobe on either side that is as
 * strong. Where the second is wider, lobes beside the main one hear past it.
 */
export function hearsWidths(antenna: AntennaModel, polarization: Polarization): { mainDeg: number; hearsDeg: number } {
  const peakDb = patternLossDb(antenna, polarization, 0, 0);
  const isHeard = (offDeg: number) => patternLossDb(antenna, polarization, offDeg, 0) - peakDb < HEARS_DEPTH_DB;
  const side = (sign: 1 | -1) => {
    let main = 0;
    while (main < 180 && isHeard(sign * (main + STEP_DEG))) main += STEP_DEG;
    let outer = 180;
    while (outer > main && !isHeard(sign * outer)) outer -= STEP_DEG;
    return { main, outer };
  };
  const [left, right] = [side(-1), side(1)];
  return { mainDeg: left.main + right.main, hearsDeg: left.outer + right.outer };
}
