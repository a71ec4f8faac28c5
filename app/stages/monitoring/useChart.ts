import type { LinkChart } from "./kept";
import { useAnswer } from "../../ask/useAnswer";

/** A link's chart over the last days; asked for again when `stamp`, which names what is known, changes. */
export function useChart(planId: string, linkId: string | null, days: number, stamp: string) {
  const address = `/plans/${planId}/watch/links/${encodeURIComponent(linkId ?? "")}?days=${days}`;
  const { answer: chart, failed } = useAnswer<LinkChart>(linkId === null ? null : { address, of: [stamp] });
  return chart || failed ? { chart, problem: failed ?? "" } : null;
}
