import { monthOfDay } from "#core/watch";
import { readDays, readMonths, type Store } from "#store";
import type { KnownSeries } from "./worker";

/** All that is kept of some series from one day to before another, by their names. */
export async function readKnown(
  store: Store,
  planId: string,
  seriesIds: readonly string[],
  fromDay: number,
  toDay: number,
): Promise<(seriesId: string) => KnownSeries> {
  const known = new Map<string, KnownSeries>();
  const of = (seriesId: string) => {
    let one = known.get(seriesId);
    if (!one) known.set(seriesId, (one = { months: [], days: [] }));
    return one;
  };
  for (const month of await readMonths(store.db, planId, seriesIds, monthOfDay(fromDay), monthOfDay(toDay - 1)))
    of(month.seriesId).months.push(month);
  for (const day of await readDays(store.db, planId, seriesIds, fromDay, toDay - 1)) of(day.seriesId).days.push(day);
  return of;
}
