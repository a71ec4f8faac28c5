import { peakGainDbi } from "../antenna";
import type { LinkEnd } from "../plan";
import { channelNoise } from "../spectrum";

/**
 * How far noise stands above thermal at a receiver: what its radio is set to, or what a scan at its place heard in the
 * channel where that is more. A scan speaks through its own antenna; the receiver's is taken to hear so much more as its
 * peak gain is higher.
 */
export function noiseRise(
  to: LinkEnd,
  thermalDbm: number,
  headingDeg: number,
  { frequencyMHz, widthMHz }: { frequencyMHz: number; widthMHz: number },
): { riseDb: number; reason: string } {
  const set = { riseDb: to.radio.interferenceDb, reason: "as set on the radio" };
  const noise = channelNoise(to.scans, {
    headingDeg,
    polarization: to.radio.polarization,
    frequencyMHz,
    widthMHz,
  });
  if (!noise) return set;
  const gainDb = peakGainDbi(to.antenna, frequencyMHz) - noise.scan.gainDbi;
  const milliwatts = 10 ** (thermalDbm / 10) + 10 ** ((noise.powerDbm + gainDb - to.radio.cableLossDb) / 10);
  const riseDb = 10 * Math.log10(milliwatts) - thermalDbm;
  if (riseDb <= set.riseDb) return set;
  const { scannedAt, polarization, gainDbi } = noise.scan;
  return {
    riseDb,
    reason: `scan of ${scannedAt.slice(0, 10)} toward ${Math.round(noise.scan.headingDeg)}°, ${polarization}, through ${gainDbi} dBi`,
  };
}
