/** How a figure is watched for having left its usual value. */
export interface CusumBounds {
  /** Days from which the usual value is learned. */
  learnDays: number;
  /** What it may stray by for as long as it likes, in its own unit. */
  slack: number;
  /** Strayed beyond that by so much in all, summed over days, it has left. */
  limit: number;
  /** Back within the slack for so many days in a row it has returned. */
  backDays: number;
}

/** A time for which a figure had left its usual value. */
export interface Departure {
  /** The day that told; what came later is not needed to say so. */
  raisedAt: number;
  /** The day from which it strayed. */
  since: number;
  /** The day on which it had returned; null while it has not. */
  endedAt: number | null;
  /** The usual value, and the median of the days from leaving to return, or to the end. */
  usual: number;
  reached: number;
  direction: -1 | 1;
}

/**
 * Days on which a daily figure had left its usual value: the tabular CUSUM of E. S. Page, "Continuous inspection schemes",
 * Biometrika 41 (1954), both ways unless one is asked for. The usual value is the median of the first known days, and is learned anew
 * from a day in `anew` (a job was done, the plan was changed). A null is a day of which nothing is known.
 */
export function departures(
  figures: readonly (number | null)[],
  bounds: CusumBounds,
  way: "down" | "up" | "both" = "both",
  anew: readonly number[] = [],
): Departure[] {
  const found: Departure[] = [];
  let learned: number[] = [];
  let usual: number | null = null;
  let [low, high, lowSince, highSince, back] = [0, 0, -1, -1, 0];
  let open: Departure | null = null;
  const fresh = new Set(anew);
  const begin = () => ([low, high, lowSince, highSince, back] = [0, 0, -1, -1, 0]);
  for (const [day, figure] of figures.entries()) {
    if (fresh.has(day)) {
      if (open) open.endedAt = day;
      [open, usual, learned] = [null, null, []];
      begin();
    }
    if (figure === null) continue;
    if (usual === null) {
      learned.push(figure);
      if (learned.length < bounds.learnDays) continue;
      usual = middle(learned);
      continue;
    }
    if (open) {
      back = Math.abs(figure - usual) <= bounds.slack ? back + 1 : 0;
      if (back < bounds.backDays) continue;
      open.endedAt = day;
      open = null;
      begin();
      continue;
    }
    low = Math.max(0, low + usual - figure - bounds.slack);
    high = Math.max(0, high + figure - usual - bounds.slack);
    lowSince = low === 0 ? -1 : lowSince < 0 ? day : lowSince;
    highSince = high === 0 ? -1 : highSince < 0 ? day : highSince;
    const isLow = way !== "up" && low > bounds.limit;
    if (!isLow && !(way !== "down" && high > bounds.limit)) continue;
    open = {
      ...{ raisedAt: day, since: isLow ? lowSince : highSince, endedAt: null },
      ...{ usual, reached: figure, direction: isLow ? -1 : 1 },
    };
    found.push(open);
  }
  for (const one of found) {
    one.since = onsetOf(figures, one, bounds.slack);
    const during = figures.slice(one.since, one.endedAt ?? figures.length).filter((figure) => figure !== null);
    one.reached = middle(during);
  }
  return found;
}

/** The day that told may have begun as usual. */
const SOON = [0, 1, 2] as const;

/**
 * From when a figure strayed: where it jumped, the first day that lies beyond a quarter of what it soon came to. The sum alone
 * begins with whatever happened to lie a little low before.
 */
function onsetOf(
  figures: readonly (number | null)[],
  { since, raisedAt, usual, direction }: Departure,
  slack: number,
): number {
  const strayed = (day: number) => direction * ((figures[day] ?? usual) - usual);
  const reached = Math.max(...SOON.map((later) => strayed(raisedAt + later)));
  if (reached < 2 * slack) return since;
  let day = since;
  while (day < raisedAt && strayed(day) < reached / 4) day++;
  return day;
}

function middle(values: readonly number[]): number {
  const sorted = [...values].sort((x, y) => x - y);
  const half = sorted.length >> 1;
  return sorted.length % 2 ? sorted[half]! : (sorted[half - 1]! + sorted[half]!) / 2;
}
