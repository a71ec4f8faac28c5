// How well a sweep's pattern is found again: five hundred sweeps with a meter that scatters by 1.5 dB, over every directed antenna of the
// demo's library, ended at the strongest reading, in every second one of which that is a lobe beside the main one.
import { fitSweep, mainLobeDeg, type SweepPoint, type SweptAntenna } from "#core/aiming";
import { beamwidthDeg, firstSideLobe, patternLossDb } from "#core/antenna";
import { demoPlan, islandSurface } from "#demo";
import { print } from "./print";

const SWEEPS = 500;
const METER_DB = 1.5;
/** Readings of a sweep, and by how much an antenna differs from its sheet, as a share of each depth. */
const READINGS = 14;
const SHEET_SHARE = 0.1;
let state = 20_261_127;
const random = () => {
  state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
  return state / 2 ** 32;
};
const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());

const antennas = demoPlan(islandSurface()).equipment.flatMap((item) => (item.kind === "antenna" ? [item.body] : []));
const swept = antennas.flatMap((antenna) =>
  (["azimuth", "elevation"] as const).flatMap((axis): SweptAntenna[] => {
    const cut = axis === "azimuth" ? antenna.azimuthCuts.V : antenna.elevationCuts.V;
    return firstSideLobe(cut) ? [{ antenna, polarization: "V", axis }] : [];
  }),
);

let [toldApart, turnedRight, unsure] = [0, 0, 0];
for (let i = 0; i < SWEEPS; i++) {
  const one = swept[i % swept.length]!;
  const cut = one.axis === "azimuth" ? one.antenna.azimuthCuts.V : one.antenna.elevationCuts.V;
  const [beamDeg, lobeDeg] = [beamwidthDeg(cut, 3), firstSideLobe(cut)!.offsetDeg];
  const peakDeg = (random() - 0.5) * 20;
  const peakDbm = -52 + 3 * normal();
  const isSide = i % 2 === 1;
  const side = random() < 0.5 ? 1 : -1;
  // Whoever stands on the lobe beside has swept through it and past the null on either side of it; the rest through the main one.
  const middleDeg = peakDeg + (isSide ? side * lobeDeg : (random() - 0.5) * beamDeg);
  const halfDeg = isSide ? 0.9 * Math.abs(lobeDeg - mainLobeDeg(one)) + beamDeg / 2 : 1.5 * beamDeg;
  const sheet = 1 + SHEET_SHARE * normal();
  const points: SweepPoint[] = [];
  for (let step = 0; step < READINGS; step++) {
    const angleDeg = middleDeg - halfDeg + (2 * halfDeg * step) / (READINGS - 1);
    const off = angleDeg - peakDeg;
    const lossDb =
      one.axis === "azimuth" ? patternLossDb(one.antenna, "V", off, 0) : patternLossDb(one.antenna, "V", 0, off);
    points.push({ angleDeg, levelDbm: peakDbm - lossDb * sheet + METER_DB * normal() });
  }
  const strongest = points.reduce((most, point) => (point.levelDbm > most.levelDbm ? point : most));
  points.push({ ...strongest, levelDbm: strongest.levelDbm });
  const fit = fitSweep(one, points, -52)!;
  const isOnMain = Math.abs(strongest.angleDeg - peakDeg) < mainLobeDeg(one);
  if (fit.on === "unsure") unsure++;
  if (fit.on === (isOnMain ? "main" : "side")) toldApart++;
  if (Math.abs(fit.peakDeg - peakDeg) <= Math.max(1, beamDeg / 10)) turnedRight++;
}
print(`main lobe told from one beside it, of ${SWEEPS} sweeps`, (100 * toldApart) / SWEEPS, "%", 98, true);
print("turn told within 1° or a tenth of the beam", (100 * turnedRight) / SWEEPS, "%", 95, true);
console.log(`${unsure} sweeps were said to be undecided; ${swept.length} antennas and axes`);
