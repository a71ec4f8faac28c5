import { channelGroups, type ChannelMove } from "#core/channels";
import type { World } from "#core/plan";
import { groupName } from "#core/propose";

/** What moves to another channel between the plan as it is kept and as it is in hand. */
export function movesBetween(kept: World, inHand: World): ChannelMove[] {
  return channelGroups(kept).flatMap((radioId) => {
    const [before, after] = [kept.radios.get(radioId), inHand.radios.get(radioId)];
    return !before || !after || before.frequencyMHz === after.frequencyMHz
      ? []
      : [{ radioId, name: groupName(kept, radioId), fromMHz: before.frequencyMHz, toMHz: after.frequencyMHz }];
  });
}
