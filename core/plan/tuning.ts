import { splitChannels, untuned } from "./carriers";
import { patchBetween, putPatch, type Patch } from "./patch";
import { USUAL } from "./facts";
import type { Radio, RadioWithChannel } from "./kinds";
import type { PlanRows, World } from "./world";

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
    : putPatch("carriers", { id: carrierId, planId, frequencyMHz, widthMHz, ...USUAL.carriers });
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
