import { useEffect, useState } from "react";
import type { LinkChart } from "./kept";
import { said } from "../../ask/said";

/** A link's chart over the last days; asked for anew when what is known changes. */
export function useChart(planId: string, linkId: string | null, days: number, stamp: string) {
  const [found, setFound] = useState<{ key: string; chart: LinkChart | null; problem: string } | null>(null);
  const key = `${linkId} ${days}`;
  useEffect(() => {
    if (linkId === null) return;
    const leaving = new AbortController();
    fetch(`/plans/${planId}/watch/links/${encodeURIComponent(linkId)}?days=${days}`, { signal: leaving.signal })
      .then(async (response) =>
        setFound(
          response.ok
            ? { key, chart: (await response.json()) as LinkChart, problem: "" }
            : { key, chart: null, problem: await said(response) },
        ),
      )
      .catch(() => {
        if (!leaving.signal.aborted) setFound({ key, chart: null, problem: "Tejado does not answer; try again." });
      });
    return () => leaving.abort();
  }, [planId, linkId, days, stamp, key]);
  return found?.key === key ? found : null;
}
