import type { World } from "#core/plan";
import {
  endSeries,
  PLAN_SERIES,
  radioSeries,
  receive,
  WEATHER_SERIES,
  type PushedSample,
  type Received,
  type Sample,
} from "#core/watch";
import { addBatch, putReceived, type Store } from "#store";

/** Every series that a plan can be told of. */
export function seriesOf(world: World): Set<string> {
  const series = new Set([WEATHER_SERIES]);
  for (const { id } of world.links.values()) series.add(endSeries(id, "a")).add(endSeries(id, "b"));
  for (const { id } of world.radios.values()) series.add(radioSeries(id));
  return series;
}

/** Keeps what can be kept of a batch, with how many series told something; the batch is on the disk when this is answered. */
export async function takeSamples(
  store: Store,
  world: World,
  pushed: readonly PushedSample[],
  by: string,
  nowMs = Date.now(),
): Promise<Received> {
  const known = seriesOf(world);
  const { samples, received } = receive(pushed, (seriesId) => known.has(seriesId), nowMs);
  const perMinute = new Map<number, number>();
  for (const { atMs } of samples) {
    const minute = Math.floor(atMs / 60_000);
    perMinute.set(minute, (perMinute.get(minute) ?? 0) + 1);
  }
  const asked = [...perMinute].map(([minute, count]): Sample => ({
    seriesId: PLAN_SERIES,
    atMs: minute * 60_000,
    values: { seriesTold: count },
  }));
  await store.db.transaction(async (tx) => {
    await addBatch(tx, world.plan.id, [...samples, ...asked]);
    await putReceived(tx, world.plan.id, { [by]: { at: new Date(nowMs).toISOString(), ...received } });
  });
  return received;
}
