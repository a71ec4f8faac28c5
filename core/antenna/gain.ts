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

/** Peak gain at a frequency, dBi, straight between the sheet's points and held beyond them. */
export function peakGainDbi(antenna: AntennaModel, frequencyMHz: number): number {
  const points = antenna.gainAcrossBand;
  const after = points.findIndex((point) => point.frequencyMHz >= frequencyMHz);
  if (after === 0) return points[0]!.gainDbi;
  if (after < 0) return points.at(-1)!.gainDbi;
  const a = points[after - 1]!;
  const b = points[after]!;
  return a.gainDbi + ((b.gainDbi - a.gainDbi) * (frequencyMHz - a.frequencyMHz)) / (b.frequencyMHz - a.frequencyMHz);
}

export const POLARIZATIONS = ["H", "V", "HV", "X45"] as const;
/** H or V: one chain. HV: one chain on each. X45: two chains at ±45°. */
export type Polarization = (typeof POLARIZATIONS)[number];

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
  const along = (cuts: { H: Cut; V: Cut }, angleDeg: number) =>
    polarization === "H" || polarization === "V"
      ? cutLossDb(cuts[polarization], angleDeg)
      : (cutLossDb(cuts.H, angleDeg) + cutLossDb(cuts.V, angleDeg)) / 2;
  const sum = along(antenna.azimuthCuts, azimuthOffDeg) + along(antenna.elevationCuts, elevationOffDeg);
  return Math.min(sum, antenna.frontToBackDb);
}

/** Full width of a cut between the points `depthDb` below its peak, degrees; 360 where it never falls so far. */
export function beamwidthDeg(cut: Cut, depthDb: number): number {
  const reach = (sign: 1 | -1) => {
    for (let angle = 0; angle < 180; angle += 0.05) if (cutLossDb(cut, sign * angle) >= depthDb) return angle;
    return 180;
  };
  return reach(1) + reach(-1);
}

/** The strongest side lobe of a cut: its distance from the peak and how far it lies below, or null without one. */
export function firstSideLobe(cut: Cut): { offsetDeg: number; belowDb: number } | null {
  const { anglesDeg, lossDb } = cut;
  for (let i = 1; i < lossDb.length - 1; i++) {
    if (anglesDeg[i]! <= 0 || anglesDeg[i]! > 90) continue;
    const fallsInto = lossDb[i]! < lossDb[i - 1]! && lossDb[i]! <= lossDb[i + 1]!;
    if (fallsInto) return { offsetDeg: anglesDeg[i]!, belowDb: lossDb[i]! };
  }
  return null;
}
