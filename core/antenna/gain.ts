import { signedAngleDeg } from "../geodesy";
import type { AntennaModel, Cut } from "./model";

/** Loss of a cut at an angle from its peak, dB, straight between table rows. */
export function cutLossDb(cut: Cut, angleDeg: number): number {
  const { anglesDeg, lossDb } = cut;
  const angle = signedAngleDeg(angleDeg);
  let low = 0;
  let high = anglesDeg.length - 1;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (anglesDeg[middle]! <= angle) low = middle;
    else high = middle;
  }
  const share = (angle - anglesDeg[low]!) / (anglesDeg[high]! - anglesDeg[low]!);
  return lossDb[low]! + (lossDb[high]! - lossDb[low]!) * share;
}

export const POLARIZATIONS = ["H", "V", "HV", "X45"] as const;
/** H or V: one chain. HV: one chain on each. X45: two chains at ±45°. */
export type Polarization = (typeof POLARIZATIONS)[number];

/**
 * Peak gain at a frequency, dBi, straight between the sheet's points and held beyond them; for dual polarizations the mean
 * of both.
 */
export function peakGainDbi(antenna: AntennaModel, frequencyMHz: number, polarization: Polarization = "HV"): number {
  const points = antenna.gainAcrossBand;
  const last = points.length - 1;
  if (frequencyMHz <= points[0]!.frequencyMHz) return gainAt(points[0]!, polarization);
  for (let i = 1; i <= last; i++) {
    const after = points[i]!;
    if (frequencyMHz > after.frequencyMHz) continue;
    const before = points[i - 1]!;
    const share = (frequencyMHz - before.frequencyMHz) / (after.frequencyMHz - before.frequencyMHz);
    const gain = gainAt(before, polarization);
    return gain + (gainAt(after, polarization) - gain) * share;
  }
  return gainAt(points[last]!, polarization);
}

function gainAt({ hDbi, vDbi }: AntennaModel["gainAcrossBand"][number], polarization: Polarization): number {
  return polarization === "H" ? hDbi : polarization === "V" ? vDbi : (hDbi + vDbi) / 2;
}

/** How far the gain falls below its greatest anywhere in the band, dB, on either polarization: 0 is perfectly flat. */
export function bandFlatnessDb({ gainAcrossBand }: AntennaModel): number {
  const fall = (gains: number[]) => Math.max(...gains) - Math.min(...gains);
  return Math.max(fall(gainAcrossBand.map(({ hDbi }) => hDbi)), fall(gainAcrossBand.map(({ vDbi }) => vDbi)));
}

/**
 * By how much one chain stands above the other in a direction of azimuth, dB: the difference of the two polarizations'
 * cuts and peaks. Radios at the edge of a sector show it as unequal chains.
 */
export function chainImbalanceDb(antenna: AntennaModel, azimuthDeg: number): number {
  const { H, V } = antenna.azimuthCuts;
  const middle = antenna.gainAcrossBand[antenna.gainAcrossBand.length >> 1]!;
  return middle.vDbi - cutLossDb(V, azimuthDeg) - (middle.hDbi - cutLossDb(H, azimuthDeg));
}

/**
 * Loss below the peak in a direction off boresight, dB, never more than the front-to-back ratio. The three-dimensional
 * pattern is the sum of the two cuts, which is exact on the cuts and overstates the loss far from both.
 * For dual polarizations the mean of the two cuts is taken.
 */
export function patternLossDb(
  antenna: AntennaModel,
  polarization: Polarization,
  azimuthOffDeg: number,
  elevationOffDeg: number,
): number {
  const sum =
    lossAlong(antenna.azimuthCuts, polarization, azimuthOffDeg) +
    lossAlong(antenna.elevationCuts, polarization, elevationOffDeg);
  return Math.min(sum, antenna.frontToBackDb);
}

/** Loss of a pair of cuts at an angle for a polarization, dB; for dual polarizations the mean of the two. */
export function lossAlong(cuts: { H: Cut; V: Cut }, polarization: Polarization, angleDeg: number): number {
  return polarization === "H" || polarization === "V"
    ? cutLossDb(cuts[polarization], angleDeg)
    : (cutLossDb(cuts.H, angleDeg) + cutLossDb(cuts.V, angleDeg)) / 2;
}

/** How far a cut's beam reaches on one side of its peak before it has fallen by `depthDb`, degrees, straight between rows; 180 where it never does. */
export function beamReachDeg(cut: Cut, depthDb: number, side: 1 | -1): number {
  const { anglesDeg, lossDb } = cut;
  let before = 0;
  let beforeDb = cutLossDb(cut, 0);
  if (beforeDb >= depthDb) return 0;
  const last = anglesDeg.length - 1;
  for (let k = 0; k <= last; k++) {
    const row = side === 1 ? k : last - k;
    const angle = side * anglesDeg[row]!;
    if (angle <= 0) continue;
    const here = lossDb[row]!;
    if (here >= depthDb) return before + ((angle - before) * (depthDb - beforeDb)) / (here - beforeDb);
    before = angle;
    beforeDb = here;
  }
  return 180;
}

/** Full width of a cut between the points `depthDb` below its peak, degrees; 360 where it never falls so far. */
export function beamwidthDeg(cut: Cut, depthDb: number): number {
  return beamReachDeg(cut, depthDb, 1) + beamReachDeg(cut, depthDb, -1);
}

/** A lobe stands at least so far under the peak, and the dip before it so far under the lobe, dB: ripple is no lobe. */
const LEAST_LOBE_DB = 3;

/** The first side lobe of a cut: its distance from the peak and how far it lies below, or null without one. */
export function firstSideLobe(cut: Cut): { offsetDeg: number; belowDb: number } | null {
  const { anglesDeg, lossDb } = cut;
  let dipDb = 0;
  for (let i = 1; i < lossDb.length - 1; i++) {
    if (anglesDeg[i]! <= 0 || anglesDeg[i]! > 90) continue;
    const belowDb = lossDb[i]!;
    dipDb = Math.max(dipDb, belowDb);
    const isPeak = belowDb < lossDb[i - 1]! && belowDb <= lossDb[i + 1]!;
    if (isPeak && belowDb >= LEAST_LOBE_DB && dipDb - belowDb >= LEAST_LOBE_DB)
      return { offsetDeg: anglesDeg[i]!, belowDb };
  }
  return null;
}
