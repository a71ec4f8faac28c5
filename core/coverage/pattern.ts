import { patternLossDb, type AntennaModel, type Polarization } from "../antenna";
import { sideOf, type CoverageGrid } from "./grid";
import type { CellLosses } from "./sweep";

/** How a sector's antenna stands. */
interface BeamAt {
  antenna: AntennaModel;
  polarization: Polarization;
  azimuthDeg: number;
  mechanicalTiltDownDeg: number;
}

const BEARINGS = 1440;
const STEPS_PER_DEG = BEARINGS / 360;
const ELEVATION_STEPS_PER_DEG = 10;
const ELEVATIONS = 180 * ELEVATION_STEPS_PER_DEG + 1;

/** The bearing of every cell from the middle, in quarters of a degree. */
export function cellBearings(grid: CoverageGrid): Uint16Array {
  const side = sideOf(grid);
  const bearings = new Uint16Array(side * side);
  for (let row = 0; row < side; row++)
    for (let column = 0; column < side; column++) {
      const deg =
        (Math.atan2((column - grid.rings) * grid.cellEastKm, (grid.rings - row) * grid.cellNorthKm) * 180) / Math.PI;
      bearings[row * side + column] = Math.round((deg + 360) * STEPS_PER_DEG) % BEARINGS;
    }
  return bearings;
}

/**
 * Loss to every cell with the antenna's pattern in it, dB, as a tape counts it: both cuts in the true direction, a bracket's tilt by the
 * cosine of the angle off the heading, never more than the front-to-back ratio. Written to `into`; NaN stays NaN.
 */
export function withPattern(
  { lossDb, tiltDownDeg }: CellLosses,
  bearings: Uint16Array,
  { antenna, polarization, azimuthDeg, mechanicalTiltDownDeg }: BeamAt,
  into: Float32Array,
): void {
  const acrossDb = new Float32Array(BEARINGS);
  const middleDeg = new Float32Array(BEARINGS);
  for (let i = 0; i < BEARINGS; i++) {
    const off = i / STEPS_PER_DEG - azimuthDeg;
    acrossDb[i] = patternLossDb(antenna, polarization, off, 0);
    middleDeg[i] = mechanicalTiltDownDeg * Math.cos((off * Math.PI) / 180) + antenna.electricalTiltDownDeg;
  }
  const alongDb = new Float32Array(ELEVATIONS);
  const flatDb = patternLossDb(antenna, polarization, 0, 0);
  for (let i = 0; i < ELEVATIONS; i++)
    alongDb[i] = patternLossDb(antenna, polarization, 0, i / ELEVATION_STEPS_PER_DEG - 90) - flatDb;
  const most = antenna.frontToBackDb;
  for (let cell = 0; cell < lossDb.length; cell++) {
    const bearing = bearings[cell]!;
    const elevation = (middleDeg[bearing]! - tiltDownDeg[cell]! + 90) * ELEVATION_STEPS_PER_DEG + 0.5;
    const pattern = acrossDb[bearing]! + alongDb[elevation | 0]!;
    into[cell] = lossDb[cell]! + (pattern < most ? pattern : most);
  }
}
