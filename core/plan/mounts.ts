import type { Radio, Site } from "./kinds";
import type { World } from "./world";

/** The radios planned at each site that has any. */
export function radiosBySite(world: World): Map<string, Radio[]> {
  const bySite = new Map<string, Radio[]>();
  for (const radio of world.radios.values()) {
    if (radio.siteId === null) continue;
    const known = bySite.get(radio.siteId);
    if (known) known.push(radio);
    else bySite.set(radio.siteId, [radio]);
  }
  return bySite;
}

/**
 * Mounts of a site that the radios planned there leave free; negative where they fall short. Whoever asks for many sites hands
 * over their radios.
 */
export function mountsLeft(world: World, site: Site, bySite = radiosBySite(world)): number {
  return site.freeMounts - (bySite.get(site.id)?.length ?? 0);
}
