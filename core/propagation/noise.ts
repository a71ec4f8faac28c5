import { requireWithin } from "./bounds";

/** Thermal noise density at 290 K, dBm/Hz: 10 log10(k·T·1000). */
const THERMAL_NOISE_DBM_PER_HZ = -173.975;

/** Receiver noise floor in dBm for a channel of `bandwidthMHz` and a noise figure in dB: kTB·F. */
export function thermalNoiseDbm({
  bandwidthMHz,
  noiseFigureDb,
}: {
  bandwidthMHz: number;
  noiseFigureDb: number;
}): number {
  requireWithin("bandwidthMHz", bandwidthMHz, 1e-6, 1e5);
  requireWithin("noiseFigureDb", noiseFigureDb, 0, 50);
  return THERMAL_NOISE_DBM_PER_HZ + 10 * Math.log10(bandwidthMHz * 1e6) + noiseFigureDb;
}
