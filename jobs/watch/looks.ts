import type { LinkWatch } from "#core/watch";
import { putLook, readLook, type Store } from "#store";

/** What the last look came to. */
export interface Look {
  at: string;
  fromDay: number;
  toDay: number;
  links: LinkWatch[];
}

/** Links in one part of a look: as many as are written and read without anybody waiting for it. */
const LINKS_A_PART = 500;

export async function keepLook(store: Store, planId: string, { links, ...when }: Look): Promise<void> {
  const parts: LinkWatch[][] = [];
  for (let at = 0; at < links.length; at += LINKS_A_PART) parts.push(links.slice(at, at + LINKS_A_PART));
  await putLook(store.db, planId, [when, ...parts]);
}

/** What the last look at a plan came to; null where nobody looked yet. */
export async function lastLook(store: Store, planId: string): Promise<Look | null> {
  const [when, ...parts] = (await readLook(store.db, planId)) as [Omit<Look, "links">?, ...LinkWatch[][]];
  return when ? { ...when, links: parts.flat() } : null;
}
