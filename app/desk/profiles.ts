import type { Place } from "#core/geodesy";
import type { Profile } from "#core/terrain";
import { useEffect, useMemo, useRef, useState } from "react";
import { profileFromWire, type ProfileWire } from "#wire";
import { requestJson } from "../ask/request";

export type Pair = readonly [from: Place, to: Place];
const pairKey = ([from, to]: Pair) => `${from.latDeg},${from.lonDeg},${to.latDeg},${to.lonDeg}`;

/** Pairs asked for in one request; the server takes 100. */
const BATCH = 60;

export interface Profiles {
  get: (pair: Pair) => Profile | undefined;
  /** Counts up whenever more profiles are here. */
  arrived: number;
  failed: string | null;
  /** The profiles that are here. */
  known: Map<string, Profile>;
  planId: string;
  came: (failed: string | null) => void;
}

/** A plan's profiles, kept while `version` of its terrain stays the same; the same object until more are here. */
export function useProfiles(planId: string, version: string): Profiles {
  const scope = `${planId} ${version}`;
  const { known } = useMemo(() => ({ scope, known: new Map<string, Profile>() }), [scope]);
  const [{ arrived, failed }, setState] = useState({ arrived: 0, failed: null as string | null });
  return useMemo(
    () => ({
      ...{ arrived, failed, known, planId },
      get: (pair: Pair) => known.get(pairKey(pair)),
      came: (why: string | null) => setState((before) => ({ arrived: before.arrived + 1, failed: why })),
    }),
    [planId, known, arrived, failed],
  );
}

/** Fetches the profiles of some pairs that are not here, one request after the other: those that are wanted by then. */
export function useFetched(profiles: Profiles, pairs: readonly Pair[]): void {
  const latest = useRef({ profiles, pairs, isRunning: false });
  useEffect(() => {
    const now = latest.current;
    Object.assign(now, { profiles, pairs });
    if (now.isRunning) return;
    const missing = () => [...new Set(now.pairs.map(pairKey))].filter((key) => !now.profiles.known.has(key));
    const run = async () => {
      let hasCome = false;
      for (let keys = missing(); keys.length > 0; keys = missing()) {
        const { planId, known } = now.profiles;
        const query = keys.slice(0, BATCH).map((key) => `pair=${key}`);
        const address = `/plans/${encodeURIComponent(planId)}/profiles?${query.join("&")}`;
        const wires = await requestJson<ProfileWire[]>(address);
        wires.forEach((wire, i) => known.set(keys[i]!, profileFromWire(wire)));
        hasCome = true;
      }
      // In the same turn as the last look: whoever wants more from now on begins anew, and nobody waits for a run that has ended.
      now.isRunning = false;
      // Told once for all of them: each time the change in hand is worked out anew.
      if (hasCome) now.profiles.came(null);
    };
    now.isRunning = true;
    run().catch((error: unknown) => {
      now.isRunning = false;
      now.profiles.came(error instanceof Error ? error.message : String(error));
    });
  }, [profiles, pairs]);
}
