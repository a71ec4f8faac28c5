import type { Carrier, Link, Radio, RadioRow, RadioWithChannel } from "./schema";

/** A radio with the channel of its carrier. One whose carrier is not there has no channel, which the checks name. */
export function tuned(row: RadioRow, carriers: ReadonlyMap<string, Carrier>): Radio {
  const { frequencyMHz = NaN, widthMHz = NaN } = carriers.get(row.carrierId) ?? {};
  return { ...row, frequencyMHz, widthMHz };
}

/** The row of a radio, without the channel. */
export function untuned(radio: Radio): RadioRow {
  const row: Partial<Radio> = { ...radio };
  delete row.frequencyMHz;
  delete row.widthMHz;
  return row as RadioRow;
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
  const rows = radios.map(({ frequencyMHz, widthMHz, ...row }): RadioRow => {
    const carrierId = owner.get(row.id) ?? row.id;
    carriers.set(carrierId, { id: carrierId, planId: row.planId, frequencyMHz, widthMHz, timingGroup: "" });
    return { ...row, carrierId };
  });
  return { radios: rows, carriers: [...carriers.values()] };
}
