import type { World } from "../plan";

/** Who talks with whom: radios under one number never send into each other's ears. */
export function talksWith(world: World): Map<string, string> {
  let groups = groupsOf.get(world.links);
  if (!groups) {
    groups = new Map();
    for (const { aRadioId, bRadioId } of world.links.values()) {
      groups.set(aRadioId, aRadioId);
      groups.set(bRadioId, aRadioId);
    }
    groupsOf.set(world.links, groups);
  }
  return groups;
}
/** Groups by the plan's links, for as long as these stay what they are. */
const groupsOf = new WeakMap<World["links"], Map<string, string>>();

/** The access point or near bridge end under which a radio talks; the radio itself while it has no link. */
export function talksUnder(world: World, radioId: string): string {
  return talksWith(world).get(radioId) ?? radioId;
}
