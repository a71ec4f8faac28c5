import { setPatch, type Channel, type Link, type Patch, type World } from "#core/plan";

/**
 * Puts a link on another channel. The channel belongs to the access point or bridge, so all on it move together; a far end
 * that stood on another one joins it: a radio alone on a channel hears nobody.
 */
export function channelPatches(world: World, link: Link, change: Partial<Channel>): Patch[] {
  const { carrierId } = world.radios.get(link.aRadioId)!;
  const strays = [...world.links.values()].filter(
    ({ aRadioId, bRadioId }) => aRadioId === link.aRadioId && world.radios.get(bRadioId)!.carrierId !== carrierId,
  );
  return [
    setPatch("carriers", carrierId, change),
    ...strays.map(({ bRadioId }) => setPatch("radios", bRadioId, { carrierId })),
  ];
}
