import { refusedUsually } from "../refused";

/** Thrown for a text that holds no summary of ping. */
export class PingError extends refusedUsually("Let ping end by itself, and bring all that it printed.") {}

interface PingSummary {
  sent: number;
  received: number;
  lostPercent: number;
  /** Round trips, ms; null where nothing came back. */
  meanMs: number | null;
  mostMs: number | null;
}

/** Longest text that is looked through. */
const MOST_CHARACTERS = 5_000_000;

/** Reads the summary that ping prints at its end, of Linux and the BSDs or of Windows; a series before it may be as long as it is. Throws PingError. */
export function readPing(text: string): PingSummary {
  if (text.length > MOST_CHARACTERS)
    throw new PingError(`the text has ${text.length} characters; at most ${MOST_CHARACTERS} are read`, {
      todo: "Cut it down to the summary at its end.",
    });
  const unix = /(\d+) packets transmitted, (\d+) (?:packets )?received/.exec(text);
  const windows = /Sent = (\d+), Received = (\d+)/.exec(text);
  const counted = unix ?? windows;
  if (!counted) throw new PingError("the text has no summary such as “10 packets transmitted, 10 received”");
  const [sent, received] = [Number(counted[1]), Number(counted[2])];
  if (sent === 0 || received > sent)
    throw new PingError(
      `the summary tells of ${received} packets received of ${sent} sent; between 0 and those sent were expected`,
    );
  const trips = /= ?[\d.]+\/([\d.]+)\/([\d.]+)/.exec(text);
  const apart = /Maximum = (\d+)ms, Average = (\d+)ms/.exec(text);
  const [meanMs, mostMs] = trips
    ? [Number(trips[1]), Number(trips[2])]
    : apart
      ? [Number(apart[2]), Number(apart[1])]
      : [null, null];
  return { sent, received, lostPercent: (100 * (sent - received)) / sent, meanMs, mostMs };
}
