import { departures, type CusumBounds, type Departure } from "./cusum";
import { SIDES, type LinkDay, type Side } from "./days";
import type { WatchedLink } from "./watched";

/** What of a link can leave its usual value. */
export const SIGNAL_KINDS = [
  "level",
  "imbalance",
  "noise",
  "rate",
  "restarts",
  "supply",
  "silence",
  "airtime",
  "prediction",
] as const;
export type SignalKind = (typeof SIGNAL_KINDS)[number];

/** A departure of one figure of a link, at one end or of both together. Days count from the first of those looked at. */
export interface Signal extends Departure {
  kind: SignalKind;
  side: Side | null;
}

const usual = { learnDays: 14, backDays: 4 };
/** Levels of a link that stands still move by some tenths of a dB from day to day, by more where leaves are in the way. */
const LEVEL: CusumBounds = { ...usual, slack: 1, limit: 3 };
const IMBALANCE: CusumBounds = { ...usual, slack: 1.2, limit: 3.5 };
const NOISE: CusumBounds = { ...usual, slack: 1.5, limit: 4 };
/** Share of the promised rate. */
const RATE: CusumBounds = { ...usual, slack: 0.12, limit: 0.4 };
/** Per cent of the usual voltage. */
const SUPPLY: CusumBounds = { ...usual, slack: 1.5, limit: 4 };
/** How far what leaves take may stand from what was reckoned for them. */
const LEAF_DOUBT = 0.25;

/** Restarts in a week that are no accident, hours of silence that are an outage, airtime that leaves no room, and on how many days of seven. */
const RESTARTS_A_WEEK = 3;
const SILENT_HOURS = 3;
const FULL_PERCENT = 90;
const FULL_DAYS = 5;
const WEEK = 7;

/** Both ends together: the path is the same both ways, and what is in it takes the same from both. */
export function pathResidualDb({ a, b }: LinkDay): number | null {
  if (a.residualDb === null || b.residualDb === null) return a.residualDb ?? b.residualDb;
  return (a.residualDb + b.residualDb) / 2;
}

/** All departures of a link's days, in the order in which they were told. `anew` are days after which all is learned anew. */
export function signalsOf(link: WatchedLink, days: readonly LinkDay[], anew: readonly number[] = []): Signal[] {
  const signals: Signal[] = [];
  const add = (kind: SignalKind, side: Side | null, found: readonly Departure[]) =>
    signals.push(...found.map((one) => ({ ...one, kind, side })));
  const leafy = LEVEL.slack + LEAF_DOUBT * link.leafDb;
  add("level", null, departures(days.map(pathResidualDb), { ...LEVEL, slack: leafy }, "both", anew));
  for (const side of SIDES) {
    const of = <Figure>(read: (end: LinkDay["a"]) => Figure) => days.map((day) => read(day[side]));
    if (link.chains === 2)
      add(
        "imbalance",
        side,
        departures(
          of(({ imbalanceDb }) => imbalanceDb),
          IMBALANCE,
          "both",
          anew,
        ),
      );
    add(
      "noise",
      side,
      departures(
        of(({ noiseDbm }) => noiseDbm),
        NOISE,
        "up",
        anew,
      ),
    );
    add("rate", side, departures(of(rateBeyondLevel), RATE, "down", anew));
    if (link.isSolar[side]) add("supply", side, departures(supplyPercent(days, side), SUPPLY, "down", anew));
    add("restarts", side, restartsOf(of(({ restarts }) => restarts)));
    add("airtime", side, fullDays(of(({ busyPercent }) => busyPercent)));
  }
  add("silence", null, silences(days));
  add("prediction", null, wrongFromTheStart(link, days, anew));
  return signals.sort((x, y) => x.raisedAt - y.raisedAt);
}

/** The share of the promised rate with what its level explains put back: what is left over is another matter. */
function rateBeyondLevel({ rateShare, deviationDb }: LinkDay["a"]): number | null {
  return rateShare === null ? null : rateShare + RATE_PER_DB * Math.max(0, -(deviationDb ?? 0));
}
/** Share of the promised rate that goes with each dB of level near a link's promise. */
export const RATE_PER_DB = 0.05;

/** The lowest supply of each day as per cent of the median of the first fortnight. */
function supplyPercent(days: readonly LinkDay[], side: Side): (number | null)[] {
  const lows = days.map((day) => day[side].supplyLowV);
  const first = lows
    .filter((low) => low !== null)
    .slice(0, usual.learnDays)
    .sort((x, y) => x - y);
  const base = first[first.length >> 1];
  return lows.map((low) => (low === null || !base ? null : (100 * low) / base));
}

/** Weeks with several restarts; over once a week passed without. */
function restartsOf(counts: readonly number[]): Departure[] {
  return runs(
    counts.map((_, day) => sum(counts.slice(Math.max(0, day - WEEK + 1), day + 1))),
    (week) => week >= RESTARTS_A_WEEK,
    (week) => week === 0,
    (day) =>
      Math.max(
        0,
        counts.findIndex((count, at) => at > day - WEEK && count > 0),
      ),
  );
}

function fullDays(busy: readonly (number | null)[]): Departure[] {
  const full = busy.map((percent) => (percent !== null && percent >= FULL_PERCENT ? 1 : 0));
  return runs(
    full.map((_, day) => sum(full.slice(Math.max(0, day - WEEK + 1), day + 1))),
    (week) => week >= FULL_DAYS,
    (week) => week === 0,
    (day) => full.findIndex((isFull, at) => at > day - WEEK && isFull === 1),
  );
}

/** Hours of which nothing came from either end though others came before. */
function silences(days: readonly LinkDay[]): Departure[] {
  const first = days.findIndex(({ a, b }) => a.hoursKnown + b.hoursKnown > 0);
  if (first < 0) return [];
  const silent = days.map(({ a, b, hoursAsked }, day) =>
    day <= first ? 0 : Math.max(0, hoursAsked - Math.max(a.hoursKnown, b.hoursKnown)),
  );
  return runs(
    silent,
    (hours) => hours >= SILENT_HOURS,
    (hours) => hours === 0,
    (day) => day,
  );
}

/** A link that never did what was predicted, though nothing changed since: the prediction is wrong, or how it was built. */
function wrongFromTheStart(link: WatchedLink, days: readonly LinkDay[], anew: readonly number[]): Departure[] {
  const start = Math.max(0, ...anew.filter((day) => day < days.length));
  const first = days
    .map(pathResidualDb)
    .slice(start)
    .flatMap((value) => value ?? [])
    .slice(0, usual.learnDays);
  if (first.length < usual.learnDays) return [];
  const middle = [...first].sort((x, y) => x - y)[usual.learnDays >> 1]!;
  if (Math.abs(middle) <= link.bandDb) return [];
  return [
    {
      ...{ raisedAt: start + usual.learnDays - 1, since: start, endedAt: null, usual: 0, reached: middle },
      direction: middle < 0 ? -1 : 1,
    },
  ];
}

/** Times from a day that is `on` to one that is `off`, by a figure of each day. */
function runs(
  figures: readonly number[],
  on: (figure: number) => boolean,
  off: (figure: number) => boolean,
  sinceOf: (day: number) => number,
): Departure[] {
  const found: Departure[] = [];
  let open: Departure | null = null;
  for (const [day, figure] of figures.entries()) {
    if (open) {
      open.reached = Math.max(open.reached, figure);
      if (off(figure)) {
        open.endedAt = day;
        open = null;
      }
    } else if (on(figure)) {
      open = { raisedAt: day, since: sinceOf(day), endedAt: null, usual: 0, reached: figure, direction: 1 };
      found.push(open);
    }
  }
  return found;
}

const sum = (values: readonly number[]) => values.reduce((total, value) => total + value, 0);
