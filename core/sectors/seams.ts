import type { AntennaModel, Polarization } from "../antenna";
import { normalizeAzimuthDeg, signedAngleDeg } from "../geodesy";
import { azimuthLossDb, edgesOf } from "./edges";

/** One sector as its neighbours on the mast see it. */
interface Beam {
  radioId: string;
  azimuthDeg: number;
  antenna: AntennaModel;
  polarization: Polarization;
}

/** Between a sector and the next one clockwise. */
interface Seam {
  fromRadioId: string;
  toRadioId: string;
  /** Where both have fallen by the same, true bearing. */
  bearingDeg: number;
  /** By how much each has fallen there, dB. */
  depthDb: number;
  /** Degrees in which both stand within 6 dB of their peaks; negative where neither does. */
  overlapDeg: number;
}

/** Steps in which a seam is looked for, degrees. */
const STEP_DEG = 0.25;
const EDGE_DB = 6;

/** The seams between the sectors of one mast, clockwise; none where there is only one. */
export function seamsOf(beams: readonly Beam[]): Seam[] {
  if (beams.length < 2) return [];
  const round = [...beams].sort((x, y) => normalizeAzimuthDeg(x.azimuthDeg) - normalizeAzimuthDeg(y.azimuthDeg));
  return round.map((from, i) => seamBetween(from, round[(i + 1) % round.length]!));
}

function seamBetween(from: Beam, to: Beam): Seam {
  const apartDeg = normalizeAzimuthDeg(to.azimuthDeg - from.azimuthDeg);
  const lossOf = ({ antenna, polarization, azimuthDeg }: Beam, bearingDeg: number) =>
    azimuthLossDb(antenna, polarization, signedAngleDeg(bearingDeg - azimuthDeg));
  let onDeg = 0;
  while (onDeg < apartDeg && lossOf(from, from.azimuthDeg + onDeg) < lossOf(to, from.azimuthDeg + onDeg))
    onDeg += STEP_DEG;
  const bearingDeg = normalizeAzimuthDeg(from.azimuthDeg + Math.min(onDeg, apartDeg));
  const rightDeg = edgesOf(from.antenna, from.polarization).find(({ depthDb }) => depthDb === EDGE_DB)!.rightDeg;
  const leftDeg = edgesOf(to.antenna, to.polarization).find(({ depthDb }) => depthDb === EDGE_DB)!.leftDeg;
  return {
    fromRadioId: from.radioId,
    toRadioId: to.radioId,
    bearingDeg,
    depthDb: Math.max(lossOf(from, bearingDeg), lossOf(to, bearingDeg)),
    overlapDeg: rightDeg + leftDeg - apartDeg,
  };
}

/** The middle of the widest gap between the headings of a mast, whole degrees; 0 without any heading. */
export function widestGapDeg(azimuthsDeg: readonly number[]): number {
  if (azimuthsDeg.length === 0) return 0;
  const round = azimuthsDeg.map(normalizeAzimuthDeg).sort((x, y) => x - y);
  let [middle, widest] = [0, -1];
  round.forEach((azimuth, i) => {
    const next = i + 1 < round.length ? round[i + 1]! : round[0]! + 360;
    if (next - azimuth > widest) [widest, middle] = [next - azimuth, azimuth + (next - azimuth) / 2];
  });
  return Math.round(normalizeAzimuthDeg(middle));
}

/** Headings evenly round, each sector turned as little as that allows: the first keeps its own. */
export function evenHeadings(azimuthsDeg: readonly number[]): number[] {
  const first = azimuthsDeg[0] ?? 0;
  const order = azimuthsDeg
    .map((azimuth, i) => ({ i, onDeg: normalizeAzimuthDeg(azimuth - first) }))
    .sort((x, y) => x.onDeg - y.onDeg);
  const even = new Array<number>(azimuthsDeg.length);
  order.forEach(({ i }, place) => {
    even[i] = Math.round(normalizeAzimuthDeg(first + (place * 360) / azimuthsDeg.length));
  });
  return even;
}
