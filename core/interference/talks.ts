import type { World } from "../plan";

/** Who talks with whom in a plan. */
export interface Talks {
  /** Of each radio with a link the access point or near bridge end under which it talks; those under one never send into each other's ears. */
  groups: ReadonlyMap<string, string>;
  /** The far end of each radio's first link. */
  mates: ReadonlyMap<string, string>;
}

export function talksOf(world: World): Talks {
  const groups = new Map<string, string>();
  const mates = new Map<string, string>();
  for (const { aRadioId, bRadioId } of world.links.values()) {
    groups.set(aRadioId, aRadioId);
    groups.set(bRadioId, aRadioId);
    if (!mates.has(aRadioId)) mates.set(aRadioId, bRadioId);
    if (!mates.has(bRadioId)) mates.set(bRadioId, aRadioId);
  }
  return { groups, mates };
}
