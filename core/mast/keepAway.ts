import { patternLossDb, peakGainDbi } from "../antenna";
import { signedAngleDeg } from "../geodesy";
import { exposureDistanceM } from "./exposure";
import type { OnMast } from "./mast";

/** ICNIRP 2020, table 5, whole-body limits of power density averaged over 30 minutes: W/m². */
export function exposureLimitWPerM2(frequencyMHz: number, whom: "public" | "worker"): number {
  const atLeast = whom === "public" ? 10 : 50;
  if (frequencyMHz >= 2000) return atLeast;
  return whom === "public" ? Math.max(2, frequencyMHz / 200) : Math.max(10, frequencyMHz / 40);
}

/** What an antenna radiates into a direction, dBm EIRP, by its azimuth cut; one without a heading radiates its most all round. */
function eirpTowardDbm({ end: { radio, antenna }, headingDeg }: OnMast, towardDeg: number | null): number {
  const offDeg = headingDeg === null || towardDeg === null ? 0 : signedAngleDeg(towardDeg - headingDeg);
  const peakDbm = radio.txPowerDbm - radio.cableLossDb + peakGainDbi(antenna, radio.frequencyMHz, radio.polarization);
  return peakDbm - patternLossDb(antenna, radio.polarization, offDeg, 0);
}

/**
 * How far people keep away from an antenna's front, m, as if everything on its mast sent all the time at its set power. Densities add, each
 * as a share of its own band's limit (ICNIRP 2020, equation 3): what the other antennas of the mast send the same way is taken as if it came
 * from the same point, so their heights are not looked at, which errs toward the longer distance.
 */
export function keepAwayM(one: OnMast, mast: readonly OnMast[]): { publicM: number; workerM: number } {
  const within = (whom: "public" | "worker") => {
    const squares = [one, ...mast.filter((other) => other.end.radio.id !== one.end.radio.id)].map(
      (other) =>
        exposureDistanceM({
          eirpDbm: eirpTowardDbm(other, one.headingDeg),
          limitWPerM2: exposureLimitWPerM2(other.end.radio.frequencyMHz, whom),
        }) ** 2,
    );
    return Math.sqrt(squares.reduce((sum, square) => sum + square, 0));
  };
  return { publicM: within("public"), workerM: within("worker") };
}
