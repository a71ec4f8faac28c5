import { wavelengthM } from "../propagation";

/**
 * Coupling loss in dB between the ports of two antennas on one structure, `verticalM` and `horizontalM` apart. `aGainDbi` and
 * `bGainDbi` are their gains toward each other. Side by side it is 22 + 20 log(d/λ) − (Ga + Gb), one over the other
 * 28 + 40 log(v/λ), between the two by the angle. Made for far fields: never under 0 dB. At least one distance must be
 * above 0. Source: Report ITU-R M.2244.
 */
export function mastIsolationDb({
  verticalM,
  horizontalM,
  frequencyGHz,
  aGainDbi,
  bGainDbi,
}: {
  verticalM: number;
  horizontalM: number;
  frequencyGHz: number;
  aGainDbi: number;
  bGainDbi: number;
}): number {
  if (!(verticalM >= 0 && horizontalM >= 0 && verticalM + horizontalM > 0))
    throw new RangeError(
      `verticalM is ${verticalM} and horizontalM ${horizontalM}; neither may be under 0, and one must be above it`,
    );
  const lambdaM = wavelengthM(frequencyGHz);
  const besideDb = 22 + 20 * Math.log10(horizontalM / lambdaM) - (aGainDbi + bGainDbi);
  const aboveDb = 28 + 40 * Math.log10(verticalM / lambdaM);
  if (verticalM === 0) return Math.max(0, besideDb);
  if (horizontalM === 0) return Math.max(0, aboveDb);
  const angleDeg = (Math.atan2(verticalM, horizontalM) * 180) / Math.PI;
  return Math.max(0, ((aboveDb - besideDb) * angleDeg) / 90 + besideDb);
}
