import { AT, METRICS, METRIC_COUNT, type Metric } from "./metrics";
import type { Sample } from "./sample";

/**
 * Figures of one series by equal slots of time: least, mean and most of each metric, and how many minutes told it. A minute counts
 * once, whatever was sent twice. Arrays of `slots × METRIC_COUNT`; where `count` is 0 nothing is known, and a gap stays a gap.
 */
export interface Buckets {
  slots: number;
  least: Float32Array;
  mean: Float32Array;
  most: Float32Array;
  count: Uint16Array;
}

const FINE_MINUTES = 5;
export const FINE_A_DAY = (24 * 60) / FINE_MINUTES;
export const DAY_MS = 86_400_000;
export const HOUR_MS = 3_600_000;
const FINE_MS = FINE_MINUTES * 60_000;
const MINUTE_MS = 60_000;

export function emptyBuckets(slots: number): Buckets {
  const cells = slots * METRIC_COUNT;
  return {
    slots,
    least: new Float32Array(cells),
    mean: new Float32Array(cells),
    most: new Float32Array(cells),
    count: new Uint16Array(cells),
  };
}

/** A day of one series in five-minute slots, with the minutes of each slot that have been counted. */
export interface FineDay extends Buckets {
  /** One bit for each minute of a slot. */
  minutes: Uint8Array;
}

export const emptyFineDay = (): FineDay => ({ ...emptyBuckets(FINE_A_DAY), minutes: new Uint8Array(FINE_A_DAY) });

/** Counts a sample of that day in; false where its minute was counted before. */
export function addSample(day: FineDay, dayStartMs: number, { atMs, values }: Sample): boolean {
  const slot = Math.floor((atMs - dayStartMs) / FINE_MS);
  const bit = 1 << (Math.floor((atMs - dayStartMs) / MINUTE_MS) % FINE_MINUTES);
  if (slot < 0 || slot >= FINE_A_DAY) throw new RangeError("a sample of another day");
  if (day.minutes[slot]! & bit) return false;
  day.minutes[slot]! |= bit;
  for (const [key, raw] of Object.entries(values) as [Metric, number][]) {
    const at = AT[key];
    const value = Math.min(raw, METRICS[at]!.most);
    const cell = slot * METRIC_COUNT + at;
    const before = day.count[cell]!;
    day.least[cell] = before === 0 ? value : Math.min(day.least[cell]!, value);
    day.most[cell] = before === 0 ? value : Math.max(day.most[cell]!, value);
    day.mean[cell] = (day.mean[cell]! * before + value) / (before + 1);
    day.count[cell] = before + 1;
  }
  return true;
}

/** Lays slots of one width together into wider ones: `every` of them make one of `into`, from its slot `from` on, which are written anew. */
export function rollUp(fine: Buckets, every: number, into: Buckets, from: number): void {
  const wide = fine.slots / every;
  for (let slot = 0; slot < wide; slot++)
    for (let at = 0; at < METRIC_COUNT; at++) {
      let [count, sum, least, most] = [0, 0, Infinity, -Infinity];
      for (let i = slot * every; i < (slot + 1) * every; i++) {
        const cell = i * METRIC_COUNT + at;
        const n = fine.count[cell]!;
        if (n === 0) continue;
        count += n;
        sum += fine.mean[cell]! * n;
        least = Math.min(least, fine.least[cell]!);
        most = Math.max(most, fine.most[cell]!);
      }
      const cell = (from + slot) * METRIC_COUNT + at;
      into.count[cell] = count;
      into.least[cell] = count > 0 ? least : 0;
      into.mean[cell] = count > 0 ? sum / count : 0;
      into.most[cell] = count > 0 ? most : 0;
    }
}

/** No figure: kept figures are whole steps of their metric in 16 bits. */
const NOTHING = -32768;
const PER_CELL = 4;

/**
 * As bytes: for each metric its least, mean, most and counts by slot, in whole steps, high bytes apart from low ones so that they
 * pack well. Figures come back to within half a step.
 */
export function packBuckets({ slots, least, mean, most, count }: Buckets): Uint8Array {
  const words = slots * METRIC_COUNT;
  const bytes = new Uint8Array(words * PER_CELL * 2);
  let word = 0;
  const put = (value: number) => {
    bytes[word] = (value >> 8) & 0xff;
    bytes[words * PER_CELL + word++] = value & 0xff;
  };
  for (let at = 0; at < METRIC_COUNT; at++) {
    const { step } = METRICS[at]!;
    for (const figures of [least, mean, most])
      for (let slot = 0; slot < slots; slot++) {
        const cell = slot * METRIC_COUNT + at;
        put(count[cell] === 0 ? NOTHING : Math.round(figures[cell]! / step));
      }
    for (let slot = 0; slot < slots; slot++) put(count[slot * METRIC_COUNT + at]!);
  }
  return bytes;
}

/** What `packBuckets` packed. Throws a RangeError where the bytes are not of so many slots. */
export function unpackBuckets(bytes: Uint8Array, slots: number): Buckets {
  const words = slots * METRIC_COUNT;
  if (bytes.length !== words * PER_CELL * 2)
    throw new RangeError(`${bytes.length} bytes are no ${slots} slots of ${METRIC_COUNT} figures`);
  const found = emptyBuckets(slots);
  const { least, mean, most, count } = found;
  let word = 0;
  const low = words * PER_CELL;
  const unsigned = () => (bytes[word]! << 8) | bytes[low + word++]!;
  const signed = () => (unsigned() << 16) >> 16;
  for (let at = 0; at < METRIC_COUNT; at++) {
    const { step } = METRICS[at]!;
    for (const figures of [least, mean, most])
      for (let slot = 0; slot < slots; slot++) {
        const steps = signed();
        figures[slot * METRIC_COUNT + at] = steps === NOTHING ? 0 : steps * step;
      }
    for (let slot = 0; slot < slots; slot++) count[slot * METRIC_COUNT + at] = unsigned();
  }
  return found;
}

/** A fine day as bytes, and back. */
export function packFineDay(day: FineDay): Uint8Array {
  const buckets = packBuckets(day);
  const bytes = new Uint8Array(buckets.length + FINE_A_DAY);
  bytes.set(buckets);
  bytes.set(day.minutes, buckets.length);
  return bytes;
}
export function unpackFineDay(bytes: Uint8Array): FineDay {
  const cut = bytes.length - FINE_A_DAY;
  return { ...unpackBuckets(bytes.subarray(0, cut), FINE_A_DAY), minutes: bytes.slice(cut) };
}
