import { channelGroups, groupRadios, type RunMove } from "#core/channels";
import type { World } from "#core/plan";
import { groupName } from "#core/propose";

/** What moves to another channel or sends otherwise between the plan as it is kept and as it is in hand. */
export function movesBetween(kept: World, inHand: World): RunMove[] {
  const tuned = new Set(channelGroups(kept));
  const nearEnds = new Set([...kept.links.values()].map(({ aRadioId }) => aRadioId));
  return [...nearEnds].sort().flatMap((radioId): RunMove[] => {
    const [before, after] = [kept.radios.get(radioId), inHand.radios.get(radioId)];
    if (!before || !after) return [];
    const fromMHz = before.frequencyMHz;
    const toMHz = tuned.has(radioId) ? after.frequencyMHz : fromMHz;
    const powers = groupRadios(kept, radioId).flatMap((id): RunMove["powers"] => {
      const [fromDbm, toDbm] = [kept.radios.get(id)?.txPowerDbm, inHand.radios.get(id)?.txPowerDbm];
      return fromDbm === undefined || toDbm === undefined || fromDbm === toDbm ? [] : [{ radioId: id, fromDbm, toDbm }];
    });
    if (fromMHz === toMHz && powers.length === 0) return [];
    return [{ radioId, name: groupName(kept, radioId), fromMHz, toMHz, powers }];
  });
}
