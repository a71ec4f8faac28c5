import type { Place } from "#core/geodesy";
import type { Profile } from "#core/terrain";
import { useEffect, useMemo, useState } from "react";
import { profileFromWire, type ProfileWire } from "#wire";

export type Pair = readonly [from: Place, to: Place];
export const pairKey = ([from, to]: Pair) => `${from.latDeg},${from.lonDeg},${to.latDeg},${to.lonDeg}`;

/** Pairs asked for in one request; the server takes 100. */
const BATCH = 60;

export interface Profiles {
  get(pair: Pair): Profile | undefined;
  /** Counts up whenever more profiles are here. */
  arrived: number;
  failed: string | null;
}

/** Profiles for `pairs`, fetched once each and kept while `version` of the terrain stays the same; the same object until more are here. */
export function useProfiles(planId: string, version: string, pairs: readonly Pair[]): Profiles {
  const cache = useMemo(
    () => ({ scope: `${planId} ${version}`, known: new Map<string, Profile>() }),
    [planId, version],
  );
  const [arrived, setArrived] = useState(0);
  const [failed, setFailed] = useState<string | null>(null);
  const wanted = pairs.map(pairKey).join(" ");

  useEffect(() => {
    const missing = wanted.split(" ").filter((key) => key !== "" && !cache.known.has(key));
    if (missing.length === 0) return;
    const stop = new AbortController();
    const fetchBatch = async (keys: string[]) => {
      const query = keys.map((key) => `pair=${key}`).join("&");
      const response = await fetch(`/plans/${planId}/profiles?${query}`, { signal: stop.signal });
      if (!response.ok) throw new Error(await response.text());
      const wires = (await response.json()) as ProfileWire[];
      wires.forEach((wire, i) => cache.known.set(keys[i]!, profileFromWire(wire)));
      setArrived((count) => count + 1);
    };
    const all = async () => {
      for (let i = 0; i < missing.length; i += BATCH) await fetchBatch(missing.slice(i, i + BATCH));
      setFailed(null);
    };
    all().catch((error: unknown) => {
      if (!stop.signal.aborted) setFailed(error instanceof Error ? error.message : String(error));
    });
    return () => stop.abort();
  }, [wanted, cache, planId]);

  return useMemo(
    () => ({ get: (pair: Pair) => cache.known.get(pairKey(pair)), arrived, failed }),
    [cache, arrived, failed],
  );
}
