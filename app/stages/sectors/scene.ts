import { signedAngleDeg } from "#core/geodesy";
import type { Radio, World } from "#core/plan";
import type { SectorCustomer } from "#core/sectors";
import type { Selection } from "../../desk/selection";

/** The sectors of a site, by heading. */
export function sectorsAt(world: World, siteId: string): Radio[] {
  return [...world.radios.values()]
    .filter((radio) => radio.siteId === siteId && radio.role === "sector")
    .sort((x, y) => (x.azimuthDeg ?? -1) - (y.azimuthDeg ?? -1) || (x.name < y.name ? -1 : 1));
}

/** Sites with a sector, those with most customers first, then the others by name. */
export function sitesBySectors(world: World): { id: string; name: string; sectors: number; customers: number }[] {
  const customers = new Map<string, number>();
  for (const { kind, aRadioId } of world.links.values()) {
    const siteId = world.radios.get(aRadioId)?.siteId;
    if (kind === "access" && siteId) customers.set(siteId, (customers.get(siteId) ?? 0) + 1);
  }
  const sectors = new Map<string, number>();
  for (const { role, siteId } of world.radios.values())
    if (role === "sector" && siteId) sectors.set(siteId, (sectors.get(siteId) ?? 0) + 1);
  return [...world.sites.values()]
    .map(({ id, name }) => ({ id, name, sectors: sectors.get(id) ?? 0, customers: customers.get(id) ?? 0 }))
    .sort((x, y) => y.customers - x.customers || y.sectors - x.sectors || x.name.localeCompare(y.name));
}

/** The site and sector that a selection is about; null where it is about neither. */
export function chosenOf(world: World, selection: Selection): { siteId: string | null; radioId: string | null } {
  const none = { siteId: null, radioId: null };
  if (!selection) return none;
  const { kind, id } = selection;
  if (kind === "site") return { siteId: id, radioId: null };
  const links = [...world.links.values()];
  const link =
    kind === "link"
      ? world.links.get(id)
      : kind === "subscriber"
        ? links.find(({ bRadioId }) => world.radios.get(bRadioId)?.subscriberId === id)
        : undefined;
  const radio = world.radios.get(kind === "radio" ? id : (link?.aRadioId ?? ""));
  if (!radio?.siteId) return none;
  return { siteId: radio.siteId, radioId: radio.role === "sector" ? radio.id : null };
}

/** The sector that is shown while nothing is chosen: the first of the site with most customers. */
export function firstSector(world: World): Radio | null {
  const site = sitesBySectors(world).find(({ sectors }) => sectors > 0);
  return (site && sectorsAt(world, site.id)[0]) ?? null;
}

/** The width that holds all of some customers about a heading, degrees, and the farthest of them; nulls without any. */
export function spreadOf(customers: readonly SectorCustomer[]): { usedDeg: number | null; farthestM: number | null } {
  if (customers.length === 0) return { usedDeg: null, farthestM: null };
  return {
    usedDeg: Math.min(360, 2 * Math.max(...customers.map((one) => Math.abs(signedAngleDeg(one.azimuthOffDeg))))),
    farthestM: Math.max(...customers.map((one) => one.distanceM)),
  };
}
