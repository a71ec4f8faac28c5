import { DAY_MS, monthOfDay } from "#core/watch";
import {
  dropBatches,
  dropOldSeries,
  readBatches,
  readDays,
  readMonths,
  unrolledDays,
  writeDays,
  writeMonths,
  type Store,
} from "#store";
import { withWatchThread } from "./session";

/** Samples that are taken at once, and series that are written in one transaction: nobody else waits for longer. */
const SAMPLES_AT_ONCE = 400_000;
const SERIES_AT_ONCE = 250;
/** A day is laid into its month once it is over by so much: samples may still be on their way. */
const OPEN_DAYS = 1;

const parts = <T>(list: readonly T[], size: number): T[][] =>
  Array.from({ length: Math.ceil(list.length / size) }, (_, i) => list.slice(i * size, (i + 1) * size));

/**
 * Lays all that arrived of a plan into its series, and days that are over into their months. A sample's minute counts once, so a run that
 * broke off is begun again with the same batches: they go only when all of them is laid.
 */
export async function foldPlan(store: Store, planId: string, nowMs: number, signal?: AbortSignal): Promise<void> {
  const { db } = store;
  await withWatchThread(async (thread) => {
    for (;;) {
      const batches = await readBatches(db, planId, SAMPLES_AT_ONCE);
      if (batches.length === 0) break;
      const keys = await thread.take(batches.map(({ packed }) => packed));
      for (const part of parts(keys, SERIES_AT_ONCE)) {
        const [first, last] = [Math.min(...part.map(({ day }) => day)), Math.max(...part.map(({ day }) => day))];
        const before = await readDays(db, planId, [...new Set(part.map(({ seriesId }) => seriesId))], first, last);
        const laid = await thread.fold(part, before);
        await db.transaction((tx) => writeDays(tx, planId, laid));
      }
      await dropBatches(
        db,
        planId,
        batches.map(({ id }) => id),
      );
    }
    const today = Math.floor(nowMs / DAY_MS);
    for (;;) {
      const over = await unrolledDays(db, planId, today - OPEN_DAYS + 1, SERIES_AT_ONCE);
      if (over.length === 0) break;
      const ids = [...new Set(over.map(({ seriesId }) => seriesId))];
      const dayNumbers = over.map(({ day }) => day);
      const [first, last] = [Math.min(...dayNumbers), Math.max(...dayNumbers)];
      const wanted = new Set(over.map(({ day, seriesId }) => `${day} ${seriesId}`));
      const days = (await readDays(db, planId, ids, first, last)).filter(({ day, seriesId }) =>
        wanted.has(`${day} ${seriesId}`),
      );
      const months = await thread.roll(days, await readMonths(db, planId, ids, monthOfDay(first), monthOfDay(last)));
      await db.transaction((tx) => writeMonths(tx, planId, months, over));
    }
    await dropOldSeries(db, today);
  }, signal);
}
