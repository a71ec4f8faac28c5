import { z } from "zod";
import { METRICS, type Metric } from "./metrics";

/** What one thing reported at one moment; figures that it did not tell are left out. */
export interface Sample {
  seriesId: string;
  /** Milliseconds since 1970, UTC. */
  atMs: number;
  values: Partial<Record<Metric, number>>;
}

/** A sample may come from a clock that is ahead by this much, and no later than this, ms. */
const AHEAD_MS = 5 * 60_000;
const LATE_MS = 10 * 86_400_000;

const figures = Object.fromEntries(
  METRICS.map(({ key, unit, least, most }) => [
    key,
    z
      .number(`must be a number in ${unit}`)
      .min(least, `must be ${least} ${unit} or more`)
      .max(most === 32_000 ? Number.MAX_SAFE_INTEGER : most, `must be ${most} ${unit} or less`)
      .optional(),
  ]),
) as Record<Metric, z.ZodOptional<z.ZodNumber>>;

/** A sample as devices and collectors push it: the moment as ISO text, figures by their names. */
export const pushedSampleSchema = z.strictObject({
  series: z.string().min(1).max(140),
  at: z.iso.datetime("must be a moment such as 2026-11-27T08:00:00Z"),
  ...figures,
});
export type PushedSample = z.infer<typeof pushedSampleSchema>;

/** What of a batch was not kept, and why; told to whoever sent it, and on the page. */
export interface Received {
  kept: number;
  /** From the future by the clock here: the sender's clock is ahead. */
  ahead: number;
  /** Older than what is still taken. */
  tooLate: number;
  /** Of a series that the plan does not have. */
  unknown: number;
  /** How far the newest was ahead, or behind where it is negative, ms. */
  skewMs: number;
}

/** Sorts out what of a batch can be kept at this moment. */
export function receive(
  samples: readonly PushedSample[],
  knows: (seriesId: string) => boolean,
  nowMs: number,
): { samples: Sample[]; received: Received } {
  const received: Received = { kept: 0, ahead: 0, tooLate: 0, unknown: 0, skewMs: 0 };
  const kept: Sample[] = [];
  let newestMs = -Infinity;
  for (const { series, at, ...values } of samples) {
    const atMs = Date.parse(at);
    newestMs = Math.max(newestMs, atMs);
    if (!knows(series)) received.unknown++;
    else if (atMs > nowMs + AHEAD_MS) received.ahead++;
    else if (atMs < nowMs - LATE_MS) received.tooLate++;
    else kept.push({ seriesId: series, atMs, values });
  }
  received.kept = kept.length;
  if (samples.length > 0) received.skewMs = newestMs - nowMs;
  return { samples: kept, received };
}

/**
 * What a counter went up by. One that wraps went on from 0; one that fell by more than a wrap explains began anew with its
 * device, and what passed before is not known: null.
 */
export function counterDelta(before: number, after: number, bits: 32 | 64, hasRestarted: boolean): number | null {
  if (hasRestarted) return null;
  if (after >= before) return after - before;
  const wrapped = after + 2 ** bits - before;
  return wrapped < 2 ** (bits - 1) ? wrapped : null;
}
