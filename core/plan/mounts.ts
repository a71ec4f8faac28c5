import type { Site } from "./schema";
import type { World } from "./world";

/** Mounts of a site that the radios planned there leave free; negative where they fall short. */
export function mountsLeft(world: World, site: Site): number {
  let left = site.freeMounts;
  for (const radio of world.radios.values()) if (radio.siteId === site.id) left--;
  return left;
}
