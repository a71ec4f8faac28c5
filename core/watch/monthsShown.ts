import { median } from "../statistics";
import { DAY_MS } from "./buckets";
import { monthOfDay } from "./months";
import type { LinkMonth } from "./summary";

/** What a timeline holds of a link, as columns of equal steps; null where nothing is known. */
interface ShownHours {
  /** The first step, and the width of each, ms. */
  fromMs: number;
  stepMs: number;
  levelA: readonly (number | null)[];
  levelB: readonly (number | null)[];
  promisedA: readonly number[];
  promisedB: readonly number[];
  /** By day: state of each of its 24 hours, as `hourState` tells it. */
  hours: readonly { states: string }[];
}

/** The months of a link in a chart of it: hours by their state, and what both ends together stood from the promise. */
export function monthsShown(chart: ShownHours): LinkMonth[] {
  const months = new Map<number, LinkMonth & { deviations: number[] }>();
  const monthAt = (ms: number) => {
    const month = monthOfDay(Math.floor(ms / DAY_MS));
    const known = months.get(month);
    if (known) return known;
    const made = { month, hoursAsked: 0, hoursUp: 0, hoursGood: 0, deviationDb: null, deviations: [] };
    months.set(month, made);
    return made;
  };
  chart.hours.forEach(({ states }, day) => {
    const month = monthAt(chart.fromMs + day * DAY_MS);
    for (const state of states) {
      month.hoursAsked += Number(state >= "1");
      month.hoursUp += Number(state >= "2");
      month.hoursGood += Number(state >= "3");
    }
  });
  chart.levelA.forEach((level, step) => {
    const other = chart.levelB[step] ?? null;
    if (level === null || other === null) return;
    const off = (level - chart.promisedA[step]! + other - chart.promisedB[step]!) / 2;
    monthAt(chart.fromMs + step * chart.stepMs).deviations.push(off);
  });
  return [...months.values()]
    .sort((x, y) => x.month - y.month)
    .map(({ deviations, ...month }) => ({ ...month, deviationDb: median(deviations) }));
}
