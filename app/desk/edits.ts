import type { Edit, Link, Radio, World } from "#core/plan";

export const radioEdit = (radio: Radio): Edit => ({ kind: "radios", id: radio.id, row: radio });

/**
 * Edits that put a link on another channel. A sector takes all its subscribers along, and both ends of a bridge move
 * together: a radio alone on a channel hears nobody.
 */
export function channelEdits(
  world: World,
  link: Link,
  change: Partial<Pick<Radio, "frequencyMHz" | "widthMHz">>,
): Edit[] {
  const radios = new Set<string>();
  for (const other of world.links.values()) {
    if (other.aRadioId !== link.aRadioId && other.id !== link.id) continue;
    radios.add(other.aRadioId);
    radios.add(other.bRadioId);
  }
  return [...radios].map((id) => radioEdit({ ...world.radios.get(id)!, ...change }));
}
