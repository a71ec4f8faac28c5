import { beamwidthDeg, firstSideLobe, patternLossDb, type AntennaModel, type Polarization } from "../antenna";

/** A level that was read at an angle of the bracket's scale, while the other axis and the far end stood still. */
export interface SweepPoint {
  angleDeg: number;
  levelDbm: number;
}

/** The antenna whose pattern is looked for in a sweep, and the axis that is turned. */
export interface SweptAntenna {
  antenna: AntennaModel;
  polarization: Polarization;
  axis: "azimuth" | "elevation";
}

export interface SweepFit {
  /** Where the peak lies on the bracket's scale, degrees, and between which angles it may lie as well. */
  peakDeg: number;
  fromDeg: number;
  toDeg: number;
  /** Level at the peak, dBm. */
  peakDbm: number;
  /** What the last reading stands on: the main lobe, one beside it, or nobody can tell yet. */
  on: "main" | "side" | "unsure";
  /** From the last reading to the peak, degrees: positive turns toward larger angles. */
  turnDeg: number;
  /** How far the last reading lies under the peak by the pattern, dB. */
  belowPeakDb: number;
  /** Whether there are readings well down on both sides of the peak: only what was swept through has been seen. */
  isPassed: boolean;
}

/** A meter's own scatter, dB. */
const METER_DB = 1.5;
/** How far an antenna's side lobes and nulls differ from its sheet, as a share of their depth. */
const SHEET_SHARE = 0.12;
/** How far the level at the peak may lie from the expected one while the far end is not aimed yet, dB. */
const PEAK_DB = 8;
/** Beyond this rise of the cost, −2 times the logarithm of the likelihood, another place of the peak is not to be thought of: two standard deviations. */
const AS_GOOD = 4;
const STEPS_IN_BEAM = 40;
/** With fewer readings a pattern is found in anything. */
const LEAST_POINTS = 5;
/** Readings on both sides must have fallen by this much for the peak to have been passed, dB. */
const PASSED_DB = 2;

/** Angle between the main lobe and the first one beside it; half of the turn for an antenna that has none. */
export function mainLobeDeg({ antenna, polarization, axis }: SweptAntenna): number {
  const cuts = axis === "azimuth" ? antenna.azimuthCuts : antenna.elevationCuts;
  const lobe = firstSideLobe(polarization === "H" ? cuts.H : cuts.V);
  if (!lobe) return 180;
  const loss = lossOf({ antenna, polarization, axis });
  let [null_, deepest] = [lobe.offsetDeg, -1];
  for (let i = 1; i < 100; i++) {
    const angle = (lobe.offsetDeg * i) / 100;
    if (loss(angle) > deepest) [null_, deepest] = [angle, loss(angle)];
  }
  return null_;
}

/** Loss under the peak, dB, by how far an antenna is off it along the axis that is turned. */
export const lossOf =
  ({ antenna, polarization, axis }: SweptAntenna) =>
  (offDeg: number): number =>
    axis === "azimuth"
      ? patternLossDb(antenna, polarization, offDeg, 0)
      : patternLossDb(antenna, polarization, 0, offDeg);

/**
 * Finds an antenna's own pattern in the levels of a sweep. Every place of the peak is tried; for each the level at the peak follows
 * by weighted least squares with the expected level as a weak prior, and the likeliest place wins. The scatter of a reading
 * grows with its depth in the pattern, since sheets are least true in nulls. Null with fewer than five readings.
 */
export function fitSweep(swept: SweptAntenna, points: readonly SweepPoint[], expectedDbm: number): SweepFit | null {
  if (points.length < LEAST_POINTS) return null;
  const loss = lossOf(swept);
  const cuts = swept.axis === "azimuth" ? swept.antenna.azimuthCuts : swept.antenna.elevationCuts;
  const beamDeg = Math.min(180, beamwidthDeg(swept.polarization === "H" ? cuts.H : cuts.V, 3));
  const lobeDeg = mainLobeDeg(swept);
  const angles = points.map(({ angleDeg }) => angleDeg);
  const reachDeg = Math.min(180, 2.5 * Math.min(lobeDeg, 2 * beamDeg));
  const [low, high] = [Math.min(...angles) - reachDeg, Math.max(...angles) + reachDeg];
  const step = beamDeg / STEPS_IN_BEAM;

  const tried: { peakDeg: number; cost: number; peakDbm: number }[] = [];
  for (let peakDeg = low; peakDeg <= high; peakDeg += step) {
    let [weights, sum, spread] = [1 / PEAK_DB ** 2, expectedDbm / PEAK_DB ** 2, 0];
    const scaled = points.map(({ angleDeg, levelDbm }) => {
      const depth = loss(angleDeg - peakDeg);
      const variance = METER_DB ** 2 + (SHEET_SHARE * depth) ** 2;
      weights += 1 / variance;
      sum += (levelDbm + depth) / variance;
      spread += Math.log(variance);
      return { top: levelDbm + depth, variance };
    });
    const peakDbm = sum / weights;
    const misfit = scaled.reduce((total, { top, variance }) => total + (top - peakDbm) ** 2 / variance, 0);
    tried.push({ peakDeg, peakDbm, cost: misfit + spread + ((peakDbm - expectedDbm) / PEAK_DB) ** 2 });
  }
  const best = tried.reduce((least, one) => (one.cost < least.cost ? one : least));
  const asGood = tried.filter(({ cost }) => cost <= best.cost + AS_GOOD);
  const [fromDeg, toDeg] = [asGood[0]!.peakDeg, asGood.at(-1)!.peakDeg];
  const here = points.at(-1)!.angleDeg;
  const isMain = (peakDeg: number) => Math.abs(here - peakDeg) < lobeDeg;
  const agree = asGood.every(({ peakDeg }) => isMain(peakDeg) === isMain(best.peakDeg));
  const isDown = ({ angleDeg }: SweepPoint) => loss(angleDeg - best.peakDeg) >= PASSED_DB;
  return {
    ...{ peakDeg: best.peakDeg, fromDeg, toDeg, peakDbm: best.peakDbm },
    on: agree ? (isMain(best.peakDeg) ? "main" : "side") : "unsure",
    turnDeg: best.peakDeg - here,
    belowPeakDb: loss(here - best.peakDeg),
    isPassed:
      points.some((one) => one.angleDeg < best.peakDeg && isDown(one)) &&
      points.some((one) => one.angleDeg > best.peakDeg && isDown(one)),
  };
}

/** The level at a peak whose place is known, dBm: the middle of what each reading says of it. */
export function levelAtPeak(swept: SweptAntenna, points: readonly SweepPoint[], peakDeg: number): number {
  const loss = lossOf(swept);
  const tops = points.map(({ angleDeg, levelDbm }) => levelDbm + loss(angleDeg - peakDeg)).sort((x, y) => x - y);
  return tops[tops.length >> 1]!;
}
