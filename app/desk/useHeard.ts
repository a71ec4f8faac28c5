import type { Hearing } from "#core/interference";
import { useEffect, useMemo, useState } from "react";
import type { HeardWire } from "#wire";
import { requestJson } from "../ask/request";

/** What ends of kept links hear: near ends by their radio, far ends by their link. */
export interface Heard {
  near: ReadonlyMap<string, Hearing>;
  far: ReadonlyMap<string, Hearing>;
}
export const NOTHING_HEARD: Heard = { near: new Map(), far: new Map() };
/** Links asked for in one request. */
const MOST_ASKED = 100;
/** Whoever got no answer asks again after this, ms. */
const AGAIN_MS = 2000;

/**
 * What the ends of some kept links hear, as the server has worked it out of `revision`: asked once for each link. Until the answer
 * is here, nothing is known of a link.
 */
export function useHeard(planId: string, revision: number, linkIds: readonly string[]): Heard {
  const scope = `${planId} ${revision}`;
  const [{ of, heard }, setHeard] = useState({ of: scope, heard: NOTHING_HEARD });
  const known = of === scope ? heard : NOTHING_HEARD;
  const [failures, setFailures] = useState(0);
  const missing = useMemo(() => linkIds.filter((id) => !known.far.has(id)).join("\n"), [linkIds, known]);
  useEffect(() => {
    if (missing === "") return;
    const stop = new AbortController();
    const ask = (ids: string[]) => {
      const query = ids.map((id) => `link=${encodeURIComponent(id)}`).join("&");
      const address = `/plans/${encodeURIComponent(planId)}/heard?${query}`;
      return requestJson<HeardWire>(address, { signal: stop.signal });
    };
    const all = async () => {
      const ids = missing.split("\n");
      const batches: string[][] = [];
      for (let i = 0; i < ids.length; i += MOST_ASKED) batches.push(ids.slice(i, i + MOST_ASKED));
      const came = await Promise.all(batches.map(ask));
      setHeard((before) => {
        const old = before.of === scope ? before.heard : NOTHING_HEARD;
        const near = new Map([...old.near, ...came.flatMap((one) => one.near)]);
        const far = new Map([...old.far, ...came.flatMap((one) => one.far)]);
        return { of: scope, heard: { near, far } };
      });
    };
    let again: ReturnType<typeof setTimeout> | undefined;
    // Without an answer the links stay as they were kept until one comes.
    all().catch(() => {
      if (!stop.signal.aborted) again = setTimeout(() => setFailures((before) => before + 1), AGAIN_MS);
    });
    return () => {
      clearTimeout(again);
      stop.abort();
    };
  }, [planId, scope, missing, failures]);
  return known;
}
