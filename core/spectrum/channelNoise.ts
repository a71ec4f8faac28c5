import { signedAngleDeg } from "../geodesy";
import type { Scan } from "../plan";

/** What a scan says of one channel. */
interface ChannelNoise {
  /** Power in the channel from outside, dBm, as the scanning antenna heard it. */
  powerDbm: number;
  scan: Scan;
}

/**
 * Power in a channel from a scan: each level, taken as even over its bin, counted by how much of its stretch of the
 * frequency axis lies in the channel. Null where the scan covers less than the whole channel.
 */
export function channelPowerDbm(scan: Scan, frequencyMHz: number, widthMHz: number): number | null {
  const { frequenciesMHz: at, levelsDbm, binKHz } = scan;
  const low = frequencyMHz - widthMHz / 2;
  const high = frequencyMHz + widthMHz / 2;
  const binMHz = binKHz / 1000;
  let milliwatts = 0;
  let covered = 0;
  for (let i = 0; i < at.length; i++) {
    // A sample speaks for the axis half-way to its neighbours, at the ends for its own bin.
    const from = i === 0 ? at[0]! - binMHz / 2 : (at[i - 1]! + at[i]!) / 2;
    const to = i === at.length - 1 ? at[i]! + binMHz / 2 : (at[i]! + at[i + 1]!) / 2;
    const inside = Math.min(high, to) - Math.max(low, from);
    if (inside <= 0) continue;
    covered += inside;
    milliwatts += (10 ** (levelsDbm[i]! / 10) * inside) / binMHz;
  }
  return covered >= widthMHz - binMHz ? 10 * Math.log10(milliwatts) : null;
}

const THERMAL_DBM_PER_MHZ = -113.975;
/** A scanner's own noise is taken to lie at most this far above thermal. */
const WORST_SCANNER_DB = 10;

/** A scanner's own noise, dBm per MHz: the level under which a tenth of its bins lie, never more than a poor receiver's. */
export function scannerFloorDbmPerMHz({ levelsDbm, binKHz }: Pick<Scan, "levelsDbm" | "binKHz">): number {
  const low = ranked(levelsDbm, Math.floor(levelsDbm.length / 10)) - 10 * Math.log10(binKHz / 1000);
  return Math.min(low, THERMAL_DBM_PER_MHZ + WORST_SCANNER_DB);
}

/** The value that would stand at a place among some sorted ones. Most are never put in order: a step of a drag asks for it. */
function ranked(some: readonly number[], place: number): number {
  const values = Float64Array.from(some);
  let [low, high] = [0, values.length - 1];
  while (low < high) {
    const pivot = values[(low + high) >> 1]!;
    let [left, right] = [low, high];
    while (left <= right) {
      while (values[left]! < pivot) left++;
      while (values[right]! > pivot) right--;
      if (left > right) break;
      [values[left], values[right]] = [values[right]!, values[left]!];
      left++;
      right--;
    }
    if (place <= right) high = right;
    else if (place >= left) low = left;
    else break;
  }
  return values[place]!;
}

/** How far a scan's heading may be off a radio's and still speak for it, besides half of its own opening. */
const HEADING_TOLERANCE_DEG = 15;

/** Whether a scan was made in a direction in which it speaks for a radio that looks at a heading. */
export function scanLooksToward(scan: Pick<Scan, "headingDeg" | "beamwidthDeg">, headingDeg: number): boolean {
  const offDeg = Math.abs(signedAngleDeg(scan.headingDeg - headingDeg));
  return offDeg <= scan.beamwidthDeg / 2 + HEADING_TOLERANCE_DEG;
}

/**
 * The scan that speaks for a radio, and what it heard in the radio's channel: among the scans that cover the channel,
 * look the radio's way and have its polarization (either will do for a radio on both), the newest. Null without one.
 */
export function channelNoise(
  scans: readonly Scan[],
  radio: { headingDeg: number; polarization: string; frequencyMHz: number; widthMHz: number },
): ChannelNoise | null {
  let best: ChannelNoise | null = null;
  for (const scan of scans) {
    if (!scanLooksToward(scan, radio.headingDeg)) continue;
    if ((radio.polarization === "H" || radio.polarization === "V") && scan.polarization !== radio.polarization)
      continue;
    if (best && best.scan.scannedAt >= scan.scannedAt) continue;
    const powerDbm = channelPowerDbm(scan, radio.frequencyMHz, radio.widthMHz);
    if (powerDbm === null) continue;
    best = { powerDbm, scan };
  }
  if (!best) return null;
  // What the scanner makes itself is no noise of the place.
  const floor = 10 ** (scannerFloorDbmPerMHz(best.scan) / 10) * radio.widthMHz;
  return { ...best, powerDbm: 10 * Math.log10(Math.max(1e-18, 10 ** (best.powerDbm / 10) - floor)) };
}
