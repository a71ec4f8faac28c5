import { figure } from "../words";
import { rankCauses, type RankedCause } from "./causes";
import { isUntold, type LinkDay, type Side } from "./days";
import { featuresOf, type Features } from "./features";
import { signalsOf, type Signal, type SignalKind } from "./signals";
import type { WatchedLink } from "./watched";

/** What strayed of one link at one time: one alarm, however many of its figures strayed. */
export interface LinkAlarm {
  linkId: string;
  /** What told first, and all that told. */
  kind: SignalKind;
  kinds: SignalKind[];
  /** The end at which it shows, where it is one alone. */
  side: Side | null;
  /** Days since 1970: from when it strayed, when that was sure, and when it was over. */
  sinceDay: number;
  raisedDay: number;
  endedDay: number | null;
  /** By how much, in words with their unit, and as a figure. */
  what: string;
  size: { value: number; unit: string };
  /** What the level of both ways changed by, dB, below zero where it fell; null where something else is told. */
  changeDb: number | null;
  /** How the noise at each end changed with it, dB. */
  noiseChangeDb: Record<Side, number>;
  /** Most likely first. */
  causes: RankedCause[];
}

/** Signals that began so many days apart at most are of one root. */
const TOGETHER_DAYS = 21;
/** Causes are told from what came until so many days after an alarm was raised: later it is another matter. */
const JUDGED_DAYS = 60;

/** Alarms of a link over its days. `changes` are days of the plan's own changes of it, `anew` those of jobs done on it, both as days since 1970. */
export function alarmsOf(
  link: WatchedLink,
  all: readonly LinkDay[],
  { changes = [], anew = [] }: { changes?: readonly number[]; anew?: readonly number[] } = {},
): LinkAlarm[] {
  // Nothing strayed before anything was told.
  const begun = all.findIndex((day) => !isUntold(day));
  if (begun < 0) return [];
  const days = all.slice(begun);
  const first = days[0]!;
  const signals = signalsOf(
    link,
    days,
    anew.map((day) => day - first.day),
  );
  return grouped(signals).map((group) => {
    const since = Math.min(...group.map((signal) => signal.since));
    const raised = Math.min(...group.map(({ raisedAt }) => raisedAt));
    const until = Math.min(days.length - 1, raised + JUDGED_DAYS);
    const features = featuresOf(link, days, group, until);
    const isOurChange = changes.some((day) => Math.abs(day - first.day - since) <= 2);
    const kinds = [...new Set(group.map(({ kind }) => kind))];
    const lead = leadOf(group);
    const changeDb = lead.kind === "level" ? lead.reached - lead.usual : null;
    const sides = new Set(group.map(({ side }) => side));
    const ends = group.map(({ endedAt }) => endedAt);
    return {
      linkId: link.linkId,
      kind: lead.kind,
      kinds,
      side: sides.size === 1 ? lead.side : null,
      sinceDay: first.day + since,
      raisedDay: first.day + raised,
      endedDay: ends.every((end) => end !== null) ? first.day + Math.max(...(ends as number[])) : null,
      ...said(lead, features),
      changeDb,
      noiseChangeDb: features.noiseDb,
      causes: rankCauses(rootKinds(kinds), features, isOurChange),
    };
  });
}

/** Slow links fill the air: where something else strayed as well, full airtime comes of it. */
const rootKinds = (kinds: readonly SignalKind[]) =>
  new Set(kinds.length > 1 ? kinds.filter((kind) => kind !== "airtime") : kinds);

/** Which of several signals is told: what lies nearest to the cause. */
const RANK: readonly SignalKind[] = [
  ...(["silence", "prediction", "level", "imbalance", "noise", "rate"] as const),
  ...(["supply", "restarts", "airtime"] as const),
];
const leadOf = (group: readonly Signal[]): Signal =>
  group.reduce((best, one) => (RANK.indexOf(one.kind) < RANK.indexOf(best.kind) ? one : best));

/** Kinds that never share a root with the others: each is an alarm of its own. */
const ALONE: ReadonlySet<SignalKind> = new Set(["silence", "restarts", "supply"]);

function grouped(signals: readonly Signal[]): Signal[][] {
  const groups: Signal[][] = [];
  for (const signal of signals) {
    const near = groups.find(
      ([first]) =>
        ALONE.has(first!.kind) === ALONE.has(signal.kind) &&
        (!ALONE.has(signal.kind) || first!.kind === signal.kind) &&
        isTogether(first!, signal),
    );
    if (near) near.push(signal);
    else groups.push([signal]);
  }
  return groups;
}

/** What comes of something else that is amiss, however much later: slower rates, and air that fills up. */
const COMES_OF_OTHERS: ReadonlySet<SignalKind> = new Set(["rate", "airtime"]);

/** Begun at about the same time, or coming of what still stands. Whatever else begins later has a root of its own. */
const isTogether = (first: Signal, next: Signal) =>
  next.since - first.since <= TOGETHER_DAYS ||
  (COMES_OF_OTHERS.has(next.kind) && (first.endedAt === null || next.since <= first.endedAt + TOGETHER_DAYS));

/** ", from 18 to 23 h UTC": a single stretch of hours, which may go over midnight; several are not told. */
function hoursWords(hours: readonly number[]): string {
  const starts = hours.filter((hour) => !hours.includes((hour + 23) % 24));
  if (starts.length !== 1) return "";
  return `, from ${starts[0]} to ${(starts[0]! + hours.length) % 24} h UTC`;
}

/** By how much, from what was usual to what was reached. */
function said({ kind, usual, reached }: Signal, { noiseDb, noisyHours }: Features): Pick<LinkAlarm, "what" | "size"> {
  const lost = Math.abs(reached - usual);
  switch (kind) {
    case "level":
      return {
        what:
          reached < usual
            ? `the level fell by ${figure(lost)} dB, both ways`
            : `the level rose by ${figure(lost)} dB, both ways`,
        size: { value: lost, unit: "dB" },
      };
    case "imbalance":
      return { what: `the chains came to stand ${figure(lost)} dB further apart`, size: { value: lost, unit: "dB" } };
    case "noise": {
      const rise = Math.max(lost, noiseDb.a, noiseDb.b);
      return { what: `noise rose by ${figure(rise)} dB${hoursWords(noisyHours)}`, size: { value: rise, unit: "dB" } };
    }
    case "rate":
      return {
        what: `the rate fell by ${figure(100 * lost, 0)} % of what was promised`,
        size: { value: 100 * lost, unit: "%" },
      };
    case "restarts":
      return { what: `${figure(reached, 0)} restarts in a week`, size: { value: reached, unit: "restarts" } };
    case "supply":
      return { what: `the lowest supply of the day fell by ${figure(lost)} %`, size: { value: lost, unit: "%" } };
    case "silence":
      return { what: `silent for up to ${figure(reached, 0)} hours a day`, size: { value: reached, unit: "h" } };
    case "airtime":
      return {
        what: `over 90 % of the airtime at the busy hours on ${figure(reached, 0)} days of seven`,
        size: { value: reached, unit: "days" },
      };
    case "prediction":
      return {
        what: `${figure(Math.abs(reached))} dB ${reached < 0 ? "under" : "over"} the prediction from the first day on`,
        size: { value: Math.abs(reached), unit: "dB" },
      };
  }
}
