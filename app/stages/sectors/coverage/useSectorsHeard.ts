import type { OwnNoise } from "#core/link";
import { useEffect, useMemo, useState } from "react";
import { useDesk } from "../../../desk/DeskContext";

/**
 * What each sector of the plan hears as it is kept, where `isWanted`; else, and until it is here, what is known of some. `isWhole` says
 * whether nobody is missing.
 */
export function useSectorsHeard(
  isWanted: boolean,
  known: ReadonlyMap<string, OwnNoise>,
): { heard: ReadonlyMap<string, OwnNoise>; isWhole: boolean } {
  const { data } = useDesk();
  const planId = data.world.plan.id;
  const [all, setAll] = useState<[string, OwnNoise][] | null>(null);
  const { revision } = data;
  useEffect(() => {
    if (!isWanted) return;
    const stop = new AbortController();
    fetch(`/plans/${encodeURIComponent(planId)}/sectors-heard`, { signal: stop.signal })
      .then(async (response) => setAll(response.ok ? ((await response.json()) as [string, OwnNoise][]) : null))
      // The view says that it does not know.
      .catch(() => undefined);
    return () => stop.abort();
  }, [planId, isWanted, revision]);
  const heard = useMemo(() => (isWanted ? new Map([...(all ?? []), ...known]) : known), [isWanted, all, known]);
  return { heard, isWhole: !isWanted || all !== null };
}
