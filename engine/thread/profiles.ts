import type { ProfileSource } from "#core/outcome";
import type { Place } from "#core/geodesy";
import { profileScratch, sampleProfile, type Profile } from "#core/terrain";
import type { Ground } from "#ground";

/** Most profiles kept for one ground; a 16 km path at 30 m takes some 25 KB. */
const KEPT_PROFILES = 2000;

/** Keeps at most `limit` entries, dropping the one put first. */
function remember<V>(cache: Map<string, V>, key: string, value: V, limit: number): V {
  if (cache.size >= limit) cache.delete(cache.keys().next().value!);
  cache.set(key, value);
  return value;
}

const keyOf = (from: Place, to: Place) => `${from.latDeg},${from.lonDeg},${to.latDeg},${to.lonDeg}`;

/** Profiles over one ground. */
export interface Profiles {
  /** Each sampled once as long as it is kept. */
  between: ProfileSource;
  /** For a look that is over before the next one is asked for: nothing is kept of it. */
  glance: ProfileSource;
}

export function profilesOver(ground: Ground): Profiles {
  const cache = new Map<string, Profile>();
  const scratch = profileScratch();
  return {
    between: (from, to) => {
      const key = keyOf(from, to);
      const known = cache.get(key);
      return (
        known ??
        remember(
          cache,
          key,
          ground.read((terrain) => sampleProfile(terrain, from, to)),
          KEPT_PROFILES,
        )
      );
    },
    glance: (from, to) =>
      cache.get(keyOf(from, to)) ?? ground.read((terrain) => sampleProfile(terrain, from, to, undefined, scratch)),
  };
}
