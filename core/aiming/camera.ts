import { normalizeAzimuthDeg, signedAngleDeg } from "../geodesy";

/** How a phone is held, as browsers tell it: turns about its z, x and y axes in that order, z counterclockwise from north, degrees. */
export interface Held {
  alphaDeg: number;
  betaDeg: number;
  gammaDeg: number;
}

/** A direction by its azimuth, clockwise from north, and its height above the level, degrees. */
export interface Direction {
  azimuthDeg: number;
  upDeg: number;
}

type Vector = readonly [x: number, y: number, z: number];

const RAD = Math.PI / 180;
/** Right, up and out of the screen, each in the world's east, north and up: the columns of Z(alpha) X(beta) Y(gamma). W3C Device Orientation and Motion, section 4.1. */
function axesOf({ alphaDeg, betaDeg, gammaDeg }: Held): { right: Vector; up: Vector; out: Vector } {
  const [cA, sA] = [Math.cos(alphaDeg * RAD), Math.sin(alphaDeg * RAD)];
  const [cB, sB] = [Math.cos(betaDeg * RAD), Math.sin(betaDeg * RAD)];
  const [cG, sG] = [Math.cos(gammaDeg * RAD), Math.sin(gammaDeg * RAD)];
  return {
    right: [cA * cG - sA * sB * sG, sA * cG + cA * sB * sG, -cB * sG],
    up: [-sA * cB, cA * cB, sB],
    out: [cA * sG + sA * sB * cG, sA * sG - cA * sB * cG, cB * cG],
  };
}

const dot = (v: Vector, w: Vector): number => v[0] * w[0] + v[1] * w[1] + v[2] * w[2];

const vectorOf = ({ azimuthDeg, upDeg }: Direction): Vector => [
  Math.sin(azimuthDeg * RAD) * Math.cos(upDeg * RAD),
  Math.cos(azimuthDeg * RAD) * Math.cos(upDeg * RAD),
  Math.sin(upDeg * RAD),
];

/** Where the camera at a phone's back looks. */
export function cameraLooks(held: Held): Direction {
  const { out } = axesOf(held);
  return {
    azimuthDeg: normalizeAzimuthDeg(Math.atan2(-out[0], -out[1]) / RAD),
    upDeg: Math.asin(Math.max(-1, Math.min(1, -out[2]))) / RAD,
  };
}

/** A direction as the camera sees it. */
export interface Seen {
  /** From the middle of the picture, in focal lengths, to the right and up of a screen that is turned; null behind the camera. */
  at: { right: number; up: number } | null;
  /** How far to turn to have it in the middle: right and up are positive, degrees. */
  turnDeg: number;
  raiseDeg: number;
}

/**
 * Where a direction stands in the picture of a phone's back camera. `screenDeg` is how far the screen is turned from its upright, clockwise
 * as browsers tell it (0, 90, 180, 270).
 */
export function seenBy(held: Held, target: Direction, screenDeg = 0): Seen {
  const { right, up, out } = axesOf(held);
  const looks = cameraLooks(held);
  const vector = vectorOf(target);
  const ahead = -dot(vector, out);
  const [x, y] = [dot(vector, right), dot(vector, up)];
  const [cS, sS] = [Math.cos(screenDeg * RAD), Math.sin(screenDeg * RAD)];
  return {
    at: ahead > 1e-3 ? { right: (x * cS - y * sS) / ahead, up: (x * sS + y * cS) / ahead } : null,
    turnDeg: signedAngleDeg(target.azimuthDeg - looks.azimuthDeg),
    raiseDeg: target.upDeg - looks.upDeg,
  };
}
