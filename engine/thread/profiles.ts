import type { ProfileSource } from "#core/outcome";
import type { Place } from "#core/geodesy";
import { profileScratch, sampleProfile, type Profile } from "#core/terrain";
import type { Ground } from "#ground";
import { LRUCache } from "lru-cache";

/** Bytes of profiles that are kept for one ground, those least used dropped first; a 16 km path at 30 m takes some 25 KB. */
const KEPT_BYTES = 64 * 2 ** 20;
/** Numbers that are kept of each sample, eight bytes each. */
const BYTES_PER_SAMPLE = 8 * 6;

const keyOf = (from: Place, to: Place) => `${from.latDeg},${from.lonDeg},${to.latDeg},${to.lonDeg}`;

/** Profiles over one ground. */
export interface Profiles {
  /** Each sampled once as long as it is kept. */
  between: ProfileSource;
  /** For a look that is over before the next one is asked for: nothing is kept of it. */
  glance: ProfileSource;
}

export function profilesOver(ground: Ground): Profiles {
  const cache = new LRUCache<string, Profile>({
    maxSize: KEPT_BYTES,
    sizeCalculation: ({ distancesKm }) => distancesKm.length * BYTES_PER_SAMPLE,
  });
  const scratch = profileScratch();
  return {
    between: (from, to, line) => {
      const key = keyOf(from, to);
      const known = cache.get(key);
      if (known) return known;
      const profile = ground.read((terrain) => sampleProfile(terrain, from, to, undefined, undefined, line));
      cache.set(key, profile);
      return profile;
    },
    glance: (from, to, line) =>
      cache.get(keyOf(from, to)) ??
      ground.read((terrain) => sampleProfile(terrain, from, to, undefined, scratch, line)),
  };
}
