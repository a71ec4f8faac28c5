/** A transmitter's emission mask: distance from the middle in widths, and density below that of the channel, dB. Straight between. */
const MASK: readonly [offsetWidths: number, belowDb: number][] = [
  [0, 0],
  [0.45, 0],
  [0.55, -20],
  [1, -28],
  [1.5, -40],
  [2.5, -40],
];
/** Where the mask ends, widths from the middle. */
const MASK_END = 2.5;
/** How much better a receiver rejects once the gap between the channels' edges is as wide as itself, dB. */
const FAR_REJECTION_DB = 16;

/** Integral of the mask's density from `from` to `to` widths, both 0 or more: a line in dB is an exponential. */
function maskPower(from: number, to: number): number {
  let sum = 0;
  for (let i = 1; i < MASK.length; i++) {
    const [left, leftDb] = MASK[i - 1]!;
    const [right, rightDb] = MASK[i]!;
    const low = Math.max(from, left);
    const high = Math.min(to, right);
    if (high <= low) continue;
    const dbPerWidth = (rightDb - leftDb) / (right - left);
    const atLow = 10 ** ((leftDb + dbPerWidth * (low - left)) / 10);
    const atHigh = 10 ** ((leftDb + dbPerWidth * (high - left)) / 10);
    sum += dbPerWidth === 0 ? atLow * (high - low) : (atHigh - atLow) / ((dbPerWidth / 10) * Math.LN10);
  }
  return sum;
}
const WHOLE = 2 * maskPower(0, MASK_END);

/** The share of a transmitter's power between two offsets from its middle, in its widths. */
function shareBetween(from: number, to: number): number {
  const low = Math.max(-MASK_END, from);
  const high = Math.min(MASK_END, to);
  if (high <= low) return 0;
  return (powerUpTo(high) - powerUpTo(low)) / WHOLE;
}

/** The mask's power from its middle to an offset, less than nothing to the other side. */
const powerUpTo = (offset: number) => (offset < 0 ? -maskPower(0, -offset) : maskPower(0, offset));

/**
 * Share, in dB ≤ 0, of a transmitter's power that disturbs a receiver whose channel lies `offsetMHz` away: what its emission
 * mask lets fall into the receiver's channel, and what the receiver's filter lets in from the part of the transmitter's own channel
 * that lies beside it. `rejectionDb` is the receiver's toward the next channel.
 */
export function channelCouplingDb({
  offsetMHz,
  txWidthMHz,
  rxWidthMHz,
  rejectionDb,
}: {
  offsetMHz: number;
  txWidthMHz: number;
  rxWidthMHz: number;
  rejectionDb: number;
}): number {
  const offset = Math.abs(offsetMHz);
  const leaked = shareBetween((offset - rxWidthMHz / 2) / txWidthMHz, (offset + rxWidthMHz / 2) / txWidthMHz);
  const overlapMHz = Math.max(
    0,
    Math.min(offset + txWidthMHz / 2, rxWidthMHz / 2) - Math.max(offset - txWidthMHz / 2, -rxWidthMHz / 2),
  );
  const gapMHz = offset - (txWidthMHz + rxWidthMHz) / 2;
  const rejection = rejectionDb + (gapMHz >= rxWidthMHz ? FAR_REJECTION_DB : 0);
  const letIn = (1 - overlapMHz / txWidthMHz) * 10 ** (-rejection / 10);
  return Math.min(0, 10 * Math.log10(leaked + letIn));
}

/** Channels farther apart than so many of their widths together do not disturb each other. */
const MEETING_WIDTHS = 2.5;

/** Whether a transmitter's channel lies near enough to a receiver's to be heard there at all. */
export function channelsMeet(
  tx: { frequencyMHz: number; widthMHz: number },
  rx: { frequencyMHz: number; widthMHz: number },
): boolean {
  return Math.abs(tx.frequencyMHz - rx.frequencyMHz) <= (tx.widthMHz + rx.widthMHz) * MEETING_WIDTHS;
}
