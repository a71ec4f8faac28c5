import { CHANGES, planStamp, type Store } from "#store";

type Heard = (revision: number) => void;

/** Who hears of the changes to which plan. */
const listeners = new Map<string, Set<Heard>>();
/** Stores that are listened to, or are about to be. */
const listening = new WeakMap<Store, Promise<unknown>>();

/** Waits until the store's changes are heard here; asked again after it failed. */
function listenTo(store: Store): Promise<unknown> {
  const known = listening.get(store);
  if (known) return known;
  const begun = store.db.listen(CHANGES, tell).catch((error: unknown) => {
    listening.delete(store);
    throw error;
  });
  listening.set(store, begun);
  return begun;
}

/**
 * Calls `heard` with the revision at which a plan stands, and with each new one, from whichever process; gives what ends it.
 * Between the two none is missed: one that comes meanwhile may be told twice.
 */
export async function onChange(store: Store, planId: string, heard: Heard): Promise<() => void> {
  await listenTo(store);
  const all = listeners.get(planId) ?? new Set();
  listeners.set(planId, all.add(heard));
  const stamp = await planStamp(store.db, planId);
  if (stamp) heard(Number(stamp.slice(stamp.lastIndexOf(" ") + 1)));
  return () => {
    all.delete(heard);
    if (all.size === 0) listeners.delete(planId);
  };
}

/** `planId revision`, as the record tells it. */
function tell(payload: string): void {
  const at = payload.lastIndexOf(" ");
  for (const heard of listeners.get(payload.slice(0, at)) ?? []) heard(Number(payload.slice(at + 1)));
}
