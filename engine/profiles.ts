import type { ProfileSource } from "#core/findings";
import type { Place } from "#core/geodesy";
import { profileScratch, sampleProfile, type Profile, type Terrain } from "#core/terrain";

/** Most profiles kept for one terrain; a 16 km path at 30 m takes some 25 KB. */
const KEPT_PROFILES = 2000;

/** Keeps at most `limit` entries, dropping the one put first. */
export function remember<V>(cache: Map<string, V>, key: string, value: V, limit: number): V {
  if (cache.size >= limit) cache.delete(cache.keys().next().value!);
  cache.set(key, value);
  return value;
}

const keyOf = (from: Place, to: Place) => `${from.latDeg},${from.lonDeg},${to.latDeg},${to.lonDeg}`;

/** Profiles over one terrain. */
export interface Profiles {
  /** Each sampled once as long as it is kept. */
  between: ProfileSource;
  /** For a look that is over before the next one is asked for: nothing is kept of it. */
  glance: ProfileSource;
}

/** Profiles by plan and state of its ground: an outline that is undone brings back those of before. */
const caches = new Map<string, Map<string, Profile>>();
const KEPT_CACHES = 8;

/** Profiles over a terrain; `state` names the plan and all that its profiles cross. */
export function profilesOver(terrain: Terrain, state: string): Profiles {
  const cache = caches.get(state) ?? remember(caches, state, new Map<string, Profile>(), KEPT_CACHES);
  const scratch = profileScratch();
  return {
    between: (from, to) => {
      const key = keyOf(from, to);
      return cache.get(key) ?? remember(cache, key, sampleProfile(terrain, from, to), KEPT_PROFILES);
    },
    glance: (from, to) => cache.get(keyOf(from, to)) ?? sampleProfile(terrain, from, to, undefined, scratch),
  };
}

/** Drops all profiles. */
export function forgetProfiles(): void {
  caches.clear();
}
