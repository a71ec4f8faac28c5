import { cutLossDb } from "./gain";
import type { AntennaModel, Cut } from "./model";

/** Gain may pass the pattern's directivity by so much before a sheet contradicts itself, dB: cuts are read off plots. */
const DIRECTIVITY_TOLERANCE_DB = 0.5;
/** Parts into which each stretch of a cut is divided. */
const PARTS = 6;
const RADIANS = Math.PI / 180;

/** Middles and lengths, degrees, of the parts of a cut between two angles, and its loss there. */
function partsOf(cut: Cut, fromDeg: number, toDeg: number): { middleDeg: number; lengthDeg: number; lossDb: number }[] {
  const bounds = [fromDeg, ...cut.anglesDeg.filter((angle) => angle > fromDeg && angle < toDeg), toDeg];
  return bounds.slice(1).flatMap((end, i) => {
    const start = bounds[i]!;
    // A wide stretch without rows is a straight line in decibels, but not in power: no part is wider than 2°.
    const parts = Math.max(PARTS, Math.ceil((end - start) / 2));
    const lengthDeg = (end - start) / parts;
    return Array.from({ length: parts }, (_, k) => {
      const middleDeg = start + (k + 0.5) * lengthDeg;
      return { middleDeg, lengthDeg, lossDb: cutLossDb(cut, middleDeg) };
    });
  });
}

/**
 * Directivity in dBi of an antenna's pattern on one polarization: the whole sphere over the mean of its power, with the loss of
 * a direction the sum of both cuts, never more than the front-to-back ratio, as `patternLossDb` takes it. No antenna has
 * more gain than directivity.
 */
export function directivityDbi(antenna: AntennaModel, polarization: "H" | "V"): number {
  const across = partsOf(antenna.azimuthCuts[polarization], -180, 180);
  const up = partsOf(antenna.elevationCuts[polarization], -90, 90);
  let power = 0;
  for (const { middleDeg, lengthDeg, lossDb } of up) {
    const area = Math.cos(middleDeg * RADIANS) * lengthDeg * RADIANS;
    for (const az of across)
      power += area * az.lengthDeg * RADIANS * 10 ** (-Math.min(lossDb + az.lossDb, antenna.frontToBackDb) / 10);
  }
  return 10 * Math.log10((4 * Math.PI) / power);
}

/** By how much a sheet's gain passes what its own pattern allows on either polarization, dB; 0 within the tolerance. */
export function gainBeyondPatternDb(antenna: AntennaModel): number {
  const { gainAcrossBand } = antenna;
  const beyond = Math.max(
    Math.max(...gainAcrossBand.map(({ hDbi }) => hDbi)) - directivityDbi(antenna, "H"),
    Math.max(...gainAcrossBand.map(({ vDbi }) => vDbi)) - directivityDbi(antenna, "V"),
  );
  return beyond > DIRECTIVITY_TOLERANCE_DB ? beyond : 0;
}
