import type { Cut } from "./model";

/** Makes a symmetric cut from its right half, angles rising from 0. */
function mirrored(half: [angleDeg: number, lossDb: number][]): Cut {
  const right = half.filter(([angle], i) => angle <= 180 && (i === 0 || angle > half[i - 1]![0]));
  if (right.at(-1)![0] < 180) right.push([180, right.at(-1)![1]]);
  const left = right.slice(1).reverse();
  return {
    anglesDeg: [...left.map(([angle]) => -angle), ...right.map(([angle]) => angle)],
    lossDb: [...left.map(([, loss]) => loss), ...right.map(([, loss]) => loss)],
  };
}

const round2 = (value: number) => Math.round(value * 100) / 100;

/**
 * A narrow beam: parabolic main lobe (3 dB at half the width), a null, two side lobes, then a floor running to the
 * back. Used for dishes, grids, panels and the elevation of sectors when no measured table is at hand.
 */
export function beamCut(widthDeg: number, sideLobeDb: number, frontToBackDb: number): Cut {
  const w = widthDeg;
  const lobe = (multiple: number): [number, number] => [round2(multiple * w), round2(12 * multiple ** 2)];
  const points: [number, number][] = [[0, 0], lobe(0.25), lobe(0.5), lobe(0.75), lobe(1)];
  const nullDb = Math.max(sideLobeDb + 9, 24);
  points.push([round2(1.28 * w), nullDb], [round2(1.65 * w), sideLobeDb], [round2(2.1 * w), nullDb + 1]);
  points.push([round2(2.6 * w), sideLobeDb + 5], [round2(3.4 * w), Math.min(frontToBackDb, sideLobeDb + 11)]);
  const floorFromDeg = Math.min(170, Math.max(3.4 * w + 10, 60));
  if (floorFromDeg > 3.4 * w) points.push([floorFromDeg, frontToBackDb - 3], [180, frontToBackDb]);
  return mirrored(points.map(([angle, loss]) => [Math.min(angle, 180), Math.min(loss, frontToBackDb + 8)]));
}

/** A wide, smooth beam without side lobes: sectors in azimuth, and horns in both planes. */
export function smoothCut(widthDeg: number, frontToBackDb: number): Cut {
  const points: [number, number][] = [];
  for (let angle = 0; angle <= 180; angle += 5) {
    points.push([angle, round2(Math.min(12 * (angle / widthDeg) ** 2, frontToBackDb - (180 - angle) * 0.02))]);
  }
  return mirrored(points);
}

/** An omni's azimuth: round, with the ripple that a real one has. */
export function roundCut(rippleDb: number): Cut {
  const points: [number, number][] = [];
  for (let angle = 0; angle <= 180; angle += 30) points.push([angle, (angle / 30) % 2 === 0 ? 0 : rippleDb]);
  return mirrored(points);
}
