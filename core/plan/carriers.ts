import { patchBetween, putPatch, type Patch } from "./patch";
import type { Carrier, Link, Radio, RadioRow, RadioWithChannel } from "./schema";
import type { PlanRows, World } from "./world";

/** A radio with the channel of its carrier. One whose carrier is not there has no channel, which the checks name. */
export function tuned(row: RadioRow, carriers: ReadonlyMap<string, Carrier>): Radio {
  const { frequencyMHz = NaN, widthMHz = NaN } = carriers.get(row.carrierId) ?? {};
  return { ...row, frequencyMHz, widthMHz };
}

/** The row of a radio, without the channel. */
export function untuned(radio: Radio): RadioRow {
  const { frequencyMHz: _frequency, widthMHz: _width, ...row } = radio;
  return row;
}

/**
 * The patches that make a radio as it is given, channel included. The channel belongs to its carrier, so another one moves
 * every radio on that carrier; a carrier that is not in the plan yet is put.
 */
export function radioPatches(world: World, radio: Radio): Patch[] {
  const { carrierId, planId, frequencyMHz, widthMHz } = radio;
  const carrier = world.carriers.get(carrierId);
  const before = world.radios.get(radio.id);
  const channel = carrier
    ? patchBetween("carriers", carrier, { ...carrier, frequencyMHz, widthMHz })
    : putPatch("carriers", { id: carrierId, planId, frequencyMHz, widthMHz, timingGroup: "" });
  const own = patchBetween("radios", before && untuned(before), untuned(radio));
  return [channel, own].filter((patch) => patch !== null);
}

/** The radios that some patches touch: those they name, and those on the carriers that they name, in any of the worlds. */
export function radiosTouched(worlds: readonly World[], patches: readonly Patch[]): Set<string> {
  const ids = (kind: Patch["kind"]) => new Set(patches.flatMap((patch) => (patch.kind === kind ? [patch.id] : [])));
  const [touched, carriers] = [ids("radios"), ids("carriers")];
  if (carriers.size > 0)
    for (const { radios } of worlds)
      for (const { id, carrierId } of radios.values()) if (carriers.has(carrierId)) touched.add(id);
  return touched;
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

/** Rows whose radios carry their channels themselves. */
export type RowsWithChannels = Omit<PlanRows, "radios" | "carriers"> & { radios: RadioWithChannel[] };

/** The same rows with carriers. */
export function withCarriers(rows: RowsWithChannels): PlanRows {
  return { ...rows, ...splitChannels(rows.radios, rows.links) };
}

const MOST_MOUNTS = 99;

/** Rows as files and named versions held them before channels had carriers and mounts were counted with their radios. */
export function rowsOfBefore(rows: RowsWithChannels): PlanRows {
  const sites = rows.sites.map((site) => {
    const planned = rows.radios.filter(({ siteId }) => siteId === site.id).length;
    return { ...site, freeMounts: Math.min(MOST_MOUNTS, site.freeMounts + planned) };
  });
  return withCarriers({ ...rows, sites });
}
