import type { ProfileSource } from "#core/findings";
import type { Place } from "#core/geodesy";
import { sampleProfile, type Profile, type Terrain } from "#core/terrain";

/** Most profiles kept for one terrain; a 16 km path at 30 m takes some 25 KB. */
const KEPT_PROFILES = 4000;

/** Keeps at most `limit` entries, dropping the one put first. */
export function remember<V>(cache: Map<string, V>, key: string, value: V, limit: number): V {
  if (cache.size >= limit) cache.delete(cache.keys().next().value!);
  cache.set(key, value);
  return value;
}

/** Profiles over one terrain, each sampled once as long as it is kept. */
export function profileSource(terrain: Terrain): ProfileSource {
  const cache = new Map<string, Profile>();
  return (from: Place, to: Place) => {
    const key = `${from.latDeg},${from.lonDeg},${to.latDeg},${to.lonDeg}`;
    return cache.get(key) ?? remember(cache, key, sampleProfile(terrain, from, to), KEPT_PROFILES);
  };
}
