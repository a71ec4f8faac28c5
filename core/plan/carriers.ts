import { USUAL } from "./facts";
import type { Carrier, Link, Radio, RadioRow, RadioWithChannel } from "./kinds";

/** A radio with the channel, the power plan and the timing of its carrier. One whose carrier is not there has no channel, which the checks name. */
export function tuned(row: RadioRow, carriers: ReadonlyMap<string, Carrier>): Radio {
  const {
    frequencyMHz = NaN,
    widthMHz = NaN,
    arriveAtDbm = null,
    timingGroup = "",
    downShare = null,
  } = carriers.get(row.carrierId) ?? {};
  // The row comes last: a field that is added behind a spread costs more than all the rest.
  return { frequencyMHz, widthMHz, arriveAtDbm, timingGroup, downShare, ...row };
}

/** The row of a radio, without what belongs to its carrier. */
export function untuned(radio: Radio): RadioRow {
  // Not by `delete`, which leaves an object that is slow to copy ever after.
  const { frequencyMHz, widthMHz, arriveAtDbm, timingGroup, downShare, ...row } = radio;
  return row;
}

/**
 * Carriers for radios that carried their channels themselves: a far end shares that of its access point or near end where
 * both were alike, and keeps one of its own where they were not. A carrier is named after the radio that it belongs to.
 */
export function splitChannels(
  radios: readonly RadioWithChannel[],
  links: readonly Pick<Link, "aRadioId" | "bRadioId">[],
): { radios: RadioRow[]; carriers: Carrier[] } {
  const byId = new Map(radios.map((radio) => [radio.id, radio]));
  const owner = new Map<string, string>();
  for (const { aRadioId, bRadioId } of links) {
    const [a, b] = [byId.get(aRadioId), byId.get(bRadioId)];
    const alike = a && b && a.frequencyMHz === b.frequencyMHz && a.widthMHz === b.widthMHz;
    if (alike && !owner.has(bRadioId)) owner.set(bRadioId, aRadioId);
  }
  const carriers = new Map<string, Carrier>();
  const rows = radios.map((radio): RadioRow => {
    const { id, planId, frequencyMHz, widthMHz } = radio;
    const carrierId = owner.get(id) ?? id;
    const own = { id: carrierId, planId, frequencyMHz, widthMHz };
    carriers.set(carrierId, { ...USUAL.carriers, ...own });
    return untuned({ ...radio, carrierId });
  });
  return { radios: rows, carriers: [...carriers.values()] };
}
