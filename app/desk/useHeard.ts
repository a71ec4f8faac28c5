import type { OwnNoise } from "#core/link";
import { useEffect, useMemo, useState } from "react";

export type HeardBy = ReadonlyMap<string, { a: OwnNoise; b: OwnNoise }>;
const NOTHING: HeardBy = new Map();
/** Links asked for in one request. */
const MOST_ASKED = 100;

/**
 * What the ends of some kept links hear, as the server has worked it out: in a large plan nobody's window gathers it anew. Of a link
 * that is not kept, or in the moment before the answer, nothing is known.
 */
export function useHeard(planId: string, revision: number, linkIds: readonly string[]): HeardBy {
  const [known, setKnown] = useState<{ scope: string; heard: HeardBy }>({ scope: "", heard: NOTHING });
  const scope = `${planId} ${revision}`;
  const asked = linkIds.slice(0, MOST_ASKED).join("\n");
  useEffect(() => {
    if (asked === "") return;
    const stop = new AbortController();
    const query = asked
      .split("\n")
      .map((id) => `link=${encodeURIComponent(id)}`)
      .join("&");
    const ask = async () => {
      const response = await fetch(`/plans/${encodeURIComponent(planId)}/heard?${query}`, { signal: stop.signal });
      if (!response.ok) return;
      const rows = (await response.json()) as { linkId: string; a: OwnNoise; b: OwnNoise }[];
      const came = rows.map(({ linkId, a, b }) => [linkId, { a, b }] as const);
      setKnown((before) => ({ scope, heard: new Map([...(before.scope === scope ? before.heard : []), ...came]) }));
    };
    // Without an answer a link is shown without the others' noise until the next question.
    ask().catch(() => undefined);
    return () => stop.abort();
  }, [planId, scope, asked]);
  return useMemo(() => (known.scope === scope ? known.heard : NOTHING), [known, scope]);
}
