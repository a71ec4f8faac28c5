import { signedAngleDeg } from "../geodesy";

/** A transmitter as a scan at one place hears it, before the scanning antenna. */
export interface HeardEmitter {
  frequencyMHz: number;
  widthMHz: number;
  /** Where it comes from, true bearing. */
  bearingDeg: number;
  /** Level that an isotropic antenna would receive, dBm. */
  isotropicDbm: number;
  /** Share of the time that it sends. */
  duty: number;
  polarization: "H" | "V" | "both";
}

interface ScanSettings {
  headingDeg: number;
  beamwidthDeg: number;
  gainDbi: number;
  polarization: "H" | "V";
  fromMHz: number;
  toMHz: number;
  binKHz: number;
}

const THERMAL_DBM_PER_MHZ = -113.975;
const SCANNER_NOISE_FIGURE_DB = 7;
const CROSS_POLAR_DB = 18;
const FRONT_TO_BACK_DB = 22;
/** A sender's spectrum beside its channel, dB below it. */
const SHOULDER_DB = 32;

/** Loss of a plain antenna off its heading: parabolic to the front-to-back ratio, 3 dB at half its opening. */
function offDb(offDeg: number, beamwidthDeg: number): number {
  if (beamwidthDeg >= 360) return 0;
  return Math.min(FRONT_TO_BACK_DB, 12 * (offDeg / beamwidthDeg) ** 2);
}

/**
 * What a scanner would print: in every bin the sum of its own noise and of every emitter there, through its antenna,
 * with the flicker of `random`. Levels in dBm per bin.
 */
export function simulateScan(
  emitters: readonly HeardEmitter[],
  { headingDeg, beamwidthDeg, gainDbi, polarization, fromMHz, toMHz, binKHz }: ScanSettings,
  random: () => number,
): { frequenciesMHz: number[]; levelsDbm: number[] } {
  if (!(fromMHz > 0 && toMHz > fromMHz && binKHz > 0))
    throw new RangeError(`a scan from ${fromMHz} to ${toMHz} MHz in bins of ${binKHz} kHz is none`);
  const binMHz = binKHz / 1000;
  const floor = THERMAL_DBM_PER_MHZ + SCANNER_NOISE_FIGURE_DB + 10 * Math.log10(binMHz);
  const heard = emitters.map((emitter) => {
    const off = Math.abs(signedAngleDeg(emitter.bearingDeg - headingDeg));
    const crossed = emitter.polarization !== "both" && emitter.polarization !== polarization;
    const dbm =
      emitter.isotropicDbm +
      gainDbi -
      offDb(off, beamwidthDeg) -
      (crossed ? CROSS_POLAR_DB : 0) +
      10 * Math.log10(emitter.duty);
    return { ...emitter, density: 10 ** (dbm / 10) / emitter.widthMHz };
  });
  const frequenciesMHz: number[] = [];
  const levelsDbm: number[] = [];
  for (let i = 0; fromMHz + (i + 0.5) * binMHz <= toMHz; i++) {
    const at = fromMHz + (i + 0.5) * binMHz;
    let milliwatts = 10 ** (floor / 10);
    for (const { frequencyMHz, widthMHz, density } of heard) {
      const off = Math.abs(at - frequencyMHz);
      if (off <= widthMHz / 2) milliwatts += density * binMHz;
      else if (off <= widthMHz) milliwatts += density * binMHz * 10 ** (-SHOULDER_DB / 10);
    }
    frequenciesMHz.push(Math.round(at * 1e4) / 1e4);
    levelsDbm.push(Math.round((10 * Math.log10(milliwatts) + (random() - 0.5) * 2) * 10) / 10);
  }
  return { frequenciesMHz, levelsDbm };
}
