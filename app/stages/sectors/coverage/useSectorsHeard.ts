import type { OwnNoise } from "#core/link";
import { useMemo } from "react";
import { useAnswer } from "../../../ask/useAnswer";
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
  const address = `/plans/${encodeURIComponent(data.world.plan.id)}/sectors-heard`;
  const { answer: all } = useAnswer<[string, OwnNoise][]>(isWanted ? { address, of: [data.revision] } : null);
  const heard = useMemo(() => (isWanted ? new Map([...(all ?? []), ...known]) : known), [isWanted, all, known]);
  return { heard, isWhole: !isWanted || all !== null };
}
