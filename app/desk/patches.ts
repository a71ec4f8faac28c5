import type { Patch, Link, Radio, World } from "#core/plan";

export const radioPatch = (radio: Radio): Patch => ({ kind: "radios", id: radio.id, row: radio });

/**
 * Patches that put a link on another channel. A sector takes all its subscribers along, and both ends of a bridge move
 * together: a radio alone on a channel hears nobody.
 */
export function channelPatches(
  world: World,
  link: Link,
  change: Partial<Pick<Radio, "frequencyMHz" | "widthMHz">>,
): Patch[] {
  const radios = new Set<string>();
  for (const other of world.links.values()) {
    if (other.aRadioId !== link.aRadioId && other.id !== link.id) continue;
    radios.add(other.aRadioId);
    radios.add(other.bRadioId);
  }
  return [...radios].map((id) => radioPatch({ ...world.radios.get(id)!, ...change }));
}
