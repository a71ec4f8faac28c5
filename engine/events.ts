import { CHANGES, type Store } from "#store";

type Heard = (revision: number) => void;

/** Who hears of the changes to which plan. */
const listeners = new Map<string, Set<Heard>>();
/** Stores that are listened to already. */
const heardStores = new WeakSet<Store>();

/** Calls `heard` with each new revision of a plan, from whichever process; gives what ends it. */
export function onChange(store: Store, planId: string, heard: Heard): () => void {
  if (!heardStores.has(store)) {
    heardStores.add(store);
    store.db.listen(CHANGES, tell).catch(() => heardStores.delete(store));
  }
  const all = listeners.get(planId) ?? new Set();
  listeners.set(planId, all.add(heard));
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
