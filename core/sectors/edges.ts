import { cutLossDb, patternLossDb, type AntennaModel, type Polarization } from "../antenna";

/** Depths under a sector's peak at which its edges are told. */
const EDGE_DEPTHS_DB = [3, 6, 12] as const;

/** Where a sector's azimuth pattern has fallen by one depth, degrees to the left and right of its heading; 180 where it never does. */
interface Edge {
  depthDb: number;
  leftDeg: number;
  rightDeg: number;
}

/** Loss under the peak in azimuth alone, both polarizations as the radio uses them, dB. */
export const azimuthLossDb = (antenna: AntennaModel, polarization: Polarization, offDeg: number): number =>
  patternLossDb(antenna, polarization, offDeg, 0) - patternLossDb(antenna, polarization, 0, 0);

/** Angles at which either polarization's azimuth cut bends, degrees, rising. */
function bends({ azimuthCuts: { H, V } }: AntennaModel): number[] {
  return [...new Set([...H.anglesDeg, ...V.anglesDeg, 0])].sort((x, y) => x - y);
}

function reachDeg(antenna: AntennaModel, polarization: Polarization, depthDb: number, side: 1 | -1): number {
  const outward = bends(antenna).filter((angle) => angle * side > 0);
  if (side === -1) outward.reverse();
  let [before, beforeDb] = [0, 0];
  for (const angle of outward) {
    const hereDb = azimuthLossDb(antenna, polarization, angle);
    if (hereDb >= depthDb) return Math.abs(before + ((angle - before) * (depthDb - beforeDb)) / (hereDb - beforeDb));
    [before, beforeDb] = [angle, hereDb];
  }
  return 180;
}

/** The edges of a sector antenna at 3, 6 and 12 dB under its peak, straight between the rows of its cuts. */
export function edgesOf(antenna: AntennaModel, polarization: Polarization): Edge[] {
  return EDGE_DEPTHS_DB.map((depthDb) => ({
    depthDb,
    leftDeg: reachDeg(antenna, polarization, depthDb, -1),
    rightDeg: reachDeg(antenna, polarization, depthDb, 1),
  }));
}

/** Least degrees off a sector's heading at which its chains stand `apartDb` or more apart, by side; null where they never do. */
export function chainsApartDeg(
  antenna: AntennaModel,
  apartDb: number,
): { leftDeg: number | null; rightDeg: number | null } {
  const { H, V } = antenna.azimuthCuts;
  const apartAt = (offDeg: number) => Math.abs(cutLossDb(V, offDeg) - cutLossDb(H, offDeg));
  const first = (side: 1 | -1) => {
    for (let offDeg = 0; offDeg <= MOST_LOOKED_DEG; offDeg += 0.5) if (apartAt(side * offDeg) >= apartDb) return offDeg;
    return null;
  };
  return { leftDeg: first(-1), rightDeg: first(1) };
}
/** Behind a sector nobody counts on its chains. */
const MOST_LOOKED_DEG = 90;

/** What is left of a distance in free space once a level has fallen by some decibels. */
export const shareOfDistance = (lossDb: number): number => 10 ** (-lossDb / 20);
