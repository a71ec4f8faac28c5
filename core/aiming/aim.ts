import { signedAngleDeg } from "../geodesy";
import { EARTH_RADIUS_KM } from "../propagation";
import type { LinkEnd } from "../plan";

/**
 * Angle below the horizontal, degrees, at which one end sees the other along the refracted ray; negative looks up.
 * Half the earth's turning between the ends counts as downward.
 */
export function tiltDownDeg(fromAmslM: number, toAmslM: number, distanceM: number, kFactor: number): number {
  const slope = (fromAmslM - toAmslM) / distanceM;
  const turning = distanceM / (2 * kFactor * EARTH_RADIUS_KM * 1000);
  return ((Math.atan(slope) + turning) * 180) / Math.PI;
}

export interface Pointing {
  azimuthDeg: number;
  /** Tilt of the bracket, electrical tilt not counted. */
  mechanicalTiltDownDeg: number;
  azimuthOffDeg: number;
  elevationOffDeg: number;
}

/** Where an end points and how far that is from the other end; an end without a set direction aims at it but for `errorDeg`. */
export function pointingOf(end: LinkEnd, bearingDeg: number, pathTiltDownDeg: number, errorDeg = 0): Pointing {
  const electrical = end.antenna.electricalTiltDownDeg;
  const azimuthDeg = end.radio.azimuthDeg ?? bearingDeg;
  const mechanicalTiltDownDeg = end.radio.tiltDownDeg ?? pathTiltDownDeg - electrical;
  const azimuthOffDeg = end.radio.azimuthDeg === null ? errorDeg : signedAngleDeg(bearingDeg - azimuthDeg);
  // A tilted bracket lowers what lies ahead, nothing at its sides, and lifts what lies behind; electrical tilt lowers all.
  const mechanicalHere = mechanicalTiltDownDeg * Math.cos((azimuthOffDeg * Math.PI) / 180);
  return {
    azimuthDeg,
    mechanicalTiltDownDeg,
    azimuthOffDeg,
    elevationOffDeg: mechanicalHere + electrical - pathTiltDownDeg,
  };
}

/** How far down and up the bracket reaches as it is mounted, degrees. */
export function bracketReach(end: LinkEnd): { downDeg: number; upDeg: number } {
  const { bracketDownDeg, bracketUpDeg } = end.antenna;
  return end.radio.bracketTurned
    ? { downDeg: bracketUpDeg, upDeg: bracketDownDeg }
    : { downDeg: bracketDownDeg, upDeg: bracketUpDeg };
}

/** Degrees by which a tilt lies beyond what the bracket reaches; 0 within it. */
export function tiltBeyondBracketDeg(end: LinkEnd, mechanicalTiltDownDeg: number): number {
  const { downDeg, upDeg } = bracketReach(end);
  return Math.max(0, mechanicalTiltDownDeg - downDeg, -mechanicalTiltDownDeg - upDeg);
}
