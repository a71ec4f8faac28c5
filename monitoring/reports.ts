import { createHash } from "node:crypto";
import { setTimeout as pause } from "node:timers/promises";
import { LRUCache } from "lru-cache";
import PQueue from "p-queue";
import { PLAN_SERIES, receive, seriesParts, type PushedSample, type Received, type Sample } from "#core/watch";
import { addBatch, putReceived, rowsNamed, settingsByToken, type Store } from "#store";
import { settingsFrom } from "./settings";
import { isStandInToken } from "./standIns";

/** What is kept of a token in its place. */
export const samplesTokenHash = (token: string): string => createHash("sha256").update(token).digest("hex");

/** Tokens that were good a moment ago, by their plans: a network shows the same one hundreds of times a second. */
const trusted = new LRUCache<string, true>({ max: 1000, ttl: 1000 });

/** Said wherever a plan's token or source may have become another: what was good is asked for again. */
export const trustNobody = (): void => trusted.clear();

/** Whether whoever shows a token may report to a plan now; one that another process takes back is good for a second more. */
export async function mayReport(
  store: Store,
  planId: string,
  token: string,
): Promise<"may" | "notKnown" | "simulated"> {
  if (isStandInToken(planId, token)) return "may";
  const hash = samplesTokenHash(token);
  const name = `${planId} ${hash}`;
  if (trusted.get(name)) return "may";
  const known = await settingsByToken(store.db, planId, hash);
  if (!known) return "notKnown";
  if (settingsFrom(known.settings).source !== "devices") return "simulated";
  trusted.set(name, true);
  return "may";
}

/** Some samples that wait to be kept, and who waits for them. */
interface Waiting {
  pushed: readonly PushedSample[];
  by: string;
  nowMs: number;
  kept: (received: Received) => void;
  failed: (why: unknown) => void;
}

/** How long a report waits for others to be kept with it, ms. */
const GATHERED_MS = 100;
/** Of each plan what came in and is not being kept yet. */
const waiting = new Map<string, Waiting[]>();
const keeping = new PQueue({ concurrency: 1 });

/**
 * Keeps what can be kept of some samples, with how many series told something; they are on the disk when this is answered. What comes in
 * shortly after, or while others are being kept, is kept together: a network whose devices report one by one asks for few transactions.
 */
export function takeSamples(
  store: Store,
  planId: string,
  pushed: readonly PushedSample[],
  by: string,
  nowMs = Date.now(),
): Promise<Received> {
  return new Promise((kept, failed) => {
    const mine: Waiting = { pushed, by, nowMs, kept, failed };
    const others = waiting.get(planId);
    if (others) return void others.push(mine);
    waiting.set(planId, [mine]);
    void pause(GATHERED_MS).then(() => keeping.add(() => keepWaiting(store, planId)));
  });
}

/** Keeps what waits of a plan, and tells everybody who waits. */
async function keepWaiting(store: Store, planId: string): Promise<void> {
  const all = waiting.get(planId)!;
  waiting.delete(planId);
  try {
    const received = await keepTogether(store, planId, all);
    all.forEach((one, i) => one.kept(received[i]!));
  } catch (why) {
    for (const one of all) one.failed(why);
  }
}

/** Keeps all in one transaction; gives what was received of each. */
async function keepTogether(store: Store, planId: string, all: readonly Waiting[]): Promise<Received[]> {
  const knows = await knownSeries(
    store,
    planId,
    all.flatMap(({ pushed }) => pushed.map(({ series }) => series)),
  );
  const each = all.map(({ pushed, nowMs }) => receive(pushed, knows, nowMs));
  const samples = each.flatMap((one) => one.samples);
  const perMinute = new Map<number, number>();
  for (const { atMs } of samples) {
    const minute = Math.floor(atMs / 60_000);
    perMinute.set(minute, (perMinute.get(minute) ?? 0) + 1);
  }
  const told = [...perMinute].map(([minute, count]): Sample => ({
    seriesId: PLAN_SERIES,
    atMs: minute * 60_000,
    values: { seriesTold: count },
  }));
  const byWhom: Record<string, Received & { at: string }> = {};
  each.forEach(({ received }, i) => {
    const { by, nowMs } = all[i]!;
    const before = byWhom[by];
    byWhom[by] = { at: new Date(nowMs).toISOString(), ...(before ? together(before, received) : received) };
  });
  await store.db.transaction(async (tx) => {
    await addBatch(tx, planId, [...samples, ...told]);
    await putReceived(tx, planId, byWhom);
  });
  return each.map(({ received }) => received);
}

const together = (x: Received, y: Received): Received => ({
  kept: x.kept + y.kept,
  ahead: x.ahead + y.ahead,
  tooLate: x.tooLate + y.tooLate,
  unknown: x.unknown + y.unknown,
  skewMs: Math.max(x.skewMs, y.skewMs),
});

/** Which of some series are of things that the plan has now. */
async function knownSeries(store: Store, planId: string, series: readonly string[]): Promise<(id: string) => boolean> {
  const asked = { links: new Set<string>(), radios: new Set<string>() };
  for (const one of series) {
    const parts = seriesParts(one);
    if (parts && parts.kind !== "weather") asked[parts.kind].add(parts.id);
  }
  const [links, radios] = await Promise.all([
    rowsNamed(store.db, "links", planId, asked.links),
    rowsNamed(store.db, "radios", planId, asked.radios),
  ]);
  return (id) => {
    const parts = seriesParts(id);
    if (!parts) return false;
    return parts.kind === "weather" || (parts.kind === "links" ? links : radios).has(parts.id);
  };
}
