import { plainIssue } from "#core/plan";
import { z } from "zod";
import { decodeText, readJson } from "../text";
import { refusedUsually } from "../refused";

/** Thrown for a file that holds no result of iperf3. */
export class IperfError extends refusedUsually(
  "Run the test to its end with “iperf3 --json” and bring the whole file.",
) {}

/** What arrived in one direction of a test, as the receiver counted it. */
export interface IperfFlow {
  /** From whoever began the test, or back to it. */
  direction: "fromClient" | "toClient";
  mbps: number;
  /** Least and most of its intervals; null where it has none. */
  leastMbps: number | null;
  mostMbps: number | null;
  /** Of TCP, where the sender tells them. */
  retransmits: number | null;
  /** Of UDP. */
  lostPercent: number | null;
  jitterMs: number | null;
}

export interface IperfResult {
  protocol: "TCP" | "UDP" | "SCTP";
  streams: number;
  seconds: number;
  /** When it began, ISO. */
  startedAt: string;
  flows: IperfFlow[];
}

/** Longest file that is read: a test of a day has some megabytes. */
export const IPERF_MOST_BYTES = 32 * 1024 * 1024;

const count = z.number().min(0);
const sumSchema = z.object({
  bits_per_second: count,
  seconds: count.optional(),
  retransmits: count.optional(),
  jitter_ms: count.optional(),
  lost_percent: z.number().min(0).max(100).optional(),
});
const intervalSchema = z.object({
  sum: z.object({ bits_per_second: count, omitted: z.boolean().optional() }).optional(),
  sum_bidir_reverse: z.object({ bits_per_second: count, omitted: z.boolean().optional() }).optional(),
});
const resultSchema = z.object({
  start: z.object({
    timestamp: z.object({ timesecs: z.number().min(0).max(1e11) }),
    test_start: z.object({
      protocol: z.enum(["TCP", "UDP", "SCTP"]),
      num_streams: z.number().int().min(1).max(1000),
      duration: count,
      reverse: z.number().default(0),
      bidir: z.number().default(0),
    }),
  }),
  intervals: z.array(intervalSchema).default([]),
  end: z.object({
    sum: sumSchema.optional(),
    sum_sent: sumSchema.optional(),
    sum_received: sumSchema.optional(),
    sum_sent_bidir_reverse: sumSchema.optional(),
    sum_received_bidir_reverse: sumSchema.optional(),
  }),
});
type Sum = z.infer<typeof sumSchema>;

/**
 * Reads the JSON that iperf3 3.x writes with --json or --json-stream: TCP, UDP and SCTP, forward, --reverse and --bidir, with any number of
 * streams. Rates are the receiver's, since only what arrives counts. Throws IperfError.
 */
export function readIperf(bytes: Uint8Array): IperfResult {
  if (bytes.length > IPERF_MOST_BYTES)
    throw new IperfError(`the file has ${bytes.length} bytes; at most ${IPERF_MOST_BYTES} are read`, {
      todo: "Run a shorter test, or one that reports less often.",
    });
  const raw = wholeOf(decodeText(bytes).text);
  const { error } = raw as { error?: unknown };
  if (typeof error === "string") throw new IperfError(`the test failed: ${error.slice(0, 200)}`);
  const parsed = resultSchema.safeParse(raw);
  if (!parsed.success) {
    const [issue] = parsed.error.issues;
    throw new IperfError(`${issue!.path.join(".")} ${plainIssue(issue!)}`);
  }
  const { start, intervals, end } = parsed.data;
  const { protocol, num_streams: streams, duration, reverse } = start.test_start;
  const first = flowOf(
    reverse ? "toClient" : "fromClient",
    { sent: end.sum_sent ?? end.sum, received: end.sum_received ?? end.sum },
    intervals.map(({ sum }) => sum),
  );
  const back = flowOf(
    "toClient",
    { sent: end.sum_sent_bidir_reverse, received: end.sum_received_bidir_reverse },
    intervals.map(({ sum_bidir_reverse: sum }) => sum),
  );
  const flows = [first, back].filter((flow) => flow !== null);
  if (flows.length === 0) throw new IperfError("end has no sum: the test was broken off before anything was counted");
  return {
    protocol,
    streams,
    seconds: duration,
    startedAt: new Date(start.timestamp.timesecs * 1000).toISOString(),
    flows,
  };
}

/** The result as one object, whether it stands in one or in a line for each event. */
function wholeOf(text: string): object {
  const isStream = /^\s*\{\s*"event"/.test(text);
  if (!isStream) return objectOf(text, "the file");
  const whole: Record<string, unknown> = { intervals: [] };
  for (const [index, line] of text.split("\n").entries()) {
    if (line.trim() === "") continue;
    const { event, data } = objectOf(line, `line ${index + 1}`) as { event?: unknown; data?: unknown };
    if (event === "interval") (whole.intervals as unknown[]).push(data);
    else if (event === "start" || event === "end" || event === "error") whole[event] = data;
  }
  return whole;
}

function objectOf(text: string, what: string): object {
  const { value, problem } = readJson(text);
  if (problem) throw new IperfError(`${what} ${problem}`);
  if (value === null || typeof value !== "object" || Array.isArray(value))
    throw new IperfError(`${what} holds no result; an object with "start", "intervals" and "end" was expected`);
  return value;
}

const megabits = (bitsPerSecond: number): number => bitsPerSecond / 1e6;

function flowOf(
  direction: IperfFlow["direction"],
  { sent, received }: { sent: Sum | undefined; received: Sum | undefined },
  intervals: readonly ({ bits_per_second: number; omitted?: boolean | undefined } | undefined)[],
): IperfFlow | null {
  if (!received) return null;
  const counted = intervals.flatMap((one) => (one && !one.omitted ? [megabits(one.bits_per_second)] : []));
  return {
    direction,
    mbps: megabits(received.bits_per_second),
    leastMbps: counted.length > 0 ? counted.reduce((least, one) => Math.min(least, one)) : null,
    mostMbps: counted.length > 0 ? counted.reduce((most, one) => Math.max(most, one)) : null,
    retransmits: sent?.retransmits ?? null,
    lostPercent: received.lost_percent ?? null,
    jitterMs: received.jitter_ms ?? null,
  };
}

/** Rates both ways of some results, by the end at which the test was begun: toward end b, and back; null where nobody measured. The mean of several. */
export function ratesOf(
  results: readonly IperfResult[],
  begunAt: "a" | "b",
): { downMbps: number | null; upMbps: number | null } {
  const flows = results.flatMap(({ flows: some }) => some);
  const mean = (direction: IperfFlow["direction"]) => {
    const rates = flows.filter((flow) => flow.direction === direction).map(({ mbps }) => mbps);
    return rates.length === 0 ? null : rates.reduce((sum, rate) => sum + rate, 0) / rates.length;
  };
  const [out, back] = [mean("fromClient"), mean("toClient")];
  return begunAt === "a" ? { downMbps: out, upMbps: back } : { downMbps: back, upMbps: out };
}
